import { MOST_EXERCISES, PAPER_KINDS, type PaperKind, PracticeSet } from "@hound/core/paper";
import type { Help } from "@hound/core/practice";
import { SHIPPED_METERS } from "@hound/core/record";
import { useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { exercisesApi } from "../api/exercises.ts";
import { newId } from "../app/newId.ts";
import { newSeed } from "../app/newSeed.ts";
import { fileName, saveFile } from "../app/saveFile.ts";
import { useKept } from "../desk/useKept.ts";
import { CircuitChoice } from "../paper/CircuitChoice.tsx";
import { circuitOf, DRAWN } from "../paper/circuitOf.ts";
import { HelpChoice } from "./HelpChoice.tsx";

interface Line {
  /** `hunt`, or a kind on paper. */
  readonly what: string;
  readonly circuit: string;
  readonly help: Help;
}
interface Making {
  readonly name: string;
  readonly lines: readonly Line[];
}
const LINE: Line = { what: "hunt", circuit: "first three-lamps", help: "hints" };
const FIRST: Making = { name: "", lines: [LINE, { ...LINE, what: "relation", circuit: DRAWN }] };
const FIELD = "w-full rounded-lg border border-rule bg-paper px-3 py-2";

/** Makes a set: exercises in their order, each with its circuit and help; saved as a file, and kept here. */
export function SetMaker() {
  const { value: making, set, forget } = useKept<Making>("new set", FIRST);
  const [isOpen, setOpen] = useState(false);
  const [said, setSaid] = useState("");
  const queries = useQueryClient();
  const change = (at: number, to: Partial<Line>) =>
    set({ ...making, lines: making.lines.map((l, i) => (i === at ? { ...l, ...to } : l)) });
  const submit = async (event: FormEvent) => {
    event.preventDefault();
    setSaid("");
    try {
      if (making.name.trim() === "") throw new Error("the set needs a name");
      const exercises = await Promise.all(making.lines.map(exerciseOf));
      const made = PracticeSet.parse({ format: "clever-hound-set", version: 1, name: making.name, exercises });
      saveFile(JSON.stringify(made, null, 2), fileName(`set ${making.name}`, ".json"), "application/json");
      await exercisesApi.keepSet(newId(), made);
      await queries.invalidateQueries({ queryKey: ["sets"] });
      forget();
    } catch (error) {
      setSaid(`Not made: ${error instanceof Error ? error.message : String(error)}. What you chose is still here.`);
    }
  };
  return (
    <details
      className="rounded-xl border border-rule bg-sheet px-4 py-3"
      onToggle={(e) => setOpen((e.target as HTMLDetailsElement).open)}
    >
      <summary className="text-lg font-bold">Make a set to hand out</summary>
      <form onSubmit={submit} className="mt-3 flex flex-col gap-3">
        <label className="flex flex-col gap-1">
          Name of the set
          <input
            value={making.name}
            maxLength={200}
            autoComplete="off"
            className={FIELD}
            onChange={(e) => set({ ...making, name: e.target.value })}
          />
        </label>
        <ol className="flex flex-col gap-3">
          {making.lines.map((line, i) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: lines keep their place
            <li key={i} className="grid items-end gap-2 border-t border-rule pt-2 sm:grid-cols-[1fr_1fr_1fr_auto]">
              <label className="flex min-w-0 flex-col gap-1">
                Exercise {i + 1}
                <select value={line.what} className={FIELD} onChange={(e) => change(i, { what: e.target.value })}>
                  <option value="hunt">Hunt a fault</option>
                  {(Object.keys(PAPER_KINDS) as PaperKind[]).map((kind) => (
                    <option key={kind} value={kind}>
                      {PAPER_KINDS[kind].name}
                    </option>
                  ))}
                </select>
              </label>
              <CircuitChoice
                label="Circuit"
                value={line.circuit}
                isOpen={isOpen}
                onPick={(circuit) => change(i, { circuit })}
              />
              {line.what === "hunt" ? (
                <HelpChoice value={line.help} onPick={(help) => change(i, { help })} />
              ) : (
                <span />
              )}
              <button
                type="button"
                disabled={making.lines.length === 1}
                className="rounded-lg border border-rule px-3 py-2 hover:bg-band disabled:opacity-50"
                onClick={() => set({ ...making, lines: making.lines.filter((_, n) => n !== i) })}
              >
                Leave out
                <span className="sr-only"> exercise {i + 1}</span>
              </button>
            </li>
          ))}
        </ol>
        {said !== "" && (
          <p role="alert" className="text-wrong">
            {said}
          </p>
        )}
        <p className="flex flex-wrap gap-3">
          <button
            type="button"
            disabled={making.lines.length >= MOST_EXERCISES}
            className="rounded-lg border border-rule px-4 py-2 hover:bg-band"
            onClick={() => set({ ...making, lines: [...making.lines, making.lines[making.lines.length - 1]] })}
          >
            One more exercise
          </button>
          <button type="submit" className="rounded-lg bg-copper px-5 py-2 font-bold text-sheet">
            Save the set
          </button>
        </p>
      </form>
    </details>
  );
}

/** As a set's file has it; what is left out there is as usual. */
async function exerciseOf({ what, circuit, help }: Line) {
  const seed = newSeed();
  if (what === "hunt") return { what, ...(await circuitOf(circuit)), seed, help, meter: SHIPPED_METERS[0].meter };
  const kind = what as PaperKind;
  const own = circuit === DRAWN ? null : await circuitOf(circuit);
  const { name } = PAPER_KINDS[kind];
  return { what: "paper", kind, seed, title: own ? `${name} ${own.title}` : name, trail: own?.trail ?? null };
}
