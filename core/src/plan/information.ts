import type { Outlook } from "./outlook.ts";

/** Nodes and weights of Gauss–Hermite quadrature for a standard normal (Abramowitz & Stegun, table 25.10, n = 5). */
const NODES = [-2.8569700138728056, -1.355626179974266, 0, 1.355626179974266, 2.8569700138728056];
const WEIGHTS = [
  0.01125741132772071, 0.22207592200561263, 0.5333333333333333, 0.22207592200561263, 0.01125741132772071,
];
const ROOT_2PI = Math.sqrt(2 * Math.PI);

/**
 * Expected drop of the entropy over groups, in bits, from one candidate reading: the mutual information between group
 * and reading, I = Σ_k p_k E[log₂ f_g(k)(v) / (p_g·f(v))], with v drawn from outlook k. O(outlooks²).
 */
export function informationOf(
  outlooks: readonly Outlook[],
  groups: Int32Array,
  candidate: number,
  weights: ArrayLike<number> = outlooks.map((o) => o.probability),
): number {
  const K = outlooks.length;
  const share = new Map<number, number>();
  for (let k = 0; k < K; k += 1) {
    const g = groups[outlooks[k].hypothesis];
    share.set(g, (share.get(g) ?? 0) + weights[k]);
  }
  let information = 0;
  for (let k = 0; k < K; k += 1) {
    if (weights[k] < 1e-6) continue;
    const own = groups[outlooks[k].hypothesis];
    for (let q = 0; q < NODES.length; q += 1) {
      const v = outlooks[k].mean[candidate] + outlooks[k].deviation[candidate] * NODES[q];
      let all = 0;
      let inGroup = 0;
      for (let l = 0; l < K; l += 1) {
        const s = outlooks[l].deviation[candidate];
        const off = (v - outlooks[l].mean[candidate]) / s;
        if (off > 8 || off < -8) continue;
        const density = (weights[l] * Math.exp(-0.5 * off * off)) / (s * ROOT_2PI);
        all += density;
        if (groups[outlooks[l].hypothesis] === own) inGroup += density;
      }
      if (inGroup > 0) information += weights[k] * WEIGHTS[q] * Math.log2(inGroup / ((share.get(own) as number) * all));
    }
  }
  return Math.max(0, information);
}

/** The same for a yes or no: the entropy of the answer, where each outlook answers for sure. */
export function informationOfAnswer(outlooks: readonly Outlook[], yes: (outlook: Outlook) => boolean): number {
  const p = outlooks.reduce((s, o) => s + (yes(o) ? o.probability : 0), 0);
  const part = (x: number) => (x > 0 ? -x * Math.log2(x) : 0);
  return part(p) + part(1 - p);
}

export function entropyOf(outlooks: readonly Outlook[], groups: Int32Array): number {
  const share = new Map<number, number>();
  for (const o of outlooks) {
    const g = groups[o.hypothesis];
    share.set(g, (share.get(g) ?? 0) + o.probability);
  }
  return [...share.values()].reduce((s, p) => s - p * Math.log2(p), 0);
}
