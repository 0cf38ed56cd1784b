import type { Network } from "../circuit/index.ts";
import { layoutBoard } from "./board.ts";

/**
 * A solderless breadboard: in each row the holes a–e are joined, and f–j beyond the centre gap; a plus and a minus rail
 * run along the left side, and another pair along the right.
 */
export type Hole =
  | { readonly on: "strip"; readonly row: number; readonly column: (typeof COLUMNS)[number] }
  | { readonly on: "rail"; readonly rail: "+" | "-"; readonly row: number };

export const COLUMNS = ["a", "b", "c", "d", "e", "f", "g", "h", "i", "j"] as const;
export const JUMPER_COLOURS = ["yellow", "green", "blue", "orange", "white"] as const;
export const BREADBOARD = { rows: 60, mostParts: 14 } as const;

/** One lead of a part in its hole. */
export interface Lead {
  readonly part: string;
  readonly lead: "first" | "second" | "wiper";
  /** Number of the node it belongs to; −1 for one that is to stay free. */
  readonly node: number;
  readonly hole: Hole;
}

export interface Jumper {
  readonly node: number;
  readonly from: Hole;
  readonly to: Hole;
  readonly colour: (typeof JUMPER_COLOURS)[number];
}

export interface BreadboardPlan {
  readonly kind: "plan";
  readonly leads: readonly Lead[];
  readonly jumpers: readonly Jumper[];
  /** The supply that feeds the rails, and the nodes that the rails are. */
  readonly supply: string;
  readonly plus: number;
  readonly minus: number;
  /** A free hole to hold a probe to, by node. */
  readonly probes: ReadonlyMap<number, Hole>;
  /** Rows in use, from 1. */
  readonly rows: number;
}

/** Rows from one node to the next: a lead that goes in one row off then meets nothing. */
const SPACING = 3;
const STRIP = 5;

/**
 * Places a circuit: the supply's terminals are the rails, every other node a row in the order of the board, parts in the
 * order of the drawing. A node with more leads than a row holds goes on across the gap, and then in a row below.
 * @returns why not, where it does not fit
 */
export function planBreadboard(network: Network): BreadboardPlan | { readonly kind: "refused"; readonly why: string } {
  const main = network.branches.findIndex((b) => b.kind === "supply" && b.from !== b.to);
  if (main < 0) return { kind: "refused", why: "there is no supply to feed the rails" };
  const parts = partsOf(network, main);
  if (parts.length > BREADBOARD.mostParts)
    return {
      kind: "refused",
      why: `one board takes ${BREADBOARD.mostParts} parts, and this circuit has ${parts.length}`,
    };
  const { from: plus, to: minus } = network.branches[main];
  const placer = new Placer(network, plus, minus, parts);
  const leads = parts.flatMap((part) => {
    // A lead to a rail goes in beside the part's other lead.
    const inRows = placer.takeTogether(part.leads.map(([, node]) => node));
    const beside = inRows.find((hole) => hole !== null)?.row ?? 1;
    return part.leads.map(([lead, node], i): Lead => {
      return { part: part.name, lead, node, hole: inRows[i] ?? placer.takeRail(node, beside) };
    });
  });
  if (placer.rows > BREADBOARD.rows) return { kind: "refused", why: "its nodes need more rows than one board has" };
  return {
    kind: "plan",
    leads,
    jumpers: placer.jumpers,
    supply: network.branches[main].name,
    plus,
    minus,
    probes: placer.probes(),
    rows: placer.rows,
  };
}

interface PlacedPart {
  readonly name: string;
  readonly leads: readonly (readonly [Lead["lead"], number])[];
}

/** Parts as one has them in hand: a potentiometer has three leads. */
function partsOf({ branches }: Network, main: number): PlacedPart[] {
  const seen = new Set<string>();
  return branches.flatMap((branch, k): PlacedPart[] => {
    const name = branch.part.designator;
    if (k === main || seen.has(name)) return [];
    seen.add(name);
    if (branch.part.kind !== "potentiometer") {
      return [
        {
          name,
          leads: [
            ["first", branch.from],
            ["second", branch.to],
          ],
        },
      ];
    }
    const own = branches.filter((b) => b.part.designator === name);
    const [top, bottom, wiper] = ["top", "bottom", "wiper"].map((s) => own.find((b) => b.name === `${name}.${s}`));
    return [
      {
        name,
        leads: [
          ["first", top?.from ?? branch.from],
          ["wiper", wiper?.to ?? -1],
          ["second", bottom?.to ?? branch.to],
        ],
      },
    ];
  });
}

interface Strip {
  readonly row: number;
  readonly side: "left" | "right";
  readonly free: (typeof COLUMNS)[number][];
}

/** Hands out holes, node by node. */
class Placer {
  readonly jumpers: Jumper[] = [];
  rows = 2;
  private readonly strips = new Map<number, Strip[]>();
  /** Parts that lie straight, by column, from row to row. */
  private readonly lying = new Map<
    Strip["free"][number],
    readonly { readonly top: number; readonly bottom: number }[]
  >();
  private readonly railRows = { "+": new Set<number>(), "-": new Set<number>() };

  constructor(
    network: Network,
    private readonly plus: number,
    private readonly minus: number,
    parts: readonly PlacedPart[],
  ) {
    const degree = new Map<number, number>();
    for (const [, node] of parts.flatMap((p) => p.leads)) degree.set(node, (degree.get(node) ?? 0) + 1);
    const column = new Map(layoutBoard(network).bars.map((b) => [b.node, b.column]));
    const inner = [...degree.keys()].filter((n) => n >= 0 && n !== plus && n !== minus);
    inner.sort((a, b) => (column.get(a) ?? 0) - (column.get(b) ?? 0) || a - b);
    for (const node of inner) this.strips.set(node, [this.strip("left")]);
    inner.forEach((node, i) => {
      // One hole stays free for the probe; each further strip costs a hole at either end of its jumper.
      const wanted = (degree.get(node) ?? 0) + 1;
      const own = this.strips.get(node) as Strip[];
      for (let room = STRIP; room < wanted; room += STRIP - 2) this.goOn(node, own, i);
    });
  }

  isRail(node: number): boolean {
    return node === this.plus || node === this.minus;
  }

  /** Holes for a part's leads, in one column where its rows have one free: so it lies straight. Null for a rail. */
  takeTogether(nodes: readonly number[]): (Extract<Hole, { on: "strip" }> | null)[] {
    const rows = nodes.filter((n) => n >= 0 && !this.isRail(n));
    const strips = rows.map((n) => (this.strips.get(n) ?? []).find((s) => s.free.length > 0));
    const isApart = new Set(rows).size === rows.length;
    const shared = COLUMNS.filter((c) => isApart && strips.length > 1 && strips.every((s) => s?.free.includes(c)));
    const ends = strips.map((s) => s?.row ?? 0);
    const [top, bottom] = [Math.min(...ends), Math.max(...ends)];
    // Best where no other part lies in the way.
    const isClear = (c: Strip["free"][number]) =>
      !(this.lying.get(c) ?? []).some((l) => l.top < bottom && top < l.bottom);
    const column = shared.find(isClear) ?? shared[0];
    if (column) this.lying.set(column, [...(this.lying.get(column) ?? []), { top, bottom }]);
    return nodes.map((node) => (this.isRail(node) ? null : this.take(node, column)));
  }

  /** A free hole of a rail, as near to a row as there is. */
  takeRail(node: number, near: number): Hole {
    const rail = node === this.plus ? "+" : "-";
    const used = this.railRows[rail];
    for (let off = 0; ; off += 1) {
      const row = [near + off, near - off].find((r) => r >= 1 && r <= BREADBOARD.rows && !used.has(r));
      if (row === undefined) continue;
      used.add(row);
      return { on: "rail", rail, row };
    }
  }

  /** A hole of a node that is no rail: in a column, or the next. */
  private take(node: number, column?: Strip["free"][number]) {
    // A lead that belongs to no node has a row to itself.
    if (node < 0) return holeOf(this.strip("left"));
    const own = this.strips.get(node) as Strip[];
    return holeOf(own.find((s) => s.free.length > 0) as Strip, column);
  }

  probes(): ReadonlyMap<number, Hole> {
    const found = new Map<number, Hole>();
    for (const [node, own] of this.strips) {
      const strip = own.find((s) => s.free.length > 0);
      if (strip) found.set(node, { on: "strip", row: strip.row, column: strip.free[0] });
    }
    found.set(this.plus, this.takeRail(this.plus, 1));
    found.set(this.minus, this.takeRail(this.minus, 1));
    return found;
  }

  private strip(side: Strip["side"], row = this.rows): Strip {
    if (row === this.rows) this.rows += SPACING;
    const free = side === "left" ? COLUMNS.slice(0, STRIP) : COLUMNS.slice(STRIP);
    return { row, side, free: [...free] };
  }

  /** One more strip for a node: first across the gap, then a row of its own, joined by a jumper. */
  private goOn(node: number, own: Strip[], index: number) {
    const last = own[own.length - 1];
    const next = last.side === "left" ? this.strip("right", last.row) : this.strip("left");
    const from: Hole = { on: "strip", row: last.row, column: last.free.pop() as Strip["free"][number] };
    const to: Hole = { on: "strip", row: next.row, column: next.free.shift() as Strip["free"][number] };
    this.jumpers.push({ node, from, to, colour: JUMPER_COLOURS[index % JUMPER_COLOURS.length] });
    own.push(next);
  }
}

function holeOf({ free, row }: Strip, wanted = free[0]) {
  if (!wanted) throw new Error(`row ${row} is full`);
  free.splice(free.indexOf(wanted), 1);
  return { on: "strip", row, column: wanted } as const;
}

/** What is joined by strip or rail: holes with the same key are at one potential. */
function keyOf(hole: Hole): string {
  if (hole.on === "rail") return `rail ${hole.rail}`;
  return `${COLUMNS.indexOf(hole.column) < STRIP ? "left" : "right"} ${hole.row}`;
}

/**
 * Compares what the holes connect with the circuit: leads that ought to meet and do not, and leads that meet and ought
 * not to. Empty where the board is the circuit.
 */
export function checkBreadboard(plan: BreadboardPlan): string[] {
  const parent = new Map<string, string>();
  const root = (key: string): string => {
    const up = parent.get(key);
    return up === undefined || up === key ? key : root(up);
  };
  for (const { from, to } of plan.jumpers) parent.set(root(keyOf(from)), root(keyOf(to)));
  const at = (hole: Hole) => root(keyOf(hole));
  const ends = [
    { name: `${plan.supply} plus`, node: plan.plus, key: root("rail +") },
    { name: `${plan.supply} minus`, node: plan.minus, key: root("rail -") },
    ...plan.leads.map((l) => ({ name: `${l.part} ${l.lead}`, node: l.node, key: at(l.hole) })),
  ];
  const wrong: string[] = [];
  ends.forEach((a, i) => {
    for (const b of ends.slice(i + 1)) {
      const meets = a.key === b.key;
      const should = a.node === b.node && a.node >= 0;
      if (meets && !should) wrong.push(`${a.name} and ${b.name} meet and must not`);
      if (!meets && should) wrong.push(`${a.name} and ${b.name} do not meet and must`);
    }
  });
  return wrong;
}

/** `c7`, or `plus rail, row 3`. */
export function nameOfHole(hole: Hole): string {
  if (hole.on === "strip") return `${hole.column}${hole.row}`;
  return `${hole.rail === "+" ? "plus" : "minus"} rail, row ${hole.row}`;
}
