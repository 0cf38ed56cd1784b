/** Nodes and weights of Gauss–Hermite quadrature for a standard normal (Abramowitz & Stegun, table 25.10, n = 5). */
const NODES = [-2.8569700138728056, -1.355626179974266, 0, 1.355626179974266, 2.8569700138728056];
const WEIGHTS = [
  0.01125741132772071, 0.22207592200561263, 0.5333333333333333, 0.22207592200561263, 0.01125741132772071,
];
const ROOT_2PI = Math.sqrt(2 * Math.PI);
/** Farther off than this many standard deviations an outlook has no say. */
const REACH = 8;

/** One way a reading may come out: its class (what would put it right), how likely, and what it would show. */
export interface Branching {
  readonly classes: ArrayLike<number>;
  readonly weights: ArrayLike<number>;
  readonly mean: ArrayLike<number>;
  readonly deviation: ArrayLike<number>;
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
 * drawn from way k. Ways of one class that would show the same are taken together first. O(ways²).
 */
export function worthOf(ways: Branching): Worth {
  const { classes, weights, mean, deviation, count } = merged(ways);
  const classCount = 1 + classes.subarray(0, count).reduce((most, c) => Math.max(most, c), -1);
  const share = new Float64Array(classCount);
  for (let k = 0; k < count; k += 1) share[classes[k]] += weights[k];
  const inClass = new Float64Array(classCount);
  let bits = 0;
  let settles = 0;
  for (let k = 0; k < count; k += 1) {
    if (weights[k] < 1e-6) continue;
    const own = classes[k];
    for (let q = 0; q < NODES.length; q += 1) {
      const v = mean[k] + deviation[k] * NODES[q];
      let all = 0;
      inClass.fill(0);
      for (let l = 0; l < count; l += 1) {
        const off = (v - mean[l]) / deviation[l];
        if (off > REACH || off < -REACH) continue;
        const density = (weights[l] * Math.exp(-0.5 * off * off)) / (deviation[l] * ROOT_2PI);
        all += density;
        inClass[classes[l]] += density;
      }
      if (!(inClass[own] > 0)) continue;
      const p = weights[k] * WEIGHTS[q];
      bits += p * Math.log2(inClass[own] / (share[own] * all));
      let most = 0;
      for (let c = 0; c < classCount; c += 1) if (inClass[c] > most) most = inClass[c];
      if (most >= SETTLED * all) settles += p;
    }
  }
  return { bits: Math.max(0, bits), settles };
}

/** Ways of one class that differ by less than a quarter of their spread are one. */
function merged({ classes, weights, mean, deviation }: Branching) {
  const K = classes.length;
  const out = {
    classes: new Int32Array(K),
    weights: new Float64Array(K),
    mean: new Float64Array(K),
    deviation: new Float64Array(K),
    count: 0,
  };
  const order = Array.from({ length: K }, (_, k) => k).sort(
    (a, b) => classes[a] - classes[b] || mean[a] - mean[b] || deviation[a] - deviation[b],
  );
  for (const k of order) {
    const last = out.count - 1;
    const isSame =
      last >= 0 &&
      out.classes[last] === classes[k] &&
      Math.abs(mean[k] - out.mean[last]) < 0.25 * Math.min(deviation[k], out.deviation[last]) &&
      deviation[k] < 1.25 * out.deviation[last] &&
      out.deviation[last] < 1.25 * deviation[k];
    if (isSame) {
      out.weights[last] += weights[k];
      continue;
    }
    out.classes[out.count] = classes[k];
    out.weights[out.count] = weights[k];
    out.mean[out.count] = mean[k];
    out.deviation[out.count] = deviation[k];
    out.count += 1;
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
