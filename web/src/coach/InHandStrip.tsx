import { useDesk } from "../desk/DeskContext.tsx";
import { useCurrentSteps } from "../session/useCurrentSteps.ts";
import { branchWords, STEP_WORDS } from "../words/coach.ts";

/** In every stage: a branch is open, or a meter stands in it, and what is to be done about it. */
export function InHandStrip() {
  const { state } = useDesk();
  const steps = useCurrentSteps(state.job.standing, null);
  if (!steps?.isBegun) return null;
  const { through, at, done, next, tick } = steps;
  const says = branchWords({ through, done }) ?? `A current through ${through} is in hand.`;
  return (
    <section
      aria-label="In hand"
      className="flex flex-wrap items-center gap-3 border-b-2 border-doubt bg-sheet px-4 py-1.5"
    >
      <strong className="text-doubt">{says}</strong>
      {next && <span className="min-w-0 grow">Next: {STEP_WORDS[next](through, at, null)}.</span>}
      {next && next !== "read" && (
        <button type="button" className="rounded-lg border border-rule px-3 py-1 hover:bg-band" onClick={() => tick()}>
          Done
        </button>
      )}
    </section>
  );
}
