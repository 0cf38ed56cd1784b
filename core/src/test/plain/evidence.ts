import type { Circuit } from "../../circuit/index.ts";
import type { NumericReading, Reading } from "../../record/index.ts";
import { type PlainDraw, type PlainFault, plainElements, plainLook } from "./bench.ts";

/** Densities of what is read and seen, the plain way: every sum of the model written out. */

const normal = (x: number, s: number) => Math.exp(-0.5 * (x / s) ** 2) / (s * Math.sqrt(2 * Math.PI));

/** Probability that a standard normal lies below t, by the trapezoidal rule. */
export function normalBelow(t: number): number {
  if (t < -8) return 0;
  if (t > 8) return 1;
  const steps = 400;
  let sum = 0;
  for (let k = 0; k <= steps; k += 1) sum += (k === 0 || k === steps ? 0.5 : 1) * normal((t * k) / steps, 1);
  return 0.5 + (sum * t) / steps;
}

/** Limit of a reading, as the model has it; `gain`: what of it is one factor for all readings of a range. */
export function plainError(r: NumericReading, accuracy: { percent: number; counts: number; offset: number }) {
  if (r.plusMinus !== undefined) return { own: (r.plusMinus + (r.wander ?? 0)) / 2, gain: 0 };
  const percentage = (accuracy.percent / 100) * Math.abs(r.value);
  const limit = percentage + accuracy.counts * (r.step as number) + accuracy.offset + (r.wander ?? 0);
  return { own: Math.sqrt(limit ** 2 - 0.8 * percentage ** 2) / 2, gain: (Math.sqrt(0.8) * accuracy.percent) / 200 };
}

export interface Slips {
  readonly blunder: number;
  readonly span: number;
  /** Standard deviation of the last digit, where a thousandth of what was shown was typed. */
  readonly rounding: number;
  /** That of the number as typed, had the display shown a k-th of it. */
  readonly sigmaAt: (k: number) => number;
  readonly isOhms: boolean;
}

/** Density of one reading round what the meter would show, every way of mis-taking it included. */
export function readingDensity(
  y: number,
  mu: number,
  sigma: number,
  { blunder, span, rounding, sigmaAt, isOhms }: Slips,
): number {
  // A reading of nothing has no sign, and a thousandth of it is as small.
  const isShown = (k: number) => (k === 1 / 1000 ? Math.abs(y) > rounding : Math.abs(y / k - y) > sigma);
  const scaled = (k: number, share: number) => (isShown(k) ? share * normal(y - mu * k, sigmaAt(k)) : 0);
  const slipped = scaled(-1, 0.4) + scaled(1000, 0.1) + scaled(1 / 1000, 0.1) + scaled(10, 0.05) + scaled(1 / 10, 0.05);
  const lost = isOhms ? 0 : 0.2 * normal(y, sigma);
  return (1 - blunder) * normal(y - mu, sigma) + blunder * (slipped + lost + 0.1 / span);
}

/** Probability of OL or of a beep: an ohmmeter without contact shows OL, another meter nothing. */
export function beyondProbability(r: NumericReading, mu: number, sigma: number, blunder: number): number {
  const over = normalBelow((mu - r.value) / sigma);
  const tail = r.beyond === "over" ? over : 1 - over;
  const lost = (r.quantity === "resistance") === (r.beyond === "over") ? 0.2 : 0;
  return (1 - blunder + 0.7 * blunder) * tail + blunder * (lost + 0.1 / 2);
}

/** Watts below which nothing flows. */
const LEAKS = 1e-15;

/** Probability of what was seen, given the faulted circuit. */
export function lookProbability(
  circuit: Circuit,
  look: Extract<Reading, { quantity: "observation" }>,
  settings: readonly Reading[],
  faults: readonly PlainFault[],
  draw: PlainDraw,
  blunder: number,
): number {
  const element = plainElements(circuit).find((e) => e.part.designator === look.part);
  if (!element) throw new Error(look.part);
  const { part, name } = element;
  const { watts, amps, isOpen } = plainLook(circuit, name, look.state ?? {}, look.alone ?? false, faults, draw);
  const states = [{}, ...settings.filter((r) => r.quantity !== "resistance").map((r) => r.state ?? {})];
  const most = Math.max(...states.map((s) => plainLook(circuit, name, s, false, [], { factor: {} }).watts));
  const rating = part.powerRating ?? most;
  /** Probability that the look is beyond the step at this share of the rating. */
  const beyond = (share: number, spread: number) =>
    // What leaks through an open switch lights nothing.
    watts > LEAKS ? normalBelow(Math.log(watts / (share * rating)) / spread) : 0;
  const isNew = look.state?.swapped?.includes(look.part) ?? false;
  const blows =
    isNew && part.kind === "fuse" && part.currentRating
      ? normalBelow(Math.log(Math.abs(amps) / (1.35 * part.currentRating)) / 0.2)
      : 0;
  const p: Partial<Record<typeof look.seen, number>> = {
    dark: 1 - beyond(0.02, 0.35),
    dim: beyond(0.02, 0.35) - beyond(0.4, 0.35),
    lit: beyond(0.4, 0.35) - beyond(1.3, 0.35),
    bright: beyond(1.3, 0.35),
    blown: isOpen ? 1 : blows,
    intact: isOpen ? 0 : 1 - blows,
    silent: 1 - beyond(0.4, 0.35),
    pulls: beyond(0.4, 0.35),
    cold: 1 - beyond(0.1, 0.5),
    hot: part.powerRating === undefined && part.kind !== "load" ? 1 : beyond(0.5, 0.5),
  };
  const found = p[look.seen];
  if (found === undefined) throw new Error(`no plain law for ${look.seen}`);
  return (1 - blunder) * found + blunder / 2;
}

/** How much likelier a fault makes it that a rated fuse, or a part at four times its power, opens: in its worst setting. */
export function plainRise(
  circuit: Circuit,
  readings: readonly Reading[],
  faults: readonly PlainFault[],
  victim: string,
): number {
  const states = [{}, ...readings.filter((r) => r.quantity !== "resistance").map((r) => r.state ?? {})];
  const part = circuit.parts.find((p) => p.designator === victim);
  if (!part) throw new Error(victim);
  const chance = (own: readonly PlainFault[]) =>
    Math.max(
      ...states.map((state) => {
        const { watts, amps } = plainLook(circuit, victim, state, false, own, { factor: {} });
        const load =
          part.kind === "fuse"
            ? Math.abs(amps) / (1.35 * (part.currentRating ?? Number.POSITIVE_INFINITY))
            : watts / (4 * (part.powerRating ?? Number.POSITIVE_INFINITY));
        return load > 0 ? normalBelow(Math.log(load) / 0.2) : 0;
      }),
    );
  return Math.max(0, chance(faults) - chance([]));
}
