import type { Advice } from "@hound/core/coach";
import { CURRENT_STEPS } from "@hound/core/configuration";
import { Check } from "lucide-react";
import type { CurrentSteps } from "../session/useCurrentSteps.ts";
import { branchWords, STEP_WORDS } from "../words/coach.ts";

interface CurrentStepListProps {
  readonly steps: CurrentSteps;
  readonly advice: Advice | null;
  /** Only the one that comes next. */
  readonly isBrief?: boolean;
}

/** The steps of a current reading, ticked off one after the other. */
export function CurrentStepList({ steps, advice, isBrief = false }: CurrentStepListProps) {
  const { through, at, done, next, isBegun, tick, back } = steps;
  const own = advice?.open?.part === through ? advice : null;
  return (
    <div>
      <ol aria-label={`Current through ${through}, step by step`} className="flex flex-col gap-1">
        {CURRENT_STEPS.map((step, i) => (
          <li key={step} className={isBrief && step !== next ? "hidden" : ""}>
            <button
              type="button"
              disabled={step !== next || step === "read"}
              onClick={() => tick()}
              className={`flex w-full items-center gap-2 rounded-lg px-2 py-1 text-left ${step === next ? "border-2 border-copper font-bold" : ""} ${i < done ? "text-faint" : ""}`}
            >
              <span
                aria-hidden
                className="flex size-5 shrink-0 items-center justify-center rounded border border-field"
              >
                {i < done && <Check size={16} />}
              </span>
              <span className="min-w-0 grow">
                {i < done && <span className="sr-only">Done: </span>}
                {isBrief && `Step ${i + 1} of ${CURRENT_STEPS.length}: `}
                {STEP_WORDS[step](through, at, own)}
              </span>
              {step === next && step !== "read" && <kbd className="font-normal text-faint">Enter</kbd>}
            </button>
          </li>
        ))}
      </ol>
      {isBegun && (
        <p className="mt-1 flex flex-wrap items-center justify-between gap-2 text-doubt">
          {branchWords({ through, done })}
          <button
            type="button"
            className="rounded-lg border border-rule px-3 py-1 text-ink hover:bg-band"
            onClick={back}
          >
            One step back
          </button>
        </p>
      )}
    </div>
  );
}
