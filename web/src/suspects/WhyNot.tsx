import type { Network } from "@hound/core/circuit";
import type { RankInput, Ranking } from "@hound/core/rank";
import { readSupposed, type Supposed, writeSupposed } from "@hound/core/whatif";
import { useMemo, useState } from "react";
import { supposedOf } from "../board/imagined.ts";
import { useDesk } from "../desk/DeskContext.tsx";
import { useKept } from "../desk/useKept.ts";
import { FitTable } from "../whatif/FitTable.tsx";
import { kindsIn, nameOfSuspect } from "../words/faults.ts";

interface QuestionProps {
  readonly input: RankInput;
  readonly ranking: Ranking;
  readonly network: Network;
}

/** “Why not X?”: any fault, and what speaks against it, beside the suspect that leads. */
export function WhyNot({ input, ranking, network }: QuestionProps) {
  const { state } = useDesk();
  const { value: text, set: setText } = useKept(`why not ${state.job.id}`, "");
  const read = useMemo(() => readSupposed(text, network), [text, network]);
  const leader = useMemo(() => {
    const [first] = ranking.suspects;
    return first ? supposedOf(first.faults) : null;
  }, [ranking]);
  const name = leader && (leader.length > 0 ? nameOfSuspect({ faults: leader }, kindsIn(network)) : "nothing wrong");
  return (
    <section aria-label="Why not?" className="rounded-lg border border-rule bg-sheet px-3 py-2">
      <label className="flex items-center gap-2 text-lg">
        <span className="shrink-0 font-bold">Why not</span>
        <input
          value={text}
          onChange={(e) => setText(e.target.value)}
          autoComplete="off"
          spellCheck={false}
          placeholder="R2 open"
          className="min-w-0 grow rounded border border-rule bg-paper px-2 py-1"
        />
        ?
      </label>
      {read.kind === "mistake" && <p className="mt-1 text-wrong">{read.message}</p>}
      {read.kind === "supposed" && read.faults.length > 0 && (
        <div className="mt-2">
          <FitTable
            input={input}
            supposed={read.faults}
            ranking={ranking}
            rival={leader ?? undefined}
            rivalName={name ?? undefined}
          />
        </div>
      )}
    </section>
  );
}

/** Two suspects side by side: each reading's say for the one rather than the other. */
export function CompareTwo({ input, ranking, network }: QuestionProps) {
  const options = useMemo(
    () =>
      // That nothing is wrong is always among them.
      ranking.suspects
        .filter((s, i) => i < 20 || s.faults.length === 0)
        .flatMap((s): { supposed: Supposed[]; name: string }[] => {
          const supposed = supposedOf(s.faults);
          if (!supposed) return [];
          const value = supposed.map((f) => writeSupposed(f, network)).join(", ");
          return [{ supposed, name: supposed.length === 0 ? "nothing wrong" : value }];
        }),
    [ranking, network],
  );
  const [chosen, setChosen] = useState<readonly [string | null, string | null]>([null, null]);
  const pick = (which: 0 | 1) => options.find((o) => o.name === chosen[which]) ?? options[which];
  const [one, two] = [pick(0), pick(1)];
  if (!one || !two) return null;
  const choose = (which: 0 | 1, name: string) =>
    setChosen(which === 0 ? [name, chosen[1] ?? two.name] : [chosen[0] ?? one.name, name]);
  return (
    <>
      <div className="my-2 flex flex-wrap items-center gap-2">
        {([0, 1] as const).map((which) => (
          <select
            key={which}
            aria-label={which === 0 ? "This one" : "beside this one"}
            value={(which === 0 ? one : two).name}
            onChange={(e) => choose(which, e.target.value)}
            className="max-w-full rounded border border-rule bg-paper px-2 py-1"
          >
            {options.map((o) => (
              <option key={o.name}>{o.name}</option>
            ))}
          </select>
        ))}
      </div>
      <FitTable input={input} supposed={one.supposed} ranking={ranking} rival={two.supposed} rivalName={two.name} />
    </>
  );
}
