/**
 * Sums a Gaussian's density over the ways in which up to three readings could have been mis-taken. A scaled reading is
 * y/k under the same Gaussian, with the Jacobian 1/|k|; for a lost contact or anything else the density of the rest
 * comes from the precision matrix (leave-some-out residuals, as for one reading r̃ = [C⁻¹r]ᵢ/[C⁻¹]ᵢᵢ). Sets are grown
 * from the likeliest smaller ones.
 */
import { dot, factor, get, invertFactor, put } from "./linear";

const LOG_2PI: f64 = 1.8378770664093453;
/** Readings in the largest set that may be mis-taken at once. */
const MOST = 3;
/** Sets kept when they are enlarged. */
const KEPT = 4;
/** Slips by a factor −1, 1000 and 1/1000; and, counted after them, those that leave a reading without a say. */
const FACTORS = 3;
const UNRELATED = FACTORS;
const MILLI = 2;
/** How far below the best set one is dropped from those to be enlarged to two readings, and to three. */
const FAR_BELOW_OF_ONE: f64 = 16;
const FAR_BELOW_OF_TWO: f64 = 10;
/** Sets this far below the likeliest so far leave no trace in the sum. */
const TRACELESS: f64 = 30;
/** A slip is tried only where it brings the reading within this many standard deviations. */
const REACH: f64 = 7;
/** … and, among several mis-taken readings, where it is not this much less likely (as a logarithm) than an unrelated one. */
const UNLIKELY: f64 = 7;
/** A further mis-taken reading is not expected to gain more than this many times what the one before did. */
const HOPE: f64 = 3;
/** Bytes of a part of the mixture: its log weight, then for each reading of the set its number × 4 + kind, 65535 for none. */
const PART = 16;
const NOBODY: u16 = 65535;
/** Shares of slips too small to be told. */
const NOBODY_ASKS: f64 = 1e-12;

let m: i32 = 0;
/** What priors and displays make of every reading's slips; scalars: of a reading taken well, of all silent ones at once. */
let y: usize = 0;
let unrelated: usize = 0;
let coarse: usize = 0;
let shows: usize = 0;
let scaled: usize = 0;
let spoiled: usize = 0;
let spoiledCount: i32 = 0;
let logGood: f64 = 0;
let logSpoiled: f64 = 0;
/** Precision C⁻¹ (at first its diagonal only), C⁻¹·r, and L⁻ᵀ of the factor L of C. */
let precision: usize = 0;
let g: usize = 0;
let inverse: usize = 0;
/** Room to work. */
let work: usize = 0;
/** The set at hand, the kind of slip of each of its readings; its conditional covariance and residuals. */
let set: usize = 0;
let kinds: usize = 0;
let v: usize = 0;
let off: usize = 0;
let inner: usize = 0;
let away: usize = 0;
/** The likeliest sets of the size at hand, best first, and those of the size before. */
let frontWeight: usize = 0;
let frontSet: usize = 0;
let frontCount: i32 = 0;
let grownSet: usize = 0;
let grownCount: i32 = 0;
/** Parts of the mixture, and the largest weight among them. */
let parts: usize = 0;
let count: i32 = 0;
let top: f64 = 0;
let spoiledWeight: f64 = 0;
/** Log of the last mixture's density. */
let total: f64 = 0;

/** Log probability that all silent readings were spoiled together, under the last mixture. */
export function logShareOfSpoiled(): f64 {
  return spoiledWeight - total;
}

/** Probability of each slip (by a factor, or unrelated) of each reading under the last mixture, m × 4. */
export function slipShares(out: usize): void {
  memory.fill(out, 0, (<usize>(4 * m)) << 3);
  for (let k = 1; k < count; k += 1) {
    const at = parts + <usize>(k * PART);
    const share = Math.exp(load<f64>(at) - total);
    if (share < NOBODY_ASKS) continue;
    for (let s = 0; s < MOST; s += 1) {
      const one = load<u16>(at + 8 + ((<usize>s) << 1));
      if (one !== NOBODY) put(out, one, get(out, one) + share);
    }
  }
}

/** Reading number s of the likeliest set under the last mixture; −1 where it has fewer, −2 where all silent ones are it. */
export function likeliest(s: i32): i32 {
  let best = parts;
  for (let k = 1; k < count; k += 1) {
    const at = parts + <usize>(k * PART);
    if (load<f64>(at) > load<f64>(best)) best = at;
  }
  if (spoiledWeight > load<f64>(best)) return -2;
  const one = load<u16>(best + 8 + ((<usize>s) << 1));
  return one === NOBODY ? -1 : <i32>one >> 2;
}

/** Takes the memory from `at` on for mixtures of `readings`. @returns where it ends */
export function layOut(at: usize, readings: i32): usize {
  m = readings;
  const square = (<usize>(m * m)) << 3;
  precision = at;
  inverse = precision + square;
  work = inverse + square;
  g = work + square + ((<usize>m) << 3);
  set = g + ((<usize>m) << 3);
  kinds = set + 16;
  v = kinds + 16;
  off = v + 72;
  inner = off + 24;
  away = inner + 72;
  frontWeight = away + 24;
  frontSet = frontWeight + 8 * KEPT;
  grownSet = frontSet + 4 * KEPT * MOST;
  parts = grownSet + 4 * KEPT * MOST;
  // At most four sets are enlarged by each reading, and each of their readings slips in one of four ways.
  return parts + <usize>(PART * (1 + 4 * m * (1 + KEPT * 4 + KEPT * 16)));
}

/** Says where the constants of the readings are. */
export function attend(
  values: usize,
  logUnrelated: usize,
  coarseness: usize,
  showing: usize,
  logScaled: usize,
  silent: usize,
  silentCount: i32,
  good: f64,
  silence: f64,
): void {
  y = values;
  unrelated = logUnrelated;
  coarse = coarseness;
  shows = showing;
  scaled = logScaled;
  spoiled = silent;
  spoiledCount = silentCount;
  logGood = good;
  logSpoiled = silence;
}

/**
 * @param l Cholesky factor (leading dimension `stride`) of the readings' covariance, @param z L⁻¹·residuals,
 * @param logDensity of all readings taken well, @param most size of the largest set
 * @param floor log density below which nobody asks how small it is: sets are not enlarged where the step just made,
 * three times over for each that is left, would not reach it
 * @returns log of the mixture's density
 */
export function mix(l: usize, stride: i32, z: usize, logDensity: f64, most: i32, floor: f64): f64 {
  count = 0;
  spoiledWeight = -Infinity;
  top = -Infinity;
  addPart(logDensity + <f64>m * logGood, 0);
  if (most > 0) enlarge(l, stride, z, logDensity, most, floor);
  top = max(top, spoiledWeight);
  total = top;
  if (top === -Infinity) return top;
  let sum = Math.exp(spoiledWeight - top);
  for (let k = 0; k < count; k += 1) sum += Math.exp(load<f64>(parts + <usize>(k * PART)) - top);
  total = top + Math.log(sum);
  return total;
}

function enlarge(l: usize, stride: i32, z: usize, logDensity: f64, most: i32, floor: f64): void {
  invertFactor(l, stride, m, inverse);
  for (let i = 0; i < m; i += 1) {
    const skip = (<usize>i) << 3;
    const row = rowOf(i) + skip;
    put(g, i, dot(row, z + skip, m - i));
    put(precision, i * m + i, dot(row, row, m - i));
  }
  let best = top;
  frontCount = 0;
  for (let i = 0; i < m; i += 1) {
    member(0, i);
    offer(weighOne(i, logDensity), 1);
  }
  for (let size = 2; size <= most; size += 1) {
    const front = load<f64>(frontWeight);
    const step = max(0, front - best);
    best = max(best, front);
    if (size === 2 && spoiledCount > 0) weighSpoiled(logDensity);
    if (best + HOPE * <f64>(most - size + 1) * step + HOPE < floor) return;
    if (size === 2) fillPrecision();
    grow(best - (size === 2 ? FAR_BELOW_OF_ONE : FAR_BELOW_OF_TWO));
    for (let c = 0; c < grownCount; c += 1) {
      for (let i = 0; i < m; i += 1) {
        if (has(c, i, size - 1) || isRepeated(c, i, size - 1)) continue;
        for (let s = 0; s < size - 1; s += 1) member(s, grown(c, s));
        member(size - 1, i);
        offer(weighSeveral(size, logDensity), size);
      }
    }
  }
}

@inline
function rowOf(i: i32): usize {
  return inverse + ((<usize>(i * m)) << 3);
}

function precisionAt(i: i32, j: i32): f64 {
  const from = max(i, j);
  const skip = (<usize>from) << 3;
  return dot(rowOf(i) + skip, rowOf(j) + skip, m - from);
}

function fillPrecision(): void {
  for (let i = 1; i < m; i += 1) {
    for (let j = 0; j < i; j += 1) {
      const value = precisionAt(i, j);
      put(precision, i * m + j, value);
      put(precision, j * m + i, value);
    }
  }
}

function weighOne(i: i32, logDensity: f64): f64 {
  const p = get(precision, i * m + i);
  const residual = get(g, i) / p;
  const logRest =
    logDensity + 0.5 * (get(g, i) * residual + LOG_2PI - Math.log(p)) + <f64>(m - 1) * logGood;
  kind(0, UNRELATED);
  let best = logRest + get(unrelated, i);
  addPart(best, 1);
  for (let k = 0; k < FACTORS; k += 1) {
    if (get(shows, i * FACTORS + k) === 0) continue;
    const far = get(y, i) * inverseOf(k) - get(y, i) + residual;
    const spread = 1 / p + (k === MILLI ? get(coarse, i) : 0);
    if (far * far > REACH * REACH * spread) continue;
    const weight = logRest + get(scaled, k) - 0.5 * ((far * far) / spread + LOG_2PI + Math.log(spread));
    kind(0, k);
    addPart(weight, 1);
    best = max(best, weight);
  }
  return best;
}

function weighSeveral(n: i32, logDensity: f64): f64 {
  for (let a = 0; a < n; a += 1)
    for (let b = 0; b < n; b += 1) put(v, a * n + b, get(precision, memberOf(a) * m + memberOf(b)));
  const logDet = invertSmall(v, n);
  let quadratic: f64 = 0;
  for (let a = 0; a < n; a += 1) {
    let residual: f64 = 0;
    for (let b = 0; b < n; b += 1) residual += get(v, a * n + b) * get(g, memberOf(b));
    put(off, a, residual);
    quadratic += get(g, memberOf(a)) * residual;
  }
  return combine(n, 0, logDensity + 0.5 * (quadratic + <f64>n * LOG_2PI + logDet) + <f64>(m - n) * logGood);
}

/** Walks the combinations of slips for a set; returns the largest log weight. */
function combine(n: i32, at: i32, logSoFar: f64): f64 {
  if (at === n) {
    const weight = logSoFar + scaledDensity(n);
    addPart(weight, n);
    return weight;
  }
  const i = memberOf(at);
  kind(at, UNRELATED);
  let best = combine(n, at + 1, logSoFar + get(unrelated, i));
  for (let k = 0; k < FACTORS; k += 1) {
    if (get(shows, i * FACTORS + k) === 0) continue;
    const far = get(y, i) * inverseOf(k) - get(y, i) + get(off, at);
    const spread = get(v, at * n + at) + (k === MILLI ? get(coarse, i) : 0);
    if (far * far > REACH * REACH * spread) continue;
    const alone = get(scaled, k) - 0.5 * ((far * far) / spread + LOG_2PI + Math.log(spread));
    if (alone < get(unrelated, i) - UNLIKELY) continue;
    kind(at, k);
    best = max(best, combine(n, at + 1, logSoFar + get(scaled, k)));
  }
  return best;
}

/** Joint density of the readings of the set that were scaled, given those outside of it. */
function scaledDensity(n: i32): f64 {
  let few = 0;
  for (let a = 0; a < n; a += 1) {
    const k = kindOf(a);
    if (k === UNRELATED) continue;
    const i = memberOf(a);
    put(away, few, get(y, i) * inverseOf(k) - get(y, i) + get(off, a));
    few += 1;
  }
  if (few === 0) return 0;
  for (let a = 0, row = 0; a < n; a += 1) {
    if (kindOf(a) === UNRELATED) continue;
    for (let b = 0, column = 0; b < n; b += 1) {
      if (kindOf(b) === UNRELATED) continue;
      const more = a === b && kindOf(a) === MILLI ? get(coarse, memberOf(a)) : 0;
      put(inner, row * few + column, get(v, a * n + b) + more);
      column += 1;
    }
    row += 1;
  }
  const logDet = invertSmall(inner, few);
  let quadratic: f64 = 0;
  for (let a = 0; a < few; a += 1)
    for (let b = 0; b < few; b += 1) quadratic += get(away, a) * get(inner, a * few + b) * get(away, b);
  return -0.5 * quadratic + 0.5 * logDet - 0.5 * <f64>few * LOG_2PI;
}

/** All silent current readings left out at once, at the price of one blunder. */
function weighSpoiled(logDensity: f64): void {
  const n = spoiledCount;
  for (let a = 0; a < n; a += 1)
    for (let b = 0; b < n; b += 1)
      put(work, a * n + b, precisionAt(<i32>get(spoiled, a), <i32>get(spoiled, b)));
  factor(work, n);
  // gᵀ·P⁻¹·g by the factor: |L⁻¹·g|².
  let quadratic: f64 = 0;
  let halfLogDet: f64 = 0;
  const w = work + ((<usize>(n * n)) << 3);
  for (let a = 0; a < n; a += 1) {
    const root = get(work, a * n + a);
    const value = (get(g, <i32>get(spoiled, a)) - dot(work + ((<usize>(a * n)) << 3), w, a)) / root;
    put(w, a, value);
    quadratic += value * value;
    halfLogDet += Math.log(root);
  }
  const logRest = logDensity + 0.5 * (quadratic + <f64>n * LOG_2PI) - halfLogDet + <f64>(m - n) * logGood;
  spoiledWeight = logRest + logSpoiled;
}

function addPart(weight: f64, size: i32): void {
  if (size > 0 && weight < top - TRACELESS) return;
  top = max(top, weight);
  const at = parts + <usize>(count * PART);
  store<f64>(at, weight);
  for (let s = 0; s < MOST; s += 1)
    store<u16>(at + 8 + ((<usize>s) << 1), s < size ? <u16>(memberOf(s) * 4 + kindOf(s)) : NOBODY);
  count += 1;
}

/** Ranks the set at hand among the likeliest of its size. */
function offer(weight: f64, size: i32): void {
  if (frontCount === KEPT) {
    if (weight <= get(frontWeight, KEPT - 1)) return;
    frontCount -= 1;
  }
  let at = frontCount;
  for (; at > 0 && get(frontWeight, at - 1) < weight; at -= 1) {
    put(frontWeight, at, get(frontWeight, at - 1));
    for (let s = 0; s < MOST; s += 1) move(frontSet, at * MOST + s, frontSet, (at - 1) * MOST + s);
  }
  put(frontWeight, at, weight);
  for (let s = 0; s < size; s += 1) move(frontSet, at * MOST + s, set, s);
  frontCount += 1;
}

/** The likeliest sets become those to be enlarged, where they are above the floor. */
function grow(floor: f64): void {
  grownCount = 0;
  for (; grownCount < frontCount && get(frontWeight, grownCount) > floor; grownCount += 1)
    for (let s = 0; s < MOST; s += 1) move(grownSet, grownCount * MOST + s, frontSet, grownCount * MOST + s);
  frontCount = 0;
}

function has(c: i32, i: i32, size: i32): bool {
  for (let s = 0; s < size; s += 1) if (grown(c, s) === i) return true;
  return false;
}

/** True where an earlier set gives the same set when `i` joins the set numbered `c`. */
function isRepeated(c: i32, i: i32, size: i32): bool {
  for (let e = 0; e < c; e += 1) {
    if (!has(e, i, size)) continue;
    let same = true;
    for (let s = 0; s < size && same; s += 1) {
      const k = grown(e, s);
      same = k === i || has(c, k, size);
    }
    if (same) return true;
  }
  return false;
}

/** Inverts a symmetric positive matrix of order up to 3 in place. @returns the log determinant of the inverse */
function invertSmall(a: usize, n: i32): f64 {
  if (n === 1) {
    const pivot = max(get(a, 0), 1e-300);
    put(a, 0, 1 / pivot);
    return -Math.log(pivot);
  }
  if (n === 2) {
    const first = get(a, 0);
    const det = max(first * get(a, 3) - get(a, 1) * get(a, 2), 1e-300);
    put(a, 0, get(a, 3) / det);
    put(a, 3, first / det);
    put(a, 1, -get(a, 1) / det);
    put(a, 2, get(a, 1));
    return -Math.log(det);
  }
  const p = get(a, 0);
  const q = get(a, 1);
  const r = get(a, 2);
  const s = get(a, 4);
  const t = get(a, 5);
  const u = get(a, 8);
  const c0 = s * u - t * t;
  const c1 = r * t - q * u;
  const c2 = q * t - r * s;
  const det = max(p * c0 + q * c1 + r * c2, 1e-300);
  put(a, 0, c0 / det);
  put(a, 1, c1 / det);
  put(a, 2, c2 / det);
  put(a, 3, c1 / det);
  put(a, 4, (p * u - r * r) / det);
  put(a, 5, (q * r - p * t) / det);
  put(a, 6, c2 / det);
  put(a, 7, get(a, 5));
  put(a, 8, (p * s - q * q) / det);
  return -Math.log(det);
}

/** 1/k of a slip by a factor k. */
@inline
function inverseOf(k: i32): f64 {
  return k === 0 ? -1 : k === MILLI ? 1000 : 0.001;
}

@inline
function memberOf(s: i32): i32 {
  return load<i32>(set + ((<usize>s) << 2));
}

@inline
function member(s: i32, i: i32): void {
  store<i32>(set + ((<usize>s) << 2), i);
}

@inline
function kindOf(s: i32): i32 {
  return load<i32>(kinds + ((<usize>s) << 2));
}

@inline
function kind(s: i32, k: i32): void {
  store<i32>(kinds + ((<usize>s) << 2), k);
}

@inline
function grown(c: i32, s: i32): i32 {
  return load<i32>(grownSet + ((<usize>(c * MOST + s)) << 2));
}

@inline
function move(to: usize, at: i32, from: usize, place: i32): void {
  store<i32>(to + ((<usize>at) << 2), load<i32>(from + ((<usize>place) << 2)));
}
