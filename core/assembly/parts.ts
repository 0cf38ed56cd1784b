/** The parts of a mixture: in which readings were mis-taken, how, and with what weight. */
import { bytes, get, put } from "./linear";
import { kindOf, MOST, memberOf } from "./sets";

/** Slips by a factor; whatever else leaves a reading without a say is one more kind. */
export const FACTORS = 5;
/** Room for the kinds in the number of a slip. */
const KINDS = 8;
/** Parts this far below the likeliest so far leave no trace in the sum. */
const TRACELESS: f64 = 30;
/** Shares of slips too small to be told. */
const NOBODY_ASKS: f64 = 1e-12;
/** Bytes of a part: its log weight, then for each reading of the set its number × 8 + kind. */
const PART = 16;
const NOBODY: u16 = 65535;

let parts: usize = 0;
let count: i32 = 0;
/** The largest weight; that of all silent readings spoiled together; and the log of the sum. */
let top: f64 = 0;
let spoiled: f64 = 0;
let total: f64 = 0;

/** Takes the memory from `at` on for so many parts. @returns where it ends */
export function layOutParts(at: usize, most: i32): usize {
  parts = at;
  return parts + <usize>(PART * most);
}

export function clearParts(): void {
  count = 0;
  top = -Infinity;
  spoiled = -Infinity;
  total = 0;
}

/** Adds the set at hand, as large as it is. */
export function addPart(weight: f64, size: i32): void {
  if (size > 0 && weight < top - TRACELESS) return;
  top = max(top, weight);
  const at = partAt(count);
  store<f64>(at, weight);
  for (let s = 0; s < MOST; s += 1)
    store<u16>(slipAt(at, s), s < size ? <u16>(memberOf(s) * KINDS + kindOf(s)) : NOBODY);
  count += 1;
}

export function addSpoiled(weight: f64): void {
  spoiled = weight;
}

export function topOfParts(): f64 {
  return top;
}

/** Log of the sum of all parts. */
export function sumOfParts(): f64 {
  total = max(top, spoiled);
  if (total === -Infinity) return total;
  let sum = Math.exp(spoiled - total);
  for (let k = 0; k < count; k += 1) {
    const below = load<f64>(partAt(k)) - total;
    if (below > -TRACELESS) sum += Math.exp(below);
  }
  total += Math.log(sum);
  return total;
}

/** Log probability that all silent readings were spoiled together, under the last mixture. */
export function logShareOfSpoiled(): f64 {
  return spoiled - total;
}

/** Probability of each slip (by a factor, or unrelated) of each of m readings under the last mixture, m × 6. */
export function slipShares(m: i32, out: usize): void {
  const ways = FACTORS + 1;
  memory.fill(out, 0, bytes(ways * m));
  for (let k = 0; k < count; k += 1) {
    const part = partAt(k);
    const share = Math.exp(load<f64>(part) - total);
    if (share < NOBODY_ASKS) continue;
    for (let s = 0; s < MOST; s += 1) {
      const slip = load<u16>(slipAt(part, s));
      if (slip === NOBODY) continue;
      const at = <i32>(slip / KINDS) * ways + <i32>(slip % KINDS);
      put(out, at, get(out, at) + share);
    }
  }
}

/** Reading number s of the likeliest set under the last mixture; −1: it has fewer, −2: all silent ones are it. */
export function likeliest(s: i32): i32 {
  if (count === 0) return -1;
  let best = parts;
  for (let k = 1; k < count; k += 1) if (load<f64>(partAt(k)) > load<f64>(best)) best = partAt(k);
  if (spoiled > load<f64>(best)) return -2;
  const slip = load<u16>(slipAt(best, s));
  return slip === NOBODY ? -1 : <i32>(slip / KINDS);
}

function partAt(k: i32): usize {
  return parts + <usize>(k * PART);
}

function slipAt(part: usize, s: i32): usize {
  return part + 8 + ((<usize>s) << 1);
}
