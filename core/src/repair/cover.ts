/** Faults beside points: how far each moves what each point shows, and how what they show hangs together. */
export interface Showing {
  /** Points that may be chosen. */
  readonly columns: readonly number[];
  /** What one point costs. */
  readonly cost: readonly number[];
  readonly rows: readonly Row[];
  /** How many of them, the first, say what may be missed: a share of what is wanted of these. */
  readonly counted: number;
  /** Correlation of two points by tolerances and the meter, errors of their own included; of all points, by columns. */
  readonly correlation: Float64Array;
  readonly count: number;
}

export interface Row {
  readonly weight: number;
  /** Deviation at each point, in standard deviations. */
  readonly z: Float64Array;
}

/**
 * One reading is seen to be off beyond so many standard deviations; several together, where their joint deviation
 * (the root of zᵀC⁻¹z) passes this: about what it takes for one of many faults to outweigh that nothing is wrong.
 */
export const ALONE = 3;
const TOGETHER = 4.2;
/** Share of what any point shows that the chosen ones may miss. */
const MISSED = 0.002;
/** Of a larger set one reading less is not worth the time it takes to look for it. */
const EXCHANGED = 10;
/** A standard normal's share below x, within 0.01: the logistic curve. */
const shareBelow = (x: number) => 1 / (1 + Math.exp(-1.702 * x));

/** Chance that a deviation is seen: by the reading that shows it best, or by all together. */
function chanceSeen(best: number, joint: number): number {
  return shareBelow(Math.max(best - ALONE, Math.sqrt(joint) - TOGETHER));
}

/**
 * A small set of points that sees nearly all that any single one of `against` would: greedily the one that adds most,
 * then without those that the others make up for, then two exchanged for one where that is possible.
 * @param first points that are in it whatever happens
 * @returns their numbers, in the order in which they tell most
 */
export function coverOf(showing: Showing, against: readonly number[], first: readonly number[] = []): number[] {
  const { rows } = showing;
  const wanted = rows.map(({ z, weight }) => {
    const best = against.reduce((most, r) => Math.max(most, Math.abs(z[r])), 0);
    return weight * chanceSeen(best, 0);
  });
  const allowed = MISSED * wanted.slice(0, showing.counted).reduce((sum, w) => sum + w, 0);
  const missedBy = (chosen: readonly number[]) => {
    const seen = new Seen(showing);
    for (const c of chosen) seen.add(c);
    return seen.missed(wanted);
  };
  let chosen = greedy(showing, wanted, allowed, first);
  const fixed = new Set(first);
  for (let isBetter = true; isBetter; ) {
    isBetter = false;
    for (const one of [...chosen].reverse()) {
      if (fixed.has(one)) continue;
      const others = chosen.filter((c) => c !== one);
      if (missedBy(others) > allowed) continue;
      chosen = others;
      isBetter = true;
    }
    const better = twoForOne(showing, chosen, fixed, wanted, allowed);
    if (better) {
      chosen = better;
      isBetter = true;
    }
  }
  return chosen;
}

function greedy(showing: Showing, wanted: readonly number[], allowed: number, first: readonly number[]): number[] {
  const seen = new Seen(showing);
  const chosen = [...first];
  for (const c of first) seen.add(c);
  while (seen.missed(wanted) > allowed) {
    let best = -1;
    let most = 1e-12;
    for (const c of showing.columns) {
      if (chosen.includes(c)) continue;
      const gain = seen.gain(c, wanted) / showing.cost[c];
      if (gain > most * (1 + 1e-9)) [best, most] = [c, gain];
    }
    if (best < 0) break;
    seen.add(best);
    chosen.push(best);
  }
  return chosen;
}

function twoForOne(
  showing: Showing,
  chosen: readonly number[],
  fixed: ReadonlySet<number>,
  wanted: readonly number[],
  allowed: number,
): number[] | null {
  const free = chosen.filter((c) => !fixed.has(c));
  if (free.length > EXCHANGED) return null;
  for (const [i, one] of free.entries())
    for (const other of free.slice(i + 1)) {
      const rest = chosen.filter((c) => c !== one && c !== other);
      const seen = new Seen(showing);
      for (const c of rest) seen.add(c);
      const missed = seen.missed(wanted);
      const limit = showing.cost[one] + showing.cost[other];
      const found = showing.columns.find(
        (c) => !chosen.includes(c) && showing.cost[c] < limit && missed - seen.gain(c, wanted) <= allowed,
      );
      if (found !== undefined) return [...rest, found];
    }
  return null;
}

/** What a growing set of points sees of every row: each point counts with what those before it do not foretell. */
class Seen {
  /** Deviation of every point beyond what those chosen foretell, by row; its variance then, and its tie to the others. */
  private readonly residual: Float64Array[];
  private readonly tie: Float64Array;
  private readonly best: Float64Array;
  private readonly joint: Float64Array;

  constructor(private readonly showing: Showing) {
    this.residual = showing.rows.map((row) => row.z.slice());
    this.tie = showing.correlation.slice();
    this.best = new Float64Array(showing.rows.length);
    this.joint = new Float64Array(showing.rows.length);
  }

  /** One step of elimination: O(rows × points + points²). */
  add(c: number) {
    const { count, rows } = this.showing;
    const { tie } = this;
    const variance = Math.max(tie[c * count + c], 1e-9);
    const along = tie.slice(c * count, (c + 1) * count);
    rows.forEach(({ z }, f) => {
      const own = this.residual[f];
      const part = own[c] / variance;
      this.best[f] = Math.max(this.best[f], Math.abs(z[c]));
      this.joint[f] += own[c] * part;
      for (let r = 0; r < count; r += 1) own[r] -= along[r] * part;
    });
    for (let a = 0; a < count; a += 1)
      for (let b = 0; b < count; b += 1) tie[a * count + b] -= (along[a] * along[b]) / variance;
  }

  /** Weight of what is wanted and not seen. */
  missed(wanted: readonly number[]): number {
    return this.showing.rows.reduce(
      (sum, { weight }, f) => sum + Math.max(0, wanted[f] - weight * chanceSeen(this.best[f], this.joint[f])),
      0,
    );
  }

  /** By how much one more point lessens that. */
  gain(c: number, wanted: readonly number[]): number {
    const { count, rows } = this.showing;
    const variance = Math.max(this.tie[c * count + c], 1e-9);
    let gain = 0;
    for (let f = 0; f < rows.length; f += 1) {
      const { weight, z } = rows[f];
      const before = wanted[f] - weight * chanceSeen(this.best[f], this.joint[f]);
      if (before <= 0) continue;
      const own = this.residual[f][c];
      const best = Math.max(this.best[f], Math.abs(z[c]));
      const after = wanted[f] - weight * chanceSeen(best, this.joint[f] + (own * own) / variance);
      gain += before - Math.max(0, after);
    }
    return gain;
  }
}
