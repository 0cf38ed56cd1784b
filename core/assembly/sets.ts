/** Sets of readings that may have been mis-taken: the one at hand, and the likeliest of its size and the size before. */
import { get, put } from "./linear";

/** Readings in the largest set. */
export const MOST: i32 = 3;
/** Sets kept when they are enlarged. */
export const KEPT: i32 = 4;

/** The set at hand, and how each of its readings was mis-taken: by a factor, or 3 where it has no say. */
let set: usize = 0;
let kinds: usize = 0;
/** The likeliest sets of the size at hand, best first, and those of the size before. */
let weights: usize = 0;
let front: usize = 0;
let frontCount: i32 = 0;
let grown: usize = 0;
let grownCount: i32 = 0;

/** Takes the memory from `at` on. @returns where it ends */
export function layOutSets(at: usize): usize {
  set = at;
  kinds = set + 16;
  weights = kinds + 16;
  front = weights + 8 * KEPT;
  grown = front + 4 * KEPT * MOST;
  return grown + 4 * KEPT * MOST;
}

export function memberOf(s: i32): i32 {
  return number(set, s);
}

export function member(s: i32, i: i32): void {
  write(set, s, i);
}

export function kindOf(s: i32): i32 {
  return number(kinds, s);
}

export function kind(s: i32, k: i32): void {
  write(kinds, s, k);
}

/** Begins with sets of another size: the likeliest that are above the floor become those to be enlarged. */
export function grow(floor: f64): void {
  grownCount = 0;
  for (; grownCount < frontCount && get(weights, grownCount) > floor; grownCount += 1)
    for (let s = 0; s < MOST; s += 1) write(grown, grownCount * MOST + s, number(front, grownCount * MOST + s));
  frontCount = 0;
}

/** How many there are to be enlarged, and reading s of the one numbered c. */
export function grownSets(): i32 {
  return grownCount;
}

export function grownMember(c: i32, s: i32): i32 {
  return number(grown, c * MOST + s);
}

/** Log weight of the likeliest set of the size at hand. */
export function frontTop(): f64 {
  return frontCount > 0 ? get(weights, 0) : -Infinity;
}

/** True where reading i is a set of one that is to be enlarged. */
export function isGrown(i: i32): bool {
  for (let c = 0; c < grownCount; c += 1) if (grownMember(c, 0) === i) return true;
  return false;
}

/** Ranks the set at hand among the likeliest of its size. */
export function offer(weight: f64, size: i32): void {
  if (frontCount === KEPT) {
    if (weight <= get(weights, KEPT - 1)) return;
    frontCount -= 1;
  }
  let at = frontCount;
  for (; at > 0 && get(weights, at - 1) < weight; at -= 1) {
    put(weights, at, get(weights, at - 1));
    for (let s = 0; s < MOST; s += 1) write(front, at * MOST + s, number(front, (at - 1) * MOST + s));
  }
  put(weights, at, weight);
  for (let s = 0; s < size; s += 1) write(front, at * MOST + s, memberOf(s));
  frontCount += 1;
}

/** True where reading i cannot join the set numbered c: it is in it, or an earlier one gives the same set. */
export function isKnown(c: i32, i: i32, size: i32): bool {
  if (has(c, i, size)) return true;
  for (let e = 0; e < c; e += 1) {
    if (!has(e, i, size)) continue;
    let same = true;
    for (let s = 0; s < size && same; s += 1) {
      const k = grownMember(e, s);
      same = k === i || has(c, k, size);
    }
    if (same) return true;
  }
  return false;
}

function has(c: i32, i: i32, size: i32): bool {
  for (let s = 0; s < size; s += 1) if (grownMember(c, s) === i) return true;
  return false;
}

function number(p: usize, i: i32): i32 {
  return load<i32>(p + ((<usize>i) << 2));
}

function write(p: usize, i: i32, value: i32): void {
  store<i32>(p + ((<usize>i) << 2), value);
}
