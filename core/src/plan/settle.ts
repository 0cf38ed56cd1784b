import { SETTLED, worthOf, worthOfAnswers } from "./information.ts";
import type { Offer, Plan } from "./plan.ts";
import { atOnce, type Steps } from "./steps.ts";

const MOST_READINGS = 8;
/** Continuations simulated, measurements tried at each step of one, and ways the circuit may be that take part. */
const CONTINUATIONS = 60;
const TRIED = 14;
const WAYS = 48;
/** Below this nothing is worth measuring any more. */
const WORTHWHILE = 0.02;
/** Share of the continuations in which the number told is enough. */
const ENOUGH = 0.88;

/** Uniform and standard normal numbers, such as a seeded generator gives. */
export interface Draws {
  next(): number;
  normal(): number;
}

/**
 * How many more readings should settle it: continuations are simulated in which the truth is drawn from the suspects,
 * the best of what is on offer is measured and the odds move, until one repair holds 95 %. Readings to come are taken as
 * independent given a suspect; none is taken twice.
 * @returns the number that was enough in nine of ten continuations: they know nothing of what tolerances share, so real jobs need it in about eight; null where measuring alone does not settle it
 */
export function* settleSteps({ outlooks, classes, offers }: Plan, draws: Draws): Steps<number | null> {
  const leading = [...outlooks.keys()].sort((a, b) => outlooks[b].probability - outlooks[a].probability).slice(0, WAYS);
  const total = leading.reduce((s, k) => s + outlooks[k].probability, 0);
  if (total === 0) return null;
  const ways = new Ways(
    leading.map((k) => classes[k]),
    (offer) => outcomesOf(offer, leading, outlooks),
  );
  const start = leading.map((k) => outlooks[k].probability / total);
  const tried = varied(offers);
  // All continuations begin with the same.
  const first = ways.best(tried, start);
  const counts: number[] = [];
  while (counts.length < CONTINUATIONS) {
    const truth = pick(start, draws);
    let weights = start;
    let left = tried;
    let count = 0;
    while (ways.largest(weights) < SETTLED) {
      yield;
      const best = count === 0 ? first : count < MOST_READINGS ? ways.best(left, weights) : null;
      if (!best) {
        count = Number.POSITIVE_INFINITY;
        break;
      }
      weights = ways.after(best, weights, truth, draws);
      left = left.filter((o) => o !== best);
      count += 1;
    }
    counts.push(count);
  }
  counts.sort((a, b) => a - b);
  const enough = counts[Math.ceil(CONTINUATIONS * ENOUGH) - 1];
  return Number.isFinite(enough) ? enough : null;
}

/** The same at once. */
export function readingsToSettle(plan: Plan, draws: Draws): number | null {
  return atOnce(settleSteps(plan, draws));
}

/** The best of each kind of place: offers that tell much now, and those that stand for other parts of the circuit. */
function varied(offers: readonly Offer[]): readonly Offer[] {
  const readings = offers.filter((o) => o.measurement.kind !== "swap" && o.informationBits > 0);
  const rate = (o: Offer) => o.informationBits / o.measurement.minutes;
  const byRate = [...readings].sort((a, b) => rate(b) - rate(a));
  const byBits = [...readings].sort((a, b) => b.informationBits - a.informationBits);
  return [...new Set([...byRate.slice(0, TRIED), ...byBits.slice(0, TRIED / 2)])];
}

type Outcomes =
  | { readonly kind: "reading"; readonly mean: Float64Array; readonly deviation: Float64Array }
  | { readonly kind: "answers"; readonly of: readonly Float64Array[] };

function outcomesOf({ outcome }: Offer, leading: readonly number[], outlooks: Plan["outlooks"]): Outcomes {
  if (outcome.kind === "answers")
    return { kind: "answers", of: outcome.of.map((chance) => Float64Array.from(leading, (k) => chance[k])) };
  const { at } = outcome;
  return {
    kind: "reading",
    mean: Float64Array.from(leading, (k) => outlooks[k].mean[at]),
    deviation: Float64Array.from(leading, (k) => outlooks[k].deviation[at]),
  };
}

/** The ways the circuit may be, and how odds among them move. */
class Ways {
  private readonly known = new Map<Offer, Outcomes>();

  constructor(
    private readonly classes: readonly number[],
    private readonly look: (offer: Offer) => Outcomes,
  ) {}

  largest(weights: readonly number[]): number {
    const sums = new Map<number, number>();
    this.classes.forEach((c, k) => {
      sums.set(c, (sums.get(c) ?? 0) + weights[k]);
    });
    return Math.max(...sums.values());
  }

  /** What tells most per minute; null where nothing tells enough. */
  best(offers: readonly Offer[], weights: readonly number[]): Offer | null {
    const live = [...weights.keys()].filter((k) => weights[k] > 1e-3);
    const at = (list: ArrayLike<number>) => live.map((k) => list[k]);
    const classes = at(this.classes);
    const own = at(weights);
    let best: Offer | null = null;
    let most = 0;
    for (const offer of offers) {
      const outcomes = this.of(offer);
      const { bits } =
        outcomes.kind === "reading"
          ? worthOf({ classes, weights: own, mean: at(outcomes.mean), deviation: at(outcomes.deviation) })
          : worthOfAnswers(classes, own, outcomes.of.map(at));
      if (bits > WORTHWHILE && bits / offer.measurement.minutes > most) {
        most = bits / offer.measurement.minutes;
        best = offer;
      }
    }
    return best;
  }

  /** Odds after a measurement came out as the truth has it. */
  after(offer: Offer, weights: readonly number[], truth: number, draws: Draws): number[] {
    const outcomes = this.of(offer);
    if (outcomes.kind === "answers") {
      const chance =
        outcomes.of[
          pick(
            outcomes.of.map((c) => c[truth]),
            draws,
          )
        ];
      return normalised(weights.map((w, k) => Math.log(Math.max(w * chance[k], 1e-300))));
    }
    const { mean, deviation } = outcomes;
    const shown = mean[truth] + deviation[truth] * draws.normal();
    return normalised(
      weights.map(
        (w, k) =>
          Math.log(Math.max(w, 1e-300)) - 0.5 * ((shown - mean[k]) / deviation[k]) ** 2 - Math.log(deviation[k]),
      ),
    );
  }

  private of(offer: Offer): Outcomes {
    const known = this.known.get(offer) ?? this.look(offer);
    this.known.set(offer, known);
    return known;
  }
}

function normalised(logs: readonly number[]): number[] {
  const top = Math.max(...logs);
  const masses = logs.map((l) => Math.exp(l - top));
  const sum = masses.reduce((s, m) => s + m, 0);
  return masses.map((m) => m / sum);
}

function pick(weights: readonly number[], draws: Draws): number {
  let left = draws.next() * weights.reduce((s, w) => s + w, 0);
  for (let k = 0; k < weights.length; k += 1) {
    left -= weights[k];
    if (left < 0) return k;
  }
  return 0;
}
