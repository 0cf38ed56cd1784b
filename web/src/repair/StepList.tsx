import { type ProofVerdict, stepsDone, type WorkStep } from "@hound/core/repair";
import { useDesk } from "../desk/DeskContext.tsx";
import { repairStepWords } from "../words/repair.ts";
import type { RepairBench } from "./useRepairWork.ts";

const NOTHING_YET = { done: [], checks: {} };

/** The steps of the repair, ticked off as they are done; what changes the circuit is noted with it. */
export function StepList({ bench, verdict }: { bench: RepairBench; verdict: ProofVerdict | null }) {
  const { state } = useDesk();
  const { complaint, standing } = state.job;
  const { steps, work } = bench;
  const done = stepsDone(steps, standing, work ?? NOTHING_YET, verdict?.kind === "repaired");
  const isDone = (step: WorkStep) => done.has(step.key);
  const next = steps.find((s) => !isDone(s));
  return (
    <section aria-label="Steps" className="rounded-xl border border-rule bg-sheet px-4 py-3">
      <h2 className="text-xl font-bold">Steps</h2>
      <ol className="mt-1 flex flex-col">
        {steps.map((step) => (
          <li key={step.key}>
            <label className="flex cursor-pointer items-start gap-3 py-1.5 text-lg">
              <input
                type="checkbox"
                checked={isDone(step)}
                // What the readings say is ticked by them.
                disabled={step.what.kind === "prove"}
                onChange={(e) => bench.tick(step, e.target.checked)}
                className="mt-1 size-6 shrink-0 accent-copper"
              />
              <span className={isDone(step) ? "text-faint line-through" : step === next ? "font-bold" : ""}>
                {repairStepWords(step, complaint)}
              </span>
            </label>
          </li>
        ))}
      </ol>
    </section>
  );
}
