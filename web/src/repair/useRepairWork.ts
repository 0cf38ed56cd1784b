import { afterChange, type ChangeOfCircuit } from "@hound/core/configuration";
import type { Ranking } from "@hound/core/rank";
import {
  type Closing,
  isMended,
  keyOfStep,
  type MendStep,
  type Repaired,
  RepairWork,
  type Said,
  stepOf,
} from "@hound/core/record";
import { repairSteps, type WorkStep } from "@hound/core/repair";
import { useMemo } from "react";
import { useNotice } from "../app/Notice.tsx";
import { type Drawn, useDesk } from "../desk/DeskContext.tsx";

/** The repair of a job: what is put right, and what is done of it. */
export interface RepairBench {
  readonly work: RepairWork | null;
  /** Parts to be replaced and bridges to be cleared; empty where nothing is. */
  readonly mend: readonly MendStep[];
  readonly steps: readonly WorkStep[];
  /** All of them are done: what is read from now on counts for the proof. */
  readonly isMended: boolean;
  /** Decides on a repair; what the ranking says at this moment goes with it. */
  readonly begin: (faults: readonly Repaired[], ranking: Ranking | null, readingCount: number) => void;
  /** Adds to what is repaired: the first was not all. */
  readonly add: (faults: readonly Repaired[]) => void;
  /** Goes back to before a repair was decided on. */
  readonly drop: () => void;
  readonly tick: (step: WorkStep, isDone: boolean) => void;
  readonly check: (part: string, shown: number | null) => void;
  readonly fitted: (part: string, what: string) => void;
  readonly close: (closing: Closing, finding: string) => void;
  readonly reopen: () => void;
}

/** What the ranking says that is kept: repairs, and suspects that mattered. */
const SAID = { repairs: 5, suspects: 12, least: 0.01 } as const;

export function useRepairWork(drawn: Drawn): RepairBench {
  const { desk, state } = useDesk();
  const notice = useNotice();
  const { work, standing } = state.job;
  const mend = useMemo(() => mendOf(work), [work]);
  const steps = useMemo(() => repairSteps(drawn.circuit, mend, standing), [drawn.circuit, mend, standing]);
  const undoable = (text: string) => notice({ text, action: { label: "Undo", run: () => desk.undo() } });
  const write = (change: Partial<RepairWork>) => RepairWork.parse({ ...work, ...change });
  return {
    work,
    mend,
    steps,
    isMended: mend.every((s) => isMended(s, standing)),
    begin: (faults, ranking, readingCount) => {
      const said = ranking && saidBy(ranking, readingCount);
      desk.step({ work: RepairWork.parse({ faults: [...faults], said }) }, "Back to before the repair");
    },
    add: (faults) => {
      const known = new Set(mend.map(keyOfStep));
      const more = faults.filter((f) => !known.has(keyOfStep(stepOf(f))));
      desk.step({ work: write({ faults: [...(work?.faults ?? []), ...more] }) }, "Taken out of the repair again");
    },
    drop: () => {
      desk.step({ work: null }, "The repair is there again");
      undoable("The repair is put aside");
    },
    tick: (step, isDone) => {
      const done = (work?.done ?? []).filter((key) => key !== step.key);
      const next = isDone ? [...done, step.key] : done;
      const change = step.change && (isDone ? step.change : takenBack(step.change));
      const fields = { work: write({ done: next }), ...(change ? { standing: afterChange(standing, change) } : {}) };
      desk.step(fields, isDone ? "Not done after all" : "Done after all");
    },
    check: (part, shown) => {
      const { [part]: _, ...others } = work?.checks ?? {};
      desk.step(
        { work: write({ checks: shown === null ? others : { ...others, [part]: shown } }) },
        "Check taken back",
      );
    },
    fitted: (part, what) => {
      const { [part]: _, ...others } = work?.fitted ?? {};
      desk.step({ work: write({ fitted: what === "" ? others : { ...others, [part]: what } }) }, "Put back");
    },
    close: (closing, finding) => {
      const ended = closing.outcome === "givenUp" ? "givenUp" : "solved";
      desk.step({ closing, finding, state: ended }, "The job is open again");
      undoable(closing.outcome === "givenUp" ? "Closed: given up" : "Closed");
    },
    reopen: () => {
      desk.step({ state: "open", closing: null }, "The job is closed again");
      undoable("The job is open again");
    },
  };
}

export function mendOf(work: RepairWork | null): readonly MendStep[] {
  const found = new Map((work?.faults ?? []).map((f) => [keyOfStep(stepOf(f)), stepOf(f)]));
  return [...found.values()];
}

/** Only what was put in or cleared is undone by its opposite; what was restored is done again by hand. */
function takenBack(change: ChangeOfCircuit): ChangeOfCircuit | null {
  if (change.change === "swapped") return { part: change.part, change: "restored" };
  if (change.change === "cleared") return { from: change.from, to: change.to, change: "restored" };
  return null;
}

function saidBy({ repairs, suspects }: Ranking, readings: number): Said {
  return {
    repairs: repairs.slice(0, SAID.repairs).map(({ repair, probability }) => ({
      repair: repair.map((s) => ("part" in s ? { part: s.part } : { nodes: [s.nodes[0], s.nodes[1]] })),
      probability,
    })),
    suspects: suspects
      .filter((s) => s.faults.length > 0 && s.probability >= SAID.least)
      .slice(0, SAID.suspects)
      .map(({ faults, probability }) => ({ faults: faults.map(repairedOf), probability })),
    readings,
  };
}

/** A suspect's fault as it is written up. */
export function repairedOf(fault: Ranking["suspects"][number]["faults"][number]): Repaired {
  if ("nodes" in fault) return { nodes: [...fault.nodes], mode: "bridged" };
  const { part, mode, value, belongs, at } = fault;
  const lead = belongs === undefined ? {} : { belongs, at };
  return { part, mode, ...lead, ...(value === undefined ? {} : { value: Number(value.toPrecision(4)) }) };
}
