import { stepOf } from "@hound/core/record";
import { readSupposed } from "@hound/core/whatif";
import { type FormEvent, useState } from "react";
import { type Drawn, useDesk } from "../desk/DeskContext.tsx";
import { useKept } from "../desk/useKept.ts";
import type { Ranked } from "../ranking/useRanking.ts";
import { OUT_OF_DATE, repairRows } from "../session/suspectRows.ts";
import { percent } from "../words/quantities.ts";
import { foundWords, kindsOfParts, stepsWords } from "../words/repair.ts";
import { type RepairBench, repairedOf } from "./useRepairWork.ts";

interface ChooseRepairProps {
  readonly bench: RepairBench;
  readonly drawn: Drawn;
  readonly ranked: Ranked;
}

/** Repairs offered at once, and the least they must have. */
const OFFERED = { most: 4, least: 0.01 } as const;
const BUTTON = "shrink-0 rounded-lg border border-rule bg-sheet px-3 py-1.5 hover:bg-band";

/** What is repaired: offered from the ranking by repair, cause and consequence together, or typed. */
export function ChooseRepair({ bench, drawn, ranked }: ChooseRepairProps) {
  const { readings } = useDesk();
  const { work, mend } = bench;
  const ranking = ranked.ranking?.kind === "ranking" ? ranked.ranking : null;
  const kindOf = kindsOfParts(drawn.circuit);
  if (work)
    return (
      <section aria-label="What is repaired" className="rounded-xl border border-rule bg-sheet px-4 py-3">
        <div className="flex items-start gap-3">
          <h2 className="grow text-2xl font-bold">
            {mend.length > 0 ? `Repair: ${stepsWords(mend)}` : "Nothing to repair: prove that it is healthy"}
          </h2>
          <button type="button" className={BUTTON} onClick={bench.drop}>
            Choose again
          </button>
        </div>
        {work.faults.length > 0 && <p>{capital(foundWords(work.faults, kindOf))}.</p>}
        {mend.length > 0 && <Typed drawn={drawn} label="Something else as well" onFaults={bench.add} />}
      </section>
    );
  const rows = ranking ? repairRows(ranking, drawn.network) : [];
  const offered = rows.filter((r) => r.modes[0].suspect.faults.length > 0 && r.probability >= OFFERED.least);
  return (
    <section aria-label="What to repair" className="rounded-xl border border-rule bg-sheet px-4 py-3">
      <h2 className="text-2xl font-bold">What to repair</h2>
      {ranked.ranking?.kind === "problem" && <p className="text-wrong">{ranked.ranking.message}.</p>}
      <ul aria-busy={!ranked.isCurrent} className={`mt-2 flex flex-col gap-2 ${ranked.isCurrent ? "" : OUT_OF_DATE}`}>
        {offered.slice(0, OFFERED.most).map((row) => {
          const { faults } = row.modes[0].suspect;
          const steps = faults.map((f) => stepOf(repairedOf(f)));
          return (
            <li key={row.key} className="flex items-center gap-3 border-t border-rule pt-2 first:border-0 first:pt-0">
              <span className="min-w-0 grow">
                <span className="block text-lg font-bold">{row.modes[0].name}</span>
                {row.modes[0].suspect.consequence && (
                  <span className="block text-faint">Cause and consequence: both are replaced together.</span>
                )}
              </span>
              <span className="text-xl font-bold whitespace-nowrap">{percent(row.probability)}</span>
              <button
                type="button"
                className={BUTTON}
                onClick={() => bench.begin(faults.map(repairedOf), ranking, readings.length)}
              >
                Repair {stepsWords(steps)}
              </button>
            </li>
          );
        })}
      </ul>
      {offered.length === 0 && ranking && (
        <p className="text-faint">No suspect stands out: read on, or say what it is.</p>
      )}
      <Typed drawn={drawn} label="It is something else" onFaults={(f) => bench.begin(f, ranking, readings.length)} />
      <button type="button" className="mt-2 underline" onClick={() => bench.begin([], ranking, readings.length)}>
        Nothing is wrong with it: prove that
      </button>
    </section>
  );
}

interface TypedProps {
  readonly drawn: Drawn;
  readonly label: string;
  readonly onFaults: (faults: Parameters<RepairBench["add"]>[0]) => void;
}

/** A fault by its words: `R3 open`, `F1 blown`, `A~D bridged`. */
function Typed({ drawn, label, onFaults }: TypedProps) {
  const { state } = useDesk();
  const { value: text, set: setText, forget } = useKept(`${label} ${state.job.id}`, "");
  const [why, setWhy] = useState<string | null>(null);
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (text.trim() === "") return;
    const read = readSupposed(text, drawn.network);
    if (read.kind === "mistake") return setWhy(read.message);
    onFaults(read.faults.map((f) => ("nodes" in f ? { nodes: [...f.nodes], mode: "bridged" as const } : { ...f })));
    forget();
  };
  return (
    <form onSubmit={submit} className="mt-3 flex flex-wrap items-center gap-2">
      <label className="flex min-w-0 grow basis-72 items-center gap-2">
        <span className="shrink-0 text-faint">{label}</span>
        <input
          value={text}
          placeholder="R3 open"
          aria-invalid={why !== null}
          onChange={(e) => {
            setText(e.target.value);
            setWhy(null);
          }}
          size={8}
          className="w-0 min-w-24 grow rounded-lg border border-field bg-paper px-3 py-1.5 font-mono"
        />
      </label>
      <button type="submit" className={BUTTON}>
        Take it
      </button>
      {why && (
        <p role="alert" className="basis-full text-wrong">
          {why}
        </p>
      )}
    </form>
  );
}

const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);
