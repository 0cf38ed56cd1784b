import type { Site } from "../../faults/index.ts";
import type { Prepared } from "../prepare.ts";

/**
 * All pairs of single faults by number, those first that could explain the readings best. Whatever two elements do,
 * they act through a source each, so that readings move within the plane a_i·σ_i + a_k·σ_k; how much of the residual's
 * χ² that plane can take away, with the priors, is the promise. An order only: nothing is left out for it.
 */
export function pairsByPromise({ prior, set, integrator, evidence }: Prepared): (readonly [number, number])[] {
  const m = evidence.measured;
  const { predictor } = integrator;
  const P = predictor.parameters.length;
  predictor.predict([], true);
  // Residuals and levers in units of their own spread: correlations matter little for an order.
  const scale = new Float64Array(m);
  const residual = new Float64Array(m);
  for (let r = 0; r < m; r += 1) {
    let variance = set.probes[r].error.own ** 2 + predictor.gains.between(r, r, predictor.y);
    for (let p = 0; p < P; p += 1) variance += predictor.j[r * P + p] ** 2;
    scale[r] = 1 / Math.sqrt(variance);
    residual[r] = Math.max(-1e3, Math.min(1e3, (set.probes[r].reading.value - predictor.y[r]) * scale[r]));
  }
  const E = set.elementCount;
  const levers = new Float64Array(E * m);
  for (let e = 0; e < E; e += 1) for (let r = 0; r < m; r += 1) levers[e * m + r] = set.probes[r].a[e] * scale[r];
  const product = (a: Float64Array, b: Float64Array) => {
    let sum = 0;
    for (let r = 0; r < m; r += 1) sum += a[r] * b[r];
    return sum;
  };
  const rows = Array.from({ length: E }, (_, e) => levers.subarray(e * m, e * m + m));
  const along = rows.map((row) => product(row, residual));
  const size = rows.map((row) => product(row, row));
  const gain = new Map<number, number>();
  const gainOf = (e: number, f: number) => {
    const key = Math.min(e, f) * E + Math.max(e, f);
    let known = gain.get(key);
    if (known === undefined) {
      const cross = product(rows[e], rows[f]);
      const det = size[e] * size[f] - cross * cross;
      const plane = size[f] * along[e] ** 2 - 2 * cross * along[e] * along[f] + size[e] * along[f] ** 2;
      const line = Math.max(size[e] > 0 ? along[e] ** 2 / size[e] : 0, size[f] > 0 ? along[f] ** 2 / size[f] : 0);
      known = det > 1e-9 * size[e] * size[f] ? plane / det : line;
      gain.set(key, known);
    }
    return known;
  };
  const element = ({ branch, bridge }: Site) => (branch >= 0 ? branch : set.branchCount + bridge);
  const n = prior.singles.length;
  const pairs: { readonly promise: number; readonly pair: readonly [number, number] }[] = [];
  for (let i = 0; i < n; i += 1) {
    for (let k = i + 1; k < n; k += 1) {
      if (!prior.canPair(i, k)) continue;
      const [a, b] = [prior.singles[i], prior.singles[k]];
      const promise = a.logPrior + b.logPrior + 0.5 * gainOf(element(a.sites[0]), element(b.sites[0]));
      pairs.push({ promise, pair: [i, k] });
    }
  }
  return pairs.sort((a, b) => b.promise - a.promise).map(({ pair }) => pair);
}
