/**
 * How readings move with parameters where one or two elements are changed. A reading moves with a parameter by lever ·
 * current, each per standard deviation; an element changed by a source s, with adjoint l, makes it
 * (lever + l·a)·(current + s·b), with a and b made of the coupling between element and parameter in the circuit without
 * the meter, and of what the meter adds.
 */
import { bytes, dot, get, gram, put } from "./linear";

/** Among more parameters than these, those that hardly move any reading are left out of sums. */
const MANY = 128;

let p: i32 = 0;
let elements: i32 = 0;
/** Readings × parameters: levers and currents, and by how much a meter's own reaction adds to either. */
let lever: usize = 0;
let current: usize = 0;
let leverByMeter: usize = 0;
let currentByMeter: usize = 0;
/** Readings × elements: how much the meter reacts to an element. Readings: in which setting. */
let reaction: usize = 0;
let setting: usize = 0;
/** Readings: sensitivities below this do not count. */
let least: usize = 0;
/** Settings × elements × parameters: couplings, as they act on levers and on currents. */
let onLever: usize = 0;
let onCurrent: usize = 0;

/** Says where the block of a network lies, in the order above. */
export function attendNetwork(at: usize, readings: i32, parameters: i32, elementCount: i32, settings: i32): void {
  p = parameters;
  elements = elementCount;
  const table = bytes(readings * parameters);
  lever = at;
  current = lever + table;
  leverByMeter = current + table;
  currentByMeter = leverByMeter + table;
  reaction = currentByMeter + table;
  setting = reaction + bytes(readings * elements);
  least = setting + bytes(readings);
  onLever = least + bytes(readings);
  onCurrent = onLever + bytes(settings * elements * parameters);
}

/** Variance of reading r by all parameters but the `skipped` four (−1: none). @param out room for its sensitivities */
export function variance(
  r: i32,
  changes: i32,
  e: i32,
  f: i32,
  s1: f64,
  s2: f64,
  l1: f64,
  l2: f64,
  skipped: usize,
  out: usize,
): f64 {
  moved(r, changes, e, f, s1, s2, l1, l2, skipped, out);
  return dot(out, out, p);
}

/**
 * Sensitivities of the first `rows` readings, rows × parameters.
 * @param source s and @param adjoint l of both changes in every reading, @param skipped four parameters a setting
 */
export function sensitivities(
  rows: i32,
  changes: i32,
  e: i32,
  f: i32,
  source: usize,
  adjoint: usize,
  skipped: usize,
  out: usize,
): void {
  for (let r = 0; r < rows; r += 1) {
    const k = 2 * r;
    const without = skipped + bytes(4 * <i32>get(setting, r));
    const at = out + bytes(r * p);
    moved(r, changes, e, f, get(source, k), get(source, k + 1), get(adjoint, k), get(adjoint, k + 1), without, at);
  }
}

/** The same, and J·Jᵀ of them as a packed lower triangle. @param j room for them */
export function covariance(
  rows: i32,
  changes: i32,
  e: i32,
  f: i32,
  source: usize,
  adjoint: usize,
  skipped: usize,
  j: usize,
  out: usize,
): void {
  sensitivities(rows, changes, e, f, source, adjoint, skipped, j);
  gram(j, rows, p > MANY ? withoutDust(j, rows, out) : p, out);
}

/** Closes up the columns that count in some row. @param flags room for one double a column @returns how many there are */
function withoutDust(j: usize, rows: i32, flags: usize): i32 {
  memory.fill(flags, 0, bytes(p));
  for (let r = 0; r < rows; r += 1) {
    const row = j + bytes(r * p);
    const enough = f64x2.splat(get(least, r));
    let at: usize = 0;
    for (const end = bytes(p) & ~15; at < end; at += 16) {
      const counts = f64x2.gt(f64x2.abs(v128.load(row + at)), enough);
      v128.store(flags + at, v128.or(v128.load(flags + at), counts));
    }
    if (p & 1 && abs<f64>(load<f64>(row + at)) > get(least, r)) store<u64>(flags + at, 1);
  }
  let count = 0;
  for (let k = 0; k < p; k += 1) {
    if (load<u64>(flags + bytes(k)) === 0) continue;
    // Columns are gathered by their number: never more of them than there were before.
    store<i32>(flags + ((<usize>count) << 2), k);
    count += 1;
  }
  for (let r = 0; r < rows; r += 1) {
    const from = j + bytes(r * p);
    const to = j + bytes(r * count);
    for (let c = 0; c < count; c += 1)
      store<f64>(to + bytes(c), load<f64>(from + bytes(load<i32>(flags + ((<usize>c) << 2)))));
  }
  return count;
}

function moved(
  r: i32,
  changes: i32,
  e: i32,
  f: i32,
  s1: f64,
  s2: f64,
  l1: f64,
  l2: f64,
  skipped: usize,
  out: usize,
): void {
  const row = bytes(r * p);
  const one = bytes((<i32>get(setting, r) * elements + e) * p);
  if (changes === 1) {
    const met = get(reaction, r * elements + e);
    underOne(row, one, s1, l1, s1 * met, l1 * met, out);
  } else {
    const two = bytes((<i32>get(setting, r) * elements + f) * p);
    const met1 = get(reaction, r * elements + e);
    const met2 = get(reaction, r * elements + f);
    underTwo(row, one, two, s1, s2, l1, l2, s1 * met1 + s2 * met2, l1 * met1 + l2 * met2, out);
  }
  for (let k = 0; k < 4; k += 1) {
    const place = <i32>get(skipped, k);
    if (place >= 0) put(out, place, 0);
  }
}

/** @param sm and lm: source and adjoint by which the meter reacts */
function underOne(row: usize, one: usize, s: f64, l: f64, sm: f64, lm: f64, out: usize): void {
  const vs = f64x2.splat(s);
  const vl = f64x2.splat(l);
  const vsm = f64x2.splat(sm);
  const vlm = f64x2.splat(lm);
  let at: usize = 0;
  const end = bytes(p) & ~15;
  for (; at < end; at += 16) {
    const left = f64x2.add(
      f64x2.add(v128.load(lever + row + at), f64x2.mul(vlm, v128.load(leverByMeter + row + at))),
      f64x2.mul(vl, v128.load(onLever + one + at)),
    );
    const right = f64x2.add(
      f64x2.add(v128.load(current + row + at), f64x2.mul(vsm, v128.load(currentByMeter + row + at))),
      f64x2.mul(vs, v128.load(onCurrent + one + at)),
    );
    v128.store(out + at, f64x2.mul(left, right));
  }
  if (p & 1) {
    const left =
      load<f64>(lever + row + at) + lm * load<f64>(leverByMeter + row + at) + l * load<f64>(onLever + one + at);
    const right =
      load<f64>(current + row + at) + sm * load<f64>(currentByMeter + row + at) + s * load<f64>(onCurrent + one + at);
    store<f64>(out + at, left * right);
  }
}

function underTwo(
  row: usize,
  one: usize,
  two: usize,
  s1: f64,
  s2: f64,
  l1: f64,
  l2: f64,
  sm: f64,
  lm: f64,
  out: usize,
): void {
  const vs1 = f64x2.splat(s1);
  const vs2 = f64x2.splat(s2);
  const vl1 = f64x2.splat(l1);
  const vl2 = f64x2.splat(l2);
  const vsm = f64x2.splat(sm);
  const vlm = f64x2.splat(lm);
  let at: usize = 0;
  const end = bytes(p) & ~15;
  for (; at < end; at += 16) {
    const left = f64x2.add(
      f64x2.add(v128.load(lever + row + at), f64x2.mul(vlm, v128.load(leverByMeter + row + at))),
      f64x2.add(f64x2.mul(vl1, v128.load(onLever + one + at)), f64x2.mul(vl2, v128.load(onLever + two + at))),
    );
    const right = f64x2.add(
      f64x2.add(v128.load(current + row + at), f64x2.mul(vsm, v128.load(currentByMeter + row + at))),
      f64x2.add(f64x2.mul(vs1, v128.load(onCurrent + one + at)), f64x2.mul(vs2, v128.load(onCurrent + two + at))),
    );
    v128.store(out + at, f64x2.mul(left, right));
  }
  if (p & 1) {
    const left =
      load<f64>(lever + row + at) +
      lm * load<f64>(leverByMeter + row + at) +
      (l1 * load<f64>(onLever + one + at) + l2 * load<f64>(onLever + two + at));
    const right =
      load<f64>(current + row + at) +
      sm * load<f64>(currentByMeter + row + at) +
      (s1 * load<f64>(onCurrent + one + at) + s2 * load<f64>(onCurrent + two + at));
    store<f64>(out + at, left * right);
  }
}
