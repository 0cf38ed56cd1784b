import type { FaultAt, Site } from "../../faults/index.ts";

/** A stretch of one unknown value (in shares of its prior), or a box of two, with what falls into it. */
export interface Cell {
  readonly lo: readonly number[];
  readonly hi: readonly number[];
  readonly logMass: number;
}

const NONE: readonly number[] = [];

/** Faults with their values at shares `at` of the priors, in the order of the sites that have values. */
export function faultsAt(sites: readonly Site[], at: readonly number[]): FaultAt[] {
  let next = 0;
  return sites.map((site) => ({ site, value: site.value ? site.value(at[next++]) : 0 }));
}

/** The same, each fault at each share once: pairs are made of the same faults over and over. */
export class FaultsAtShares {
  private readonly known = new Map<Site, Map<number, FaultAt>>();

  at(sites: readonly Site[], at: readonly number[]): FaultAt[] {
    const found: FaultAt[] = [];
    for (let k = 0, next = 0; k < sites.length; k += 1) found.push(this.one(sites[k], sites[k].value ? at[next++] : 0));
    return found;
  }

  private one(site: Site, share: number): FaultAt {
    let shares = this.known.get(site);
    if (shares === undefined) {
      shares = new Map();
      this.known.set(site, shares);
    }
    let fault = shares.get(share);
    if (fault === undefined) {
      fault = { site, value: site.value?.(share) ?? 0 };
      shares.set(share, fault);
    }
    return fault;
  }
}

export function unknownsOf(sites: readonly Site[]): number {
  let count = 0;
  for (const site of sites) if (site.value !== null) count += 1;
  return count;
}

export function centreOf({ lo, hi }: Cell): number[] {
  return middleOf(lo, hi);
}

export function middleOf(lo: readonly number[], hi: readonly number[]): number[] {
  return lo.map((t, k) => (t + hi[k]) / 2);
}

export function volumeOf(lo: readonly number[], hi: readonly number[]): number {
  let volume = 1;
  for (let k = 0; k < lo.length; k += 1) volume *= hi[k] - lo[k];
  return volume;
}

export function put(at: readonly number[], axis: number, value: number): readonly number[] {
  if (at.length === 1) return [value];
  return axis === 0 ? [value, at[1]] : [at[0], value];
}

const STARTS = new Map<number, (readonly [readonly number[], readonly number[]])[]>();

/** The whole range in `n` equal steps along each of the unknowns. */
export function startCells(unknowns: number, n: number): (readonly [readonly number[], readonly number[]])[] {
  if (unknowns === 0) return [[NONE, NONE]];
  const known = STARTS.get(unknowns * 1000 + n);
  if (known) return known;
  const steps = Array.from({ length: n }, (_, i) => [i / n, (i + 1) / n] as const);
  const cells =
    unknowns === 1
      ? steps.map(([lo, hi]) => [[lo], [hi]] as const)
      : steps.flatMap(([a, b]) =>
          steps.map(
            ([c, d]) =>
              [
                [a, c],
                [b, d],
              ] as const,
          ),
        );
  STARTS.set(unknowns * 1000 + n, cells);
  return cells;
}

/** The corners of a cell; of no value the one point there is. */
export function cornersAt(lo: readonly number[], hi: readonly number[]): (readonly number[])[] {
  if (lo.length === 0) return [NONE];
  return lo.length === 1 ? [lo, hi] : [lo, [hi[0], lo[1]], [lo[0], hi[1]], hi];
}

/** Points evenly inside a cell: eight along one value, three along each of two. */
export function pointsIn(lo: readonly number[], hi: readonly number[]): (readonly number[])[] {
  const along = (axis: number, n: number) =>
    Array.from({ length: n }, (_, k) => lo[axis] + ((hi[axis] - lo[axis]) * (k + 0.5)) / n);
  if (lo.length === 0) return [NONE];
  if (lo.length === 1) return along(0, 8).map((t) => [t]);
  return along(0, 3).flatMap((a) => along(1, 3).map((b) => [a, b]));
}
