import type { PlainJunction } from "./curves.ts";

/** Networks the plain way: every law in one matrix, solved by elimination, again and again until all that bends rests. */

/** v = e + r·i, or no current at all, or a filament that follows its voltage. */
export type PlainLaw =
  | { readonly r: number; readonly e: number; readonly limit?: number }
  | { readonly open: true }
  | { readonly hot: number; readonly cold: number; readonly volts: number }
  | PlainJunction;

export const ohmic = (r: number): PlainLaw => ({ r, e: 0 });
/** Ohms of a contact that is apart. */
export const APART = 1e12;

export interface Wire {
  from: string;
  to: string;
  law: PlainLaw;
  /** Of a contact: the wire of its coil, and at which amperes it moves. */
  follows?: { readonly coil: number; readonly closes: boolean; readonly pulls: number; readonly drops: number };
}

export function addOhms(wire: Wire, ohms: number) {
  if ("r" in wire.law) wire.law = { ...wire.law, r: wire.law.r + ohms };
  else if ("hot" in wire.law) wire.law = { ...wire.law, series: ohms } as PlainLaw;
  else if ("curve" in wire.law) wire.law = { ...wire.law, inside: wire.law.inside + ohms };
}

/** How much softer knees are at first, and so on until they are as they are: continuation. */
const SOFT = [60, 12, 4, 1.7, 1];
/** So many rounds from where a network much like it came to rest, with knees as they are; else all of it from the start. */
const NEAR_ROUNDS = 40;
const MOST_ROUNDS = 2000;

/** Volts across each wire's own curve where it last came to rest. All laws rise: there is one rest, wherever one begins. */
export interface LastRest {
  across?: readonly number[];
}

/** From where nothing is pulled in each contact goes where its coil puts it, until none moves. */
export function settle(
  reference: string,
  wires: readonly Wire[],
  injected: readonly [string, string] | readonly string[] | null,
  sent = 1,
  last: LastRest = {},
) {
  let pulled = wires.map(() => false);
  const changes = wires.map(() => 0);
  for (;;) {
    const found = settleWith(reference, standing(wires, pulled), injected, sent, last);
    const next = wires.map(({ follows }, k) => follows !== undefined && moves(follows, pulled[k], found.amps));
    let isAtRest = true;
    pulled = pulled.map((is, k) => {
      // One that changes for ever buzzes: it counts as let go.
      if (next[k] === is || changes[k] > 8) return is;
      isAtRest = false;
      changes[k] += 1;
      return changes[k] > 8 ? false : next[k];
    });
    if (isAtRest) return found;
  }
}

type Follows = NonNullable<Wire["follows"]>;

export function moves({ coil, pulls, drops }: Follows, pulled: boolean, amps: readonly number[]): boolean {
  const now = Math.abs(amps[coil]);
  return now >= pulls || (pulled && now >= drops);
}

/** The wires with each contact closed or open. */
export function standing(wires: readonly Wire[], pulled: readonly boolean[]): Wire[] {
  return wires.map((w, k) => (w.follows && w.follows.closes !== pulled[k] ? { ...w, law: ohmic(APART) } : w));
}

/** Solves for every set of supplies that may be at their limit, until what bends has settled; the set that holds is it. */
export function settleWith(
  reference: string,
  wires: readonly Wire[],
  injected: readonly [string, string] | readonly string[] | null,
  sent = 1,
  last: LastRest = {},
) {
  const names = [...new Set([reference, ...wires.flatMap((w) => [w.from, w.to]), ...(injected ?? [])])];
  const at = new Map(names.map((n, i) => [n, i]));
  const ends = wires.map(({ from, to }) => ({ from: at.get(from) as number, to: at.get(to) as number }));
  const limited = wires.flatMap(({ law }, k) => ("limit" in law && law.limit !== undefined ? [k] : []));
  const softs = wires.some(({ law }) => "curve" in law) ? SOFT : [1];
  const solvedWith = (held: ReadonlySet<number>) => {
    const hot = wires.map(({ law }) => ("hot" in law ? law.hot : 0));
    let across = wires.map(() => 0);
    let x: number[] = [];
    /** @returns whether nothing moves any more */
    const comesToRest = (soft: number, rounds: number): boolean => {
      for (let round = 0; round < rounds; round += 1) {
        const rows = wires.map(({ law }, k) => {
          const { from, to } = ends[k];
          if ("open" in law) return { from, to, p: 0, q: 1, s: 0 };
          if ("hot" in law) return { from, to, p: 1, q: hot[k] + seriesOf(law), s: 0 };
          if ("curve" in law) {
            const [amps, siemens] = law.curve(across[k], soft);
            return { from, to, p: 1, q: 1 / siemens + law.inside, s: across[k] - amps / siemens };
          }
          if (held.has(k)) return { from, to, p: 0, q: 1, s: (law.limit as number) * Math.sign(law.e || 1) };
          return { from, to, p: 1, q: law.r, s: law.e };
        });
        x = eliminate(names.length, 0, rows, injected ? injected.map((n) => at.get(n) as number) : [], sent);
        let moved = false;
        wires.forEach(({ law }, k) => {
          if ("curve" in law) {
            const step = x[ends[k].from] - x[ends[k].to] - law.inside * x[names.length + k] - across[k];
            if (Math.abs(step) > 1e-11 * Math.max(1, Math.abs(across[k]))) moved = true;
            // Never further than two slopes of the knee at once, or half of what lies there.
            const most = Math.max(2 * 0.046 * soft, Math.abs(across[k]) / 2);
            across[k] += Math.sign(step) * Math.min(Math.abs(step), most);
          }
          if (!("hot" in law)) return;
          const next = Math.max(law.cold, law.hot * (Math.abs(x[names.length + k] * hot[k]) / law.volts) ** 0.45);
          if (Math.abs(next - hot[k]) > 1e-9 * next) moved = true;
          hot[k] = next;
        });
        if (!moved) return true;
      }
      return false;
    };
    if (last.across?.length === wires.length) across = [...last.across];
    if (!last.across || !comesToRest(1, NEAR_ROUNDS)) {
      across = wires.map(() => 0);
      for (const soft of softs) comesToRest(soft, MOST_ROUNDS);
    }
    last.across = across;
    return x;
  };
  const holds = (x: readonly number[], held: ReadonlySet<number>) =>
    limited.every((k) => {
      const law = wires[k].law as Extract<PlainLaw, { e: number }>;
      const [sign, limit] = [Math.sign(law.e || 1), law.limit as number];
      const volts = (x[ends[k].from] - x[ends[k].to]) * sign;
      return held.has(k)
        ? volts <= Math.abs(law.e) - law.r * limit + 1e-9
        : -x[names.length + k] * sign <= limit * (1 + 1e-9);
    });
  let x: readonly number[] = [];
  for (let set = 0; set < 2 ** limited.length; set += 1) {
    const held = new Set(limited.filter((_, i) => (set >> i) & 1));
    x = solvedWith(held);
    if (holds(x, held)) break;
  }
  return { amps: wires.map((_, k) => x[names.length + k]), volts: new Map(names.map((n, i) => [n, x[i]])) };
}

const seriesOf = (law: PlainLaw) => (law as { series?: number }).series ?? 0;

interface Row {
  readonly from: number;
  readonly to: number;
  readonly p: number;
  readonly q: number;
  readonly s: number;
}

const LEAK = 1e-15;

/** Kirchhoff's current law at every node but the reference, and p·v − q·i = s of every branch, by Gaussian elimination. */
function eliminate(
  N: number,
  reference: number,
  branches: readonly Row[],
  injected: readonly number[],
  sent: number,
): number[] {
  const n = N + branches.length;
  const W = n + 1;
  const m = new Float64Array(n * W);
  for (let node = 0; node < N; node += 1) m[node * W + node] = LEAK;
  branches.forEach(({ from, to, p, q, s }, k) => {
    const own = (N + k) * W;
    m[from * W + N + k] += 1;
    m[to * W + N + k] -= 1;
    m[own + from] += p;
    m[own + to] -= p;
    m[own + N + k] = -q;
    m[own + n] = s;
  });
  if (injected.length === 2) {
    m[injected[0] * W + n] += sent;
    m[injected[1] * W + n] -= sent;
  }
  m.fill(0, reference * W, (reference + 1) * W);
  m[reference * W + reference] = 1;
  // Where each row begins, in the order of the elimination.
  const at = Array.from({ length: n }, (_, row) => row * W);
  for (let col = 0; col < n; col += 1) {
    let best = col;
    for (let row = col + 1; row < n; row += 1) if (Math.abs(m[at[row] + col]) > Math.abs(m[at[best] + col])) best = row;
    const pivot = at[best];
    at[best] = at[col];
    at[col] = pivot;
    for (let row = col + 1; row < n; row += 1) {
      const own = at[row];
      if (m[own + col] === 0) continue;
      const f = m[own + col] / m[pivot + col];
      for (let k = col; k <= n; k += 1) m[own + k] -= f * m[pivot + k];
    }
  }
  const x = new Array<number>(n).fill(0);
  for (let row = n - 1; row >= 0; row -= 1) {
    let sum = m[at[row] + n];
    for (let k = row + 1; k < n; k += 1) sum -= m[at[row] + k] * x[k];
    x[row] = sum / m[at[row] + row];
  }
  return x;
}
