import { jointOf } from "@hound/core/coach";
import {
  type Configuration,
  CURRENT_STEPS,
  type CurrentStep,
  type InHand,
  nextStepOf,
  stepped,
} from "@hound/core/configuration";
import type { NumericReading } from "@hound/core/record";
import { useDesk } from "../desk/DeskContext.tsx";

/** A current reading step by step: what is in hand, or would be. */
export interface CurrentSteps {
  readonly through: string;
  readonly at: string;
  readonly done: number;
  readonly next: CurrentStep | null;
  /** True from the first tick on, until all is back. */
  readonly isBegun: boolean;
  /** Ticks the next step, or all up to one. */
  readonly tick: (step?: CurrentStep) => void;
  readonly back: () => void;
}

/** The branch in hand; where there is none, the one that a current is proposed or typed for. */
export function useCurrentSteps(standing: Configuration, point: NumericReading | null): CurrentSteps | null {
  const { desk, drawn } = useDesk();
  const { inHand } = standing;
  const joint = drawn && point?.quantity === "current" ? jointOf(drawn.network, point.through) : null;
  const own: InHand | null = inHand ?? (joint && { through: joint.part, at: joint.at, done: 0 });
  if (!own) return null;
  const to = (done: number) => desk.changeJob({ standing: stepped({ ...standing, inHand: own }, done) });
  return {
    through: own.through,
    at: own.at,
    done: own.done,
    next: nextStepOf(own),
    isBegun: inHand !== undefined,
    tick: (step) => to(step === undefined ? own.done + 1 : CURRENT_STEPS.indexOf(step) + 1),
    back: () => to(own.done - 1),
  };
}
