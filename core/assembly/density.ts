/** Density of all readings under a Gaussian prediction, mis-taken and censored readings included. */
import { add, bytes, dot, factor, get, put } from "./linear";
import { attend, LOG_2PI, layOut, mix } from "./mixture";
import { clearParts, FACTORS } from "./parts";

/**
 * Residuals beyond this many standard deviations count as this many. Left out, such a reading gives back what it took,
 * and the square of what it took must leave digits for the rest.
 */
const FARTHEST: f64 = 1e4;
const MOST_SPREADS: i32 = 4;

/** What the last density left: C's factor, residuals r, what does not count of them, their variances, and L⁻¹·r. */
let c: usize = 0;
let r: usize = 0;
let excess: usize = 0;
let marginal: usize = 0;
let z: usize = 0;
let w: usize = 0;
let vectors: usize = 0;
let weights: usize = 0;
/** DᵀC₀⁻¹D of the first two spreads of the last call: how many standard deviations each is long, squared. */
let size0: f64 = 0;
let size1: f64 = 0;

export function spreadSize(which: i32): f64 {
  return which === 0 ? size0 : size1;
}

/** Doubles that a call of `density` needs, from `at` on. */
export function roomOf(n: i32, m: i32, covariances: i32, spoiled: i32): i32 {
  const inputs =
    4 * n + (1 + 2 * FACTORS) * m + FACTORS + 6 + spoiled + (covariances * n * (n + 1)) / 2 + MOST_SPREADS * (n + 1);
  const work = <usize>(n * n + 5 * n + inputs);
  return <i32>(layOut(work << 3, m) >> 3) + 1;
}

/**
 * Log density of n readings, the first m measured, the rest censored, where the prediction has a mean and the average
 * of some packed lower triangles for covariance, plus the meters' own variance plus v·vᵀ·weight for each spread.
 * From `at` on lie: y (n), the meters' variances (n), to which side censored (n: above 0 over, below under; ±2 where a
 * lost contact shows just that), log density of an unrelated reading (m), what each factor adds to its variance (5m),
 * whether slips by a factor would show (5m), log prior of each of these (5), of a reading taken well, of all silent ones;
 * of a censored one the chances that it shows what is there, whatever a lost contact shows, and anything; whether there are
 * slips at all; the silent readings; mean (n), covariances, spreads (4n), their weights (4).
 * @param most how many readings may have been mis-taken at once
 * @param floor log density below which a rough answer will do
 */
export function density(
  at: usize,
  n: i32,
  m: i32,
  covariances: i32,
  spreads: i32,
  spoiledCount: i32,
  most: i32,
  floor: f64,
): f64 {
  const row = bytes(n);
  const measured = bytes(m);
  const y = at;
  const variance = y + row;
  const beyond = variance + row;
  const unrelated = beyond + row;
  const coarse = unrelated + measured;
  const shows = coarse + FACTORS * measured;
  const logScaled = shows + FACTORS * measured;
  const scalars = logScaled + bytes(FACTORS);
  const spoiled = scalars + 48;
  const mean = spoiled + bytes(spoiledCount);
  const packed = mean + row;
  vectors = packed + bytes((covariances * n * (n + 1)) / 2);
  weights = vectors + row * MOST_SPREADS;
  c = weights + MOST_SPREADS * 8;
  r = c + row * n;
  excess = r + row;
  marginal = excess + row;
  z = marginal + row;
  w = z + row;
  layOut(w + row, m);
  attend(
    y,
    r,
    excess,
    marginal,
    unrelated,
    coarse,
    shows,
    logScaled,
    spoiled,
    spoiledCount,
    get(scalars, 0),
    get(scalars, 1),
  );
  size0 = 0;
  size1 = 0;
  assemble(n, packed, covariances, variance, spreads);
  for (let i = 0; i < n; i += 1) {
    put(marginal, i, get(c, i * n + i));
    const farthest = FARTHEST * sqrt<f64>(get(marginal, i));
    const off = get(y, i) - get(mean, i);
    put(r, i, max(min(off, farthest), -farthest));
    put(excess, i, off - get(r, i));
  }
  factor(c, n);
  let halfLogDet: f64 = 0;
  let quadratic: f64 = 0;
  for (let i = 0; i < m; i += 1) {
    const root = get(c, i * n + i);
    const value = (get(r, i) - dot(c + row * i, z, i)) / root;
    put(z, i, value);
    quadratic += value * value;
    halfLogDet += Math.log(root);
  }
  clearParts();
  if (!(quadratic < Infinity)) return -Infinity;
  const plain = -0.5 * quadratic - halfLogDet - 0.5 * <f64>m * LOG_2PI;
  const isPossible = get(scalars, 5) !== 0;
  let logDensity = mix(c, n, z, plain, isPossible ? min(most, m) : 0, floor);
  for (let i = m; i < n; i += 1) logDensity += censored(i, n, m, get(mean, i), get(y, i), get(beyond, i), scalars);
  // Nobody splits a cell that does not count.
  if (logDensity > floor) {
    if (spreads > 0) size0 = sizeOf(0, n, m);
    if (spreads > 1) size1 = sizeOf(1, n, m);
  }
  return logDensity;
}

/** C in its lower triangle. */
function assemble(n: i32, packed: usize, covariances: i32, variance: usize, spreads: i32): void {
  const row = bytes(n);
  const size = bytes((n * (n + 1)) / 2);
  const share = 1 / <f64>covariances;
  for (let i = 0, from = packed; i < n; i += 1) {
    const at = c + row * i;
    memory.fill(at, 0, bytes(i) + 8);
    for (let k = 0; k < covariances; k += 1) add(at, from + size * k, share, i + 1);
    for (let s = 0; s < spreads; s += 1) add(at, vectors + row * s, get(vectors + row * s, i) * get(weights, s), i + 1);
    put(at, i, get(at, i) + get(variance, i));
    from += bytes(i) + 8;
  }
}

/** DᵀC₀⁻¹D from DᵀC⁻¹D, where C = C₀ + weight·DDᵀ (Sherman–Morrison). */
function sizeOf(which: i32, n: i32, m: i32): f64 {
  const row = bytes(n);
  const vector = vectors + row * which;
  let d: f64 = 0;
  for (let i = 0; i < m; i += 1) {
    const value = (get(vector, i) - dot(c + row * i, w, i)) / get(c, i * n + i);
    put(w, i, value);
    d += value * value;
  }
  return d / max(1 - get(weights, which) * d, 1e-12);
}

/** Log probability that a censored reading showed what it did, given the measured ones. */
function censored(i: i32, n: i32, m: i32, mean: f64, limit: f64, beyond: f64, scalars: usize): f64 {
  const at = c + bytes(i * n);
  const centre = mean + dot(at, z, m);
  const rest = at + bytes(m);
  const variance = dot(rest, rest, i - m + 1);
  const side: f64 = beyond > 0 ? 1 : -1;
  const tail = normalTail((side * (centre - limit)) / sqrt<f64>(variance));
  const lost = get(scalars, 4) + (abs<f64>(beyond) > 1 ? get(scalars, 3) : 0);
  return Math.log(get(scalars, 2) * tail + max(lost, 1e-300));
}

/** Probability that a standard normal lies below t. Abramowitz & Stegun 7.1.26 on erfc, |error| < 1.5e-7. */
export function normalTail(t: f64): f64 {
  const x = abs<f64>(t) / Math.SQRT2;
  const k = 1 / (1 + 0.3275911 * x);
  const erfc =
    k *
    (0.254829592 + k * (-0.284496736 + k * (1.421413741 + k * (-1.453152027 + k * 1.061405429)))) *
    Math.exp(-x * x);
  return t < 0 ? erfc / 2 : 1 - erfc / 2;
}
