import type { Circuit } from "@hound/core/circuit";
import { readTrail } from "@hound/core/notation";
import { type Hunt, type Marks, marksOf, worldOf } from "@hound/core/practice";
import type { Meter, Situation } from "@hound/core/record";

/** A hunt that is over, with the circuit and the meter that its job has. */
export interface Marked {
  readonly hunt: Hunt;
  readonly trail: string;
  readonly meter: Meter;
  readonly situation: Situation;
}
export type MarksAnswer = Marks | { readonly kind: "problem"; readonly why: string };

self.onmessage = ({ data }: MessageEvent<Marked>) => {
  self.postMessage(marked(data));
};

function marked({ hunt, trail, meter, situation }: Marked): MarksAnswer {
  const { circuit } = readTrail(trail);
  if (!circuit || !hunt.truth) return { kind: "problem", why: "the hunt is not over, or its circuit cannot be read" };
  const world = worldOf(circuit as Circuit, hunt.truth.faults, hunt.truth.seed, situation);
  if (typeof world === "string") return { kind: "problem", why: world };
  return marksOf(world, meter, hunt.acts, hunt.costs, hunt.noticed, hunt.namings);
}
