/** Nodes and weights of Gauss–Hermite quadrature for a standard normal (Abramowitz & Stegun, table 25.10, n = 5). */
const NODES = [-2.8569700138728056, -1.355626179974266, 0, 1.355626179974266, 2.8569700138728056];
const WEIGHTS = [
  0.01125741132772071, 0.22207592200561263, 0.5333333333333333, 0.22207592200561263, 0.01125741132772071,
];
const ROOT_2PI = Math.sqrt(2 * Math.PI);
/** Farther off than this many standard deviations an outlook has no say. */
const REACH = 6.5;

/** Fewer bits are rounding. */
const ROUNDING = 1e-6;

/** exp(−x²/2) for x from 0 to REACH; between its entries it runs straight, which is off by less than 1e-7. */
const STEPS = 8192;
const PER_UNIT = STEPS / REACH;
const BELL = Float64Array.from({ length: STEPS + 2 }, (_, i) => Math.exp(-0.5 * (i / PER_UNIT) ** 2));

/** One way a reading may come out: its class (what would put it right), how likely, and what it would show. */
export interface Branching {
  readonly classes: ArrayLike<number>;
  readonly weights: ArrayLike<number>;
  readonly mean: ArrayLike<number>;
  readonly deviation: ArrayLike<number>;
}

/** Classes by numbers from 0 on, one for each different one. */
export function classesOf(numbers: readonly number[]): Int32Array {
  const seen = new Map<number, number>();
  return Int32Array.from(numbers, (n) => {
    const known = seen.get(n) ?? seen.size;
    seen.set(n, known);
    return known;
  });
}

/** What a measurement is worth: expected drop of the entropy over classes, in bits, and how likely one class then holds enough. */
export interface Worth {
  readonly bits: number;
  readonly settles: number;
}

/** A job is settled when one class holds this much. */
export const SETTLED = 0.95;

/**
 * Worth of a reading: the mutual information between class and reading, I = Σ_k p_k E[log₂ f_c(k)(v) / (p_c·f(v))], with v
 * drawn from way k. Ways of one class that would show the same are taken together first. O(ways²) at most: ways out of reach
 * of each other are passed over.
 */
export function worthOf(ways: Branching): Worth {
  const { classes, weights, mean, deviation, height, precision, count, widest } = merged(ways);
  const classCount = 1 + classes.reduce((most, c) => Math.max(most, c), -1);
  const share = new Float64Array(classCount);
  for (let k = 0; k < count; k += 1) share[classes[k]] += weights[k];
  const inClass = new Float64Array(classCount);
  const touched = new Int32Array(classCount);
  let bits = 0;
  let settles = 0;
  // Ways are in the order of their means: those that may reach v are one stretch, which moves along with k.
  let first = 0;
  for (let k = 0; k < count; k += 1) {
    if (weights[k] < 1e-6) continue;
    const own = classes[k];
    const lowest = mean[k] + deviation[k] * NODES[0] - REACH * widest;
    const highest = mean[k] + deviation[k] * NODES[NODES.length - 1] + REACH * widest;
    while (first > 0 && mean[first - 1] >= lowest) first -= 1;
    while (first < count && mean[first] < lowest) first += 1;
    for (let q = 0; q < NODES.length; q += 1) {
      const v = mean[k] + deviation[k] * NODES[q];
      let all = 0;
      let touches = 0;
      for (let l = first; l < count && mean[l] <= highest; l += 1) {
        const at = Math.abs((v - mean[l]) * precision[l]) * PER_UNIT;
        if (!(at <= STEPS)) continue;
        const i = at | 0;
        const density = height[l] * (BELL[i] + (at - i) * (BELL[i + 1] - BELL[i]));
        all += density;
        const c = classes[l];
        if (inClass[c] === 0) touched[touches++] = c;
        inClass[c] += density;
      }
      let most = 0;
      const mine = inClass[own];
      for (let t = 0; t < touches; t += 1) {
        const c = touched[t];
        if (inClass[c] > most) most = inClass[c];
        inClass[c] = 0;
      }
      if (!(mine > 0)) continue;
      const p = weights[k] * WEIGHTS[q];
      bits += p * Math.log2(mine / (share[own] * all));
      if (most >= SETTLED * all) settles += p;
    }
  }
  return { bits: bits < ROUNDING ? 0 : bits, settles };
}

/** Ways of one class that differ by less than a quarter of their spread are one; all in the order of their means. */
function merged({ classes, weights, mean, deviation }: Branching) {
  const K = classes.length;
  const order = new Uint32Array(K);
  for (let k = 0; k < K; k += 1) order[k] = k;
  order.sort((a, b) => classes[a] - classes[b] || mean[a] - mean[b] || deviation[a] - deviation[b]);
  // Of each that is left its first way, and the weight of all.
  const kept = new Uint32Array(K);
  const sum = new Float64Array(K);
  let count = 0;
  for (let n = 0; n < K; n += 1) {
    const k = order[n];
    const last = kept[count - 1];
    const isSame =
      count > 0 &&
      classes[last] === classes[k] &&
      Math.abs(mean[k] - mean[last]) < 0.25 * Math.min(deviation[k], deviation[last]) &&
      deviation[k] < 1.25 * deviation[last] &&
      deviation[last] < 1.25 * deviation[k];
    if (!isSame) kept[count++] = k;
    sum[kept[count - 1]] += weights[k];
  }
  const left = kept.subarray(0, count).sort((a, b) => mean[a] - mean[b] || a - b);
  const out = {
    count,
    widest: 0,
    classes: new Int32Array(count),
    weights: new Float64Array(count),
    mean: new Float64Array(count),
    deviation: new Float64Array(count),
    /** Greatest density of each, and one over its deviation. */
    height: new Float64Array(count),
    precision: new Float64Array(count),
  };
  for (let n = 0; n < count; n += 1) {
    const k = left[n];
    out.classes[n] = classes[k];
    out.weights[n] = sum[k];
    out.mean[n] = mean[k];
    out.deviation[n] = deviation[k];
    out.height[n] = sum[k] / (deviation[k] * ROOT_2PI);
    out.precision[n] = 1 / deviation[k];
    if (deviation[k] > out.widest) out.widest = deviation[k];
  }
  return out;
}

/** The same for a question with few answers. @param chances probability of each answer, in each way */
export function worthOfAnswers(
  classes: ArrayLike<number>,
  weights: ArrayLike<number>,
  chances: readonly ArrayLike<number>[],
): Worth {
  const K = classes.length;
  const classCount = 1 + Math.max(-1, ...Array.from(classes));
  const share = new Float64Array(classCount);
  for (let k = 0; k < K; k += 1) share[classes[k]] += weights[k];
  let bits = 0;
  let settles = 0;
  for (const chance of chances) {
    const joint = new Float64Array(classCount);
    let all = 0;
    for (let k = 0; k < K; k += 1) {
      const p = weights[k] * chance[k];
      joint[classes[k]] += p;
      all += p;
    }
    let most = 0;
    for (let c = 0; c < classCount; c += 1) {
      if (joint[c] > 0) bits += joint[c] * Math.log2(joint[c] / (share[c] * all));
      if (joint[c] > most) most = joint[c];
    }
    if (all > 0 && most >= SETTLED * all) settles += all;
  }
  return { bits: Math.max(0, bits), settles };
}

/** Entropy over classes, in bits. */
export function entropyOf(classes: ArrayLike<number>, weights: ArrayLike<number>): number {
  const share = new Map<number, number>();
  for (let k = 0; k < classes.length; k += 1) share.set(classes[k], (share.get(classes[k]) ?? 0) + weights[k]);
  return [...share.values()].reduce((s, p) => (p > 0 ? s - p * Math.log2(p) : s), 0);
}
