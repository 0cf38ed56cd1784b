/**
 * Dense linear algebra in AssemblyScript, compiled to WebAssembly by `npm run kernels`. Pointers are byte offsets into
 * the one memory, matrices row-major doubles; who calls lays the memory out. Nothing is kept between calls.
 */

/** How much so many doubles take. */
export function bytes(count: i32): usize {
  return (<usize>count) << 3;
}

/** Element i of the doubles at p. */
export function get(p: usize, i: i32): f64 {
  return load<f64>(p + bytes(i));
}

export function put(p: usize, i: i32, value: f64): void {
  store<f64>(p + bytes(i), value);
}

/** Σ aᵢ·bᵢ */
export function dot(a: usize, b: usize, n: i32): f64 {
  let s = f64x2.splat(0);
  let t = f64x2.splat(0);
  const end = a + bytes(n & ~3);
  for (; a < end; a += 32, b += 32) {
    s = f64x2.add(s, f64x2.mul(v128.load(a), v128.load(b)));
    t = f64x2.add(t, f64x2.mul(v128.load(a, 16), v128.load(b, 16)));
  }
  s = f64x2.add(s, t);
  let sum = f64x2.extract_lane(s, 0) + f64x2.extract_lane(s, 1);
  for (let i = n & 3; i > 0; i -= 1, a += 8, b += 8) sum += load<f64>(a) * load<f64>(b);
  return sum;
}

/** y ← y + factor·x */
export function add(y: usize, x: usize, factor: f64, n: i32): void {
  const f = f64x2.splat(factor);
  const end = y + bytes(n & ~1);
  for (; y < end; y += 16, x += 16) v128.store(y, f64x2.add(v128.load(y), f64x2.mul(f, v128.load(x))));
  if (n & 1) store<f64>(y, load<f64>(y) + factor * load<f64>(x));
}

/** J·Jᵀ of an n × p matrix into a packed lower triangle, two rows by two at a time. */
export function gram(j: usize, n: i32, p: i32, out: usize): void {
  const row = bytes(p);
  for (let i = 0; i < n; i += 2) {
    const a0 = j + row * i;
    const isPair = i + 1 < n;
    const a1 = isPair ? a0 + row : a0;
    const out0 = out + ((<usize>(i * (i + 1))) << 2);
    const out1 = out0 + bytes(i + 1);
    for (let k = 0; k <= i; k += 2) {
      const b0 = j + row * k;
      const b1 = k < i || isPair ? b0 + row : b0;
      let s00 = f64x2.splat(0);
      let s01 = f64x2.splat(0);
      let s10 = f64x2.splat(0);
      let s11 = f64x2.splat(0);
      let at: usize = 0;
      for (const end = row & ~15; at < end; at += 16) {
        const x0 = v128.load(a0 + at);
        const x1 = v128.load(a1 + at);
        const y0 = v128.load(b0 + at);
        const y1 = v128.load(b1 + at);
        s00 = f64x2.add(s00, f64x2.mul(x0, y0));
        s01 = f64x2.add(s01, f64x2.mul(x0, y1));
        s10 = f64x2.add(s10, f64x2.mul(x1, y0));
        s11 = f64x2.add(s11, f64x2.mul(x1, y1));
      }
      let t00 = f64x2.extract_lane(s00, 0) + f64x2.extract_lane(s00, 1);
      let t01 = f64x2.extract_lane(s01, 0) + f64x2.extract_lane(s01, 1);
      let t10 = f64x2.extract_lane(s10, 0) + f64x2.extract_lane(s10, 1);
      let t11 = f64x2.extract_lane(s11, 0) + f64x2.extract_lane(s11, 1);
      if (row & 8) {
        const x0 = load<f64>(a0 + at);
        const x1 = load<f64>(a1 + at);
        const y0 = load<f64>(b0 + at);
        const y1 = load<f64>(b1 + at);
        t00 += x0 * y0;
        t01 += x0 * y1;
        t10 += x1 * y0;
        t11 += x1 * y1;
      }
      const column = bytes(k);
      store<f64>(out0 + column, t00);
      if (k < i) store<f64>(out0 + column, t01, 8);
      if (isPair) {
        store<f64>(out1 + column, t10);
        store<f64>(out1 + column, t11, 8);
      }
    }
  }
}

/**
 * Cholesky factor of a symmetric positive matrix, in place in its lower triangle. Pivots that rounding has made
 * non-positive are lifted to a tiny share of their diagonal. Golub & Van Loan, 4th ed., §4.2.
 */
export function factor(c: usize, n: i32): void {
  const row = bytes(n);
  for (let i = 0; i < n; i += 1) {
    const at = c + row * i;
    for (let k = 0; k < i; k += 1) {
      const column = c + row * k;
      const place = bytes(k);
      store<f64>(at + place, (load<f64>(at + place) - dot(at, column, k)) / load<f64>(column + place));
    }
    const place = at + bytes(i);
    const whole = load<f64>(place);
    const floor = whole * 1e-14;
    const left = whole - dot(at, at, i);
    store<f64>(place, sqrt<f64>(left > floor ? left : floor > 0 ? floor : 1e-300));
  }
}

/** L⁻ᵀ of the leading m × m of a factor of leading dimension `stride`, in the upper triangle of m × m. */
export function invertFactor(l: usize, stride: i32, m: i32, out: usize): void {
  const row = bytes(m);
  const lrow = bytes(stride);
  // Row j is column j of L⁻¹: solved along the rows of L, whose products run over what is there already.
  for (let j = 0; j < m; j += 1) {
    const column = out + row * j;
    const skip = bytes(j);
    store<f64>(column + skip, 1 / load<f64>(l + lrow * j + skip));
    for (let i = j + 1; i < m; i += 1) {
      const at = l + lrow * i;
      const place = bytes(i);
      store<f64>(column + place, -dot(at + skip, column + skip, i - j) / load<f64>(at + place));
    }
  }
}

/**
 * Inverts a dense square matrix by Gauss–Jordan elimination with partial pivoting, in place. Golub & Van Loan, 4th ed.,
 * §3.4.
 * @param swapped n integers, @param scale n doubles to work with
 * @returns -1 on success, else the column at which every pivot left is below `tolerance` times what it was made of
 */
export function invert(a: usize, n: i32, tolerance: f64, swapped: usize, scale: usize): i32 {
  const row = bytes(n);
  memory.fill(scale, 0, row);
  for (let at = a, end = a + row * n; at < end; at += row)
    for (let k: usize = 0; k < row; k += 8) {
      const size = abs<f64>(load<f64>(at + k));
      if (size > load<f64>(scale + k)) store<f64>(scale + k, size);
    }
  for (let col = 0; col < n; col += 1) {
    const place = bytes(col);
    let best = col;
    let size = abs<f64>(load<f64>(a + row * col + place));
    for (let r = col + 1; r < n; r += 1) {
      const other = abs<f64>(load<f64>(a + row * r + place));
      if (other > size) {
        size = other;
        best = r;
      }
    }
    if (!(size > tolerance * load<f64>(scale + place))) return col;
    store<i32>(swapped + ((<usize>col) << 2), best);
    const at = a + row * col;
    if (best !== col) swap(at, a + row * best, 8, n);
    const inverse = 1 / load<f64>(at + place);
    store<f64>(at + place, 1);
    for (let k: usize = 0; k < row; k += 8) store<f64>(at + k, load<f64>(at + k) * inverse);
    for (let r = 0; r < n; r += 1) {
      if (r === col) continue;
      const base = a + row * r;
      const factor = load<f64>(base + place);
      if (factor === 0) continue;
      store<f64>(base + place, 0);
      add(base, at, -factor, n);
    }
  }
  for (let col = n - 1; col >= 0; col -= 1) {
    const other = load<i32>(swapped + ((<usize>col) << 2));
    if (other !== col) swap(a + bytes(other), a + bytes(col), row, n);
  }
  return -1;
}

/** Inverts a symmetric positive matrix of order up to 3 in place. @returns the log determinant of the inverse */
export function invertSmall(a: usize, n: i32): f64 {
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

/** Exchanges n doubles, `step` bytes apart. */
function swap(x: usize, y: usize, step: usize, n: i32): void {
  for (; n > 0; n -= 1, x += step, y += step) {
    const held = load<f64>(x);
    store<f64>(x, load<f64>(y));
    store<f64>(y, held);
  }
}
