/**
 * The precision C⁻¹ of the readings, and what leaving some of them out makes of the rest: their covariance, given all
 * others, is the inverse of their part of it, and gᵀ·(that inverse)·g, with g = C⁻¹·r, the χ² that goes with them.
 */
import { bytes, dot, get, invertFactor, invertSmall, put } from "./linear";
import { memberOf } from "./sets";

let m: i32 = 0;
/** C⁻¹, at first its diagonal only; g; and the covariance of the set at hand, given all other readings. */
export let precision: usize = 0;
export let g: usize = 0;
export let v: usize = 0;
/** L⁻ᵀ of the factor L of C. */
let inverse: usize = 0;

/** Takes the memory from `at` on. @returns where it ends */
export function layOutPrecision(at: usize, readings: i32): usize {
  m = readings;
  precision = at;
  inverse = precision + bytes(m * m);
  g = inverse + bytes(m * m);
  v = g + bytes(m);
  return v + bytes(9);
}

/** @param l Cholesky factor of C (leading dimension `stride`), @param z L⁻¹·r */
export function prepare(l: usize, stride: i32, z: usize): void {
  invertFactor(l, stride, m, inverse);
  for (let i = 0; i < m; i += 1) {
    const skip = bytes(i);
    const row = rowOf(i) + skip;
    put(g, i, dot(row, z + skip, m - i));
    put(precision, i * m + i, dot(row, row, m - i));
  }
}

/** All of C⁻¹. */
export function fillPrecision(): void {
  for (let i = 1; i < m; i += 1) {
    for (let j = 0; j < i; j += 1) {
      const value = precisionAt(i, j);
      put(precision, i * m + j, value);
      put(precision, j * m + i, value);
    }
  }
}

/** An element of C⁻¹, whether it is filled or not. */
export function precisionAt(i: i32, j: i32): f64 {
  const from = max(i, j);
  const skip = bytes(from);
  return dot(rowOf(i) + skip, rowOf(j) + skip, m - from);
}

/** Covariance of the set at hand, as large as it is, given all other readings. @returns its log determinant */
export function conditional(n: i32): f64 {
  for (let a = 0; a < n; a += 1)
    for (let b = 0; b < n; b += 1) put(v, a * n + b, get(precision, memberOf(a) * m + memberOf(b)));
  return invertSmall(v, n);
}

/** χ² that leaving one reading out takes away. */
export function gainOfOne(i: i32): f64 {
  return (get(g, i) * get(g, i)) / get(precision, i * m + i);
}

export function gainOfTwo(i: i32, j: i32): f64 {
  const pi = get(precision, i * m + i);
  const pj = get(precision, j * m + j);
  const both = get(precision, i * m + j);
  const gi = get(g, i);
  const gj = get(g, j);
  return (gi * gi * pj - 2 * gi * gj * both + gj * gj * pi) / max(pi * pj - both * both, 1e-300);
}

/** The same of the set of three at hand. */
export function gainOfThree(): f64 {
  conditional(3);
  let gain: f64 = 0;
  for (let a = 0; a < 3; a += 1)
    for (let b = 0; b < 3; b += 1) gain += get(g, memberOf(a)) * get(v, 3 * a + b) * get(g, memberOf(b));
  return gain;
}

function rowOf(i: i32): usize {
  return inverse + bytes(i * m);
}
