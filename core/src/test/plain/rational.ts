/** Exact fractions and Gaussian elimination over them: the plain truth that floating point is held against. */
export interface Rational {
  readonly n: bigint;
  readonly d: bigint;
}

/** The fraction a double stands for, exactly. */
export function rational(value: number): Rational {
  let d = 1n;
  let v = value;
  while (!Number.isInteger(v)) {
    v *= 2;
    d *= 2n;
  }
  return reduced(BigInt(v), d);
}

export function toNumber({ n, d }: Rational): number {
  // Scale so that the quotient keeps 60 significant bits.
  const shift = BigInt(Math.max(0, d.toString(2).length - abs(n).toString(2).length + 60));
  return Number((n << shift) / d) / 2 ** Number(shift);
}

export const add = (a: Rational, b: Rational) => reduced(a.n * b.d + b.n * a.d, a.d * b.d);
export const multiply = (a: Rational, b: Rational) => reduced(a.n * b.n, a.d * b.d);
const negative = ({ n, d }: Rational) => ({ n: -n, d });
const inverse = ({ n, d }: Rational) => (n < 0n ? { n: -d, d: -n } : { n: d, d: n });

/** Solves a square system exactly; null where it is singular. */
export function solveExactly(a: readonly (readonly Rational[])[], b: readonly Rational[]): Rational[] | null {
  const m = a.map((row, i) => [...row, b[i]]);
  const n = m.length;
  for (let col = 0; col < n; col += 1) {
    const pivot = m.findIndex((row, i) => i >= col && row[col].n !== 0n);
    if (pivot < 0) return null;
    [m[col], m[pivot]] = [m[pivot], m[col]];
    const scale = inverse(m[col][col]);
    m[col] = m[col].map((v) => multiply(v, scale));
    for (let row = 0; row < n; row += 1) {
      const factor = m[row][col];
      if (row === col || factor.n === 0n) continue;
      m[row] = m[row].map((v, k) => (m[col][k].n === 0n ? v : add(v, negative(multiply(factor, m[col][k])))));
    }
  }
  return m.map((row) => row[n]);
}

function reduced(n: bigint, d: bigint): Rational {
  const g = gcd(abs(n), d);
  return { n: n / g, d: d / g };
}

function abs(n: bigint): bigint {
  return n < 0n ? -n : n;
}

function gcd(a: bigint, b: bigint): bigint {
  let [x, y] = [a, b];
  while (y !== 0n) [x, y] = [y, x % y];
  return x === 0n ? 1n : x;
}
