/**
 * Sums a Gaussian's density over the ways in which up to three readings could have been mis-taken. A scaled reading is
 * y/k under the same Gaussian, with the Jacobian 1/|k|; for a lost contact or anything else the density of the rest
 * comes from the precision matrix (leave-some-out residuals, as for one reading r̃ = [C⁻¹r]ᵢ/[C⁻¹]ᵢᵢ). Sets are grown
 * from the likeliest smaller ones.
 */
import { bytes, dot, factor, get, invertSmall, put } from "./linear";
import { addPart, addSpoiled, clearParts, FACTORS, layOutParts, sumOfParts, topOfParts } from "./parts";
import {
  conditional,
  fillPrecision,
  g,
  gainOfOne,
  gainOfThree,
  gainOfTwo,
  layOutPrecision,
  precision,
  precisionAt,
  prepare,
  v,
} from "./precision";
import {
  frontTop,
  grow,
  grownMember,
  grownSets,
  isGrown,
  isKnown,
  KEPT,
  kind,
  kindOf,
  layOutSets,
  member,
  memberOf,
  offer,
} from "./sets";

export const LOG_2PI: f64 = 1.8378770664093453;
/** Counted after the slips by a factor: those that leave a reading without a say. */
const UNRELATED = FACTORS;
/** Where slips of no particular kind are as good as ruled out (as a logarithm), others have to be looked for by what they promise. */
const RULED_OUT: f64 = -40;
/** How far below the best set one is dropped from those to be enlarged to two readings, and to three. */
const FAR_BELOW_OF_ONE: f64 = 16;
const FAR_BELOW_OF_TWO: f64 = 10;
/** A slip is tried only where it brings the reading within this many standard deviations. */
const REACH: f64 = 7;
/** … and, among several mis-taken ones, where it is not this much less likely (as a logarithm) than an unrelated one. */
const UNLIKELY: f64 = 6;
/** Three that hide each other are looked for among so many readings at most: among more, the others give them away. */
const FEW = 10;
/** Sets whose bound is so far below the likeliest (as a logarithm) are not weighed. */
const NOT_WEIGHED: f64 = 14;
/** A further mis-taken reading is not expected to gain more than this many times what the one before did. */
const HOPE: f64 = 3;

let m: i32 = 0;
/** Readings, their residuals, what does not count of these, their variances, and what priors and displays make of slips. */
let y: usize = 0;
let residuals: usize = 0;
let excess: usize = 0;
let marginal: usize = 0;
let unrelated: usize = 0;
let coarse: usize = 0;
let shows: usize = 0;
let scaled: usize = 0;
let spoiled: usize = 0;
let spoiledCount: i32 = 0;
let logGood: f64 = 0;
let logSpoiled: f64 = 0;
/** What a slip of each reading costs at least, as a χ²; and room to work. */
let cost: usize = 0;
let work: usize = 0;
/** Residuals of the set at hand, given all other readings; covariance and residuals of those of it that were scaled. */
let off: usize = 0;
let inner: usize = 0;
let away: usize = 0;

/** Takes the memory from `at` on for mixtures of `readings`. @returns where it ends */
export function layOut(at: usize, readings: i32): usize {
  m = readings;
  work = layOutPrecision(at, m);
  cost = work + bytes(m * m + m);
  off = cost + bytes(m);
  inner = off + bytes(3);
  away = inner + bytes(9);
  return layOutParts(layOutSets(away + bytes(3)), mostParts());
}

/** Every reading of a set slips in one of some ways: sets of one and two, and of three those grown or looked for. */
function mostParts(): i32 {
  const ways = FACTORS + 1;
  const pairs = (m * (m - 1)) / 2;
  const threes = KEPT * m + (m <= FEW ? (pairs * (m - 2)) / 3 : 0);
  return 1 + ways * m + ways * ways * pairs + ways * ways * ways * threes;
}

/** Says where the constants of the readings are. */
export function attend(
  values: usize,
  offs: usize,
  beyond: usize,
  marginals: usize,
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
  residuals = offs;
  excess = beyond;
  marginal = marginals;
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
 * @param floor log density below which nobody asks how small it is: sets are not enlarged where the step just made (by
 * one reading, or by two that hide each other), three times over for each that is left, would not reach it
 * @returns log of the mixture's density
 */
export function mix(l: usize, stride: i32, z: usize, logDensity: f64, most: i32, floor: f64): f64 {
  clearParts();
  addPart(logDensity + <f64>m * logGood, 0);
  if (most > 0) enlarge(l, stride, z, logDensity, most, floor);
  return sumOfParts();
}

function enlarge(l: usize, stride: i32, z: usize, logDensity: f64, most: i32, floor: f64): void {
  prepare(l, stride, z);
  let best = topOfParts();
  let isRuledOut = false;
  for (let i = 0; i < m && !isRuledOut; i += 1) isRuledOut = get(unrelated, i) < RULED_OUT;
  if (isRuledOut) for (let i = 0; i < m; i += 1) put(cost, i, costOf(i));
  grow(Infinity);
  for (let i = 0; i < m; i += 1) {
    member(0, i);
    offer(weighOne(i, logDensity), 1);
  }
  for (let size = 2; size <= most; size += 1) {
    let step = max(0, frontTop() - best);
    best = max(best, frontTop());
    grow(best - (size === 2 ? FAR_BELOW_OF_ONE : FAR_BELOW_OF_TWO));
    if (size === 2) {
      if (spoiledCount > 0) weighSpoiled(logDensity);
      fillPrecision();
      weighMaskedTwo(logDensity);
    } else if (m <= FEW) weighMaskedThree(logDensity);
    step = max(step, frontTop() - best);
    if (max(best, frontTop()) + HOPE * <f64>(most - size + 1) * step + HOPE < floor) return;
    for (let c = 0; c < grownSets(); c += 1) {
      for (let i = 0; i < m; i += 1) {
        if (isKnown(c, i, size - 1)) continue;
        for (let s = 0; s < size - 1; s += 1) member(s, grownMember(c, s));
        member(size - 1, i);
        offer(weighSeveral(size, logDensity), size);
      }
    }
  }
}

/**
 * Two readings may hide each other: left out alone, neither helps, and neither is among those to be enlarged. Weighs
 * every such pair that gains more by its second reading than a slip costs, whichever is the second.
 */
function weighMaskedTwo(logDensity: f64): void {
  for (let i = 0; i < m; i += 1) put(cost, i, costOf(i));
  for (let i = 1; i < m; i += 1) {
    for (let j = 0; j < i; j += 1) {
      const gain = gainOfTwo(i, j);
      put(work, i * m + j, gain);
      if (gain - gainOfOne(i) < get(cost, j) || gain - gainOfOne(j) < get(cost, i)) continue;
      if (isGrown(i) || isGrown(j)) continue;
      member(0, j);
      member(1, i);
      offer(weighSeveral(2, logDensity), 2);
    }
  }
}

/** What leaving reading i out or scaling it costs at least, as a χ²: by the slips that bring it near what it should be. */
function costOf(i: i32): f64 {
  let best = get(unrelated, i) + 0.5 * (LOG_2PI + Math.log(get(marginal, i)));
  for (let k = 0; k < FACTORS; k += 1) {
    if (get(shows, i * FACTORS + k) === 0) continue;
    const far = get(y, i) * inverseOf(k) - get(y, i) + get(residuals, i) + get(excess, i);
    const spread = widened(get(marginal, i), i, k);
    if (far * far > REACH * REACH * spread) continue;
    best = max(best, get(scaled, k) + 0.5 * Math.log(max(1, get(marginal, i) / spread)));
  }
  return 2 * (logGood - best);
}

/** The same for three, of which no two are among those to be enlarged. */
function weighMaskedThree(logDensity: f64): void {
  for (let i = 2; i < m; i += 1) {
    for (let j = 1; j < i; j += 1) {
      for (let k = 0; k < j; k += 1) {
        member(0, k);
        member(1, j);
        member(2, i);
        const gain = gainOfThree();
        if (gain - get(work, j * m + k) < get(cost, i)) continue;
        if (gain - get(work, i * m + k) < get(cost, j)) continue;
        if (gain - get(work, i * m + j) < get(cost, k)) continue;
        if (isEnlarged(i, j, k)) continue;
        offer(weighSeveral(3, logDensity), 3);
      }
    }
  }
}

function isEnlarged(i: i32, j: i32, k: i32): bool {
  for (let c = 0; c < grownSets(); c += 1) {
    const a = grownMember(c, 0);
    const b = grownMember(c, 1);
    if ((a === i || a === j || a === k) && (b === i || b === j || b === k)) return true;
  }
  return false;
}

function weighOne(i: i32, logDensity: f64): f64 {
  const p = get(precision, i * m + i);
  const residual = get(g, i) / p;
  const logRest = logDensity + 0.5 * (get(g, i) * residual + LOG_2PI - Math.log(p)) + <f64>(m - 1) * logGood;
  kind(0, UNRELATED);
  let best = logRest + get(unrelated, i);
  addPart(best, 1);
  for (let k = 0; k < FACTORS; k += 1) {
    if (get(shows, i * FACTORS + k) === 0) continue;
    const far = get(y, i) * inverseOf(k) - get(y, i) + residual + get(excess, i);
    const spread = widened(1 / p, i, k);
    if (far * far > REACH * REACH * spread) continue;
    const weight = logRest + get(scaled, k) - 0.5 * ((far * far) / spread + LOG_2PI + Math.log(spread));
    kind(0, k);
    addPart(weight, 1);
    best = max(best, weight);
  }
  // What the others that were mis-taken hide may still be one of several.
  return get(unrelated, i) < RULED_OUT ? max(best, boundOf(1, gainOfOne(i), logDensity)) : best;
}

/** @returns the largest log weight of the slips of the set at hand, or a bound of it where it leaves no trace */
function weighSeveral(n: i32, logDensity: f64): f64 {
  if (n === 2) {
    const bound = boundOf(2, gainOfTwo(memberOf(0), memberOf(1)), logDensity);
    if (bound < topOfParts() - NOT_WEIGHED) return bound;
  }
  const logDet = conditional(n);
  let quadratic: f64 = 0;
  for (let a = 0; a < n; a += 1) {
    let residual: f64 = 0;
    for (let b = 0; b < n; b += 1) residual += get(v, a * n + b) * get(g, memberOf(b));
    put(off, a, residual + get(excess, memberOf(a)));
    quadratic += get(g, memberOf(a)) * residual;
  }
  if (n > 2) {
    const bound = boundOf(n, quadratic, logDensity);
    if (bound < topOfParts() - NOT_WEIGHED) return bound;
  }
  const best = combine(n, 0, logDensity + 0.5 * (quadratic + <f64>n * LOG_2PI + logDet) + <f64>(m - n) * logGood);
  for (let a = 0; a < n; a += 1)
    if (get(unrelated, memberOf(a)) < RULED_OUT) return max(best, boundOf(n, quadratic, logDensity));
  return best;
}

/** Log weight at most of the set at hand, where leaving it out gains so much: |C| ≤ |C without it|·Π variances (Fischer). */
function boundOf(n: i32, gain: f64, logDensity: f64): f64 {
  let sum = gain;
  for (let a = 0; a < n; a += 1) sum -= get(cost, memberOf(a));
  return logDensity + <f64>m * logGood + 0.5 * sum;
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
    const spread = widened(get(v, at * n + at), i, k);
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
      const value = get(v, a * n + b);
      put(inner, row * few + column, a === b ? widened(value, memberOf(a), kindOf(a)) : value);
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
    for (let b = 0; b < n; b += 1) put(work, a * n + b, precisionAt(<i32>get(spoiled, a), <i32>get(spoiled, b)));
  factor(work, n);
  // gᵀ·P⁻¹·g by the factor: |L⁻¹·g|².
  let quadratic: f64 = 0;
  let halfLogDet: f64 = 0;
  const w = work + bytes(n * n);
  for (let a = 0; a < n; a += 1) {
    const root = get(work, a * n + a);
    const value = (get(g, <i32>get(spoiled, a)) - dot(work + bytes(a * n), w, a)) / root;
    put(w, a, value);
    quadratic += value * value;
    halfLogDet += Math.log(root);
  }
  const logRest = logDensity + 0.5 * (quadratic + <f64>n * LOG_2PI) - halfLogDet + <f64>(m - n) * logGood;
  addSpoiled(logRest + logSpoiled);
}

/** A variance of reading i with what the meter's error is of one that slipped by factor k: another than that of what was typed. */
function widened(variance: f64, i: i32, k: i32): f64 {
  return max(variance + get(coarse, i * FACTORS + k), variance * 1e-14);
}

/** 1/k of a slip by a factor k: −1, 1000, 1/1000, 10, 1/10. */
function inverseOf(k: i32): f64 {
  switch (k) {
    case 0:
      return -1;
    case 1:
      return 0.001;
    case 2:
      return 1000;
    case 3:
      return 0.1;
    default:
      return 10;
  }
}
