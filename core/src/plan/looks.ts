import { type Configuration, isSameState } from "../configuration/index.ts";
import type { Observation, RankInput, Weighing } from "../rank/index.ts";
import { takenSo } from "../record/index.ts";
import { looksAt, type Measurement } from "./candidates.ts";

/** A look may be taken again once: the eye may have been mistaken. */
const LOOKS_AT_MOST = 2;

/** What might be seen: every answer of every look on offer that was not told as often already. */
export function looksFor(
  { readings }: RankInput,
  { prepared }: Weighing,
  measurements: readonly Measurement[],
  standing: Configuration,
): { readonly flat: readonly Observation[]; readonly of: (m: Measurement) => readonly number[] } {
  const flat: Observation[] = [];
  const places = new Map<Measurement, number[]>();
  for (const measurement of measurements) {
    if (measurement.kind !== "look" && measurement.kind !== "alone") continue;
    const { part } = measurement;
    const kind = prepared.network.branches.find((b) => b.part.designator === part)?.kind;
    const alone = measurement.kind === "alone" ? { alone: true } : {};
    const answers = ((kind && looksAt(kind)) ?? []).map((seen) =>
      takenSo({ quantity: "observation", part, seen, ...alone } as Observation, standing),
    );
    const told = readings.filter(
      (r) =>
        r.quantity === "observation" &&
        r.part === part &&
        Boolean(r.alone) === Boolean(answers[0]?.alone) &&
        isSameState(r.state, answers[0]?.state),
    );
    if (told.length < LOOKS_AT_MOST)
      places.set(
        measurement,
        answers.map((a) => flat.push(a) - 1),
      );
  }
  return { flat, of: (m) => places.get(m) ?? [] };
}
