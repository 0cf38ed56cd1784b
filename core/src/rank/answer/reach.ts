import { type Law, type Network, valuedLaw } from "../../circuit/index.ts";

/** Between what a figure lies whose circuit leaves a value open. */
export interface Reach {
  readonly low: number;
  readonly high: number;
}

/** A figure that moves by less than this share of its size does not hang on them. */
const MOVES = 0.01;

/**
 * Between what figures lie while values are not known: in every case that the readings leave, all open values together.
 * @param figures of a network; null where it cannot be solved
 * @returns for each figure its reach, or null where it does not hang on what is not known; null where all is known
 */
export function reachesOf(
  network: Network,
  figures: (network: Network) => ArrayLike<number> | null,
): (Reach | null)[] | null {
  const open = network.branches.flatMap(({ part, law }, k) => (part.reach ? [{ k, law, cases: part.reach }] : []));
  if (open.length === 0) return null;
  const all = open[0].cases.map((_, at) => open.map(({ cases }) => cases[at]));
  const low: number[] = [];
  const high: number[] = [];
  for (const values of all) {
    const laws = new Map(open.map(({ k, law }, i): [number, Law] => [k, valuedLaw(law, values[i])]));
    const found = figures({
      ...network,
      branches: network.branches.map((b, k) => ({ ...b, law: laws.get(k) ?? b.law })),
    });
    if (!found) continue;
    for (let i = 0; i < found.length; i += 1) {
      low[i] = Math.min(low[i] ?? found[i], found[i]);
      high[i] = Math.max(high[i] ?? found[i], found[i]);
    }
  }
  return low.map((from, i) => {
    const size = Math.max(Math.abs(from), Math.abs(high[i]));
    return high[i] - from > MOVES * size ? { low: from, high: high[i] } : null;
  });
}
