import type { Network } from "../../circuit/index.ts";
import { COLUMNS, type Column, type Hole, OUTWARD, ROWS, type StripHole, sideOf } from "./holes.ts";
import { type Lead, partsInHand, seatParts } from "./seats.ts";
import { type Jumper, wireUp } from "./wires.ts";

export const MOST_PARTS = 14;

/**
 * How a meter is put in a part's way: its second lead moves into the free row below. The meter then shows current from
 * the first lead to the second as positive.
 */
export interface Pull {
  readonly part: string;
  readonly from: StripHole;
  readonly to: StripHole;
  readonly red: StripHole;
  readonly black: StripHole;
}

export interface BreadboardPlan {
  readonly kind: "plan";
  readonly leads: readonly Lead[];
  readonly jumpers: readonly Jumper[];
  /** The supply that feeds the left rails, and the nodes that the rails are. */
  readonly supply: string;
  readonly plus: number;
  readonly minus: number;
  /** A free hole to hold a probe to, by node. */
  readonly probes: ReadonlyMap<number, Hole>;
  /** In the order of the parts. */
  readonly pulls: readonly Pull[];
  /** Rows in use, from 1. */
  readonly rows: number;
}

/**
 * Places a circuit: the supply's terminals are the rails, every part lies across the gap in a row of its own, in the
 * order of the drawing, and jumpers join the rows into nodes.
 * @returns why not, where it does not fit
 */
export function planBreadboard(network: Network): BreadboardPlan | { readonly kind: "refused"; readonly why: string } {
  const main = network.branches.findIndex((b) => b.kind === "supply" && b.from !== b.to);
  if (main < 0) return { kind: "refused", why: "there is no supply to feed the rails" };
  const parts = partsInHand(network, main);
  if (parts.length > MOST_PARTS)
    return { kind: "refused", why: `one board takes ${MOST_PARTS} parts, and this circuit has ${parts.length}` };
  const { from: plus, to: minus, name: supply } = network.branches[main];
  const leads = seatParts(parts, plus, minus);
  const rows = Math.max(2, ...leads.map((l) => l.hole.row)) + 1;
  const jumpers = wireUp(leads, plus, minus);
  if (!jumpers || rows > ROWS) return { kind: "refused", why: "its nodes need more jumpers than there is room for" };
  const probes = probesOf(leads, jumpers, plus, minus);
  return { kind: "plan", leads, jumpers, supply, plus, minus, probes, pulls: leads.flatMap(pullOf), rows };
}

function pullOf({ part, lead, hole }: Lead): Pull[] {
  if (lead !== "second") return [];
  const below = { ...hole, row: hole.row + 1 };
  const [, beside] = OUTWARD[sideOf(hole.column)];
  return [{ part, from: hole, to: below, red: { ...below, column: beside }, black: hole }];
}

/** The free hole of each node that is farthest from its part, in its first row; for a rail, the rail. */
function probesOf(leads: readonly Lead[], jumpers: readonly Jumper[], plus: number, minus: number) {
  const used = new Set(
    [...leads.map((l) => l.hole), ...jumpers.flatMap((j) => [j.from, j.to])].flatMap((h) =>
      h.on === "strip" ? [`${h.column}${h.row}`] : [],
    ),
  );
  const probes = new Map<number, Hole>([
    [plus, { on: "rail", rail: "+", side: "left", row: 2 }],
    [minus, { on: "rail", rail: "-", side: "left", row: 1 }],
  ]);
  for (const { node, hole } of leads) {
    if (node < 0 || probes.has(node)) continue;
    const isFree = (c: Column) => sideOf(c) === sideOf(hole.column) && !used.has(`${c}${hole.row}`);
    const free = COLUMNS.filter(isFree);
    const column = sideOf(hole.column) === "left" ? free[0] : free[free.length - 1];
    probes.set(node, { on: "strip", row: hole.row, column });
  }
  return probes;
}
