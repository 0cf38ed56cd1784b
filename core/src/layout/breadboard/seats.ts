import { type FurtherLead, furtherLeads, type Network } from "../../circuit/index.ts";
import { OUTWARD, type Side, type StripHole } from "./holes.ts";

/** One lead of a part in its hole. */
export interface Lead {
  readonly part: string;
  readonly lead: "first" | "second" | FurtherLead["lead"];
  /** Number of the node it belongs to; −1 for one that is to stay free. */
  readonly node: number;
  readonly hole: StripHole;
}

export interface PartInHand {
  readonly name: string;
  readonly leads: readonly (readonly [Lead["lead"], number])[];
}

/** Parts as one has them in hand: a potentiometer has three leads, a bridge rectifier four. */
export function partsInHand({ branches, nodes }: Network, supply: number): PartInHand[] {
  const seen = new Set<string>();
  return branches.flatMap((branch, k): PartInHand[] => {
    const name = branch.part.designator;
    if (k === supply || seen.has(name)) return [];
    seen.add(name);
    const { part } = branch;
    const further = furtherLeads(part).map(({ lead, node }) => [lead, nodes.indexOf(node)] as const);
    // A wiper that goes nowhere has a hole of its own all the same.
    const inner = part.kind === "potentiometer" && further.length === 0 ? [["wiper", -1] as const] : further;
    return [{ name, leads: [["first", nodes.indexOf(part.from)], ...inner, ["second", nodes.indexOf(part.to)]] }];
  });
}

/** Rows 1 and 2 are for what joins the rails of both sides. */
const FIRST_ROW = 3;
/** A part across both sides when the rails of the right are needed: one jumper. */
const LINK = 0.5;

/**
 * Gives each part a row of its own, across the gap, and leaves the row below it free: there a lead that is pulled goes in
 * when a meter is put in its way. A potentiometer takes three rows, its wiper on the other side; a
 * bridge rectifier four. Which way round each
 * part lies is chosen so that the fewest nodes are on both sides; among those so that leads at rails are at the left.
 * @returns the leads in the order of the parts
 */
export function seatParts(parts: readonly PartInHand[], plus: number, minus: number): Lead[] {
  const turned = bestWayRound(parts, plus, minus);
  let row = FIRST_ROW;
  return parts.flatMap(({ name, leads }, i) => {
    const top = row;
    row += leads.length === 2 ? 2 : leads.length + 1;
    return leads.map(([lead, node], j): Lead => {
      const [column] = OUTWARD[sideAt(leads.length, j, ((turned >> i) & 1) === 1)];
      return { part: name, lead, node, hole: { on: "strip", row: top + (leads.length === 2 ? 0 : j), column } };
    });
  });
}

/** The side of a part's lead: the two of a plain part face each other, what is between two ends faces both. */
function sideAt(leads: number, lead: number, isTurned: boolean): Side {
  return (leads === 2 ? lead === 0 : lead === 0 || lead === leads - 1) === isTurned ? "right" : "left";
}

/** All ways round are tried: 2ⁿ for at most fourteen parts. */
function bestWayRound(parts: readonly PartInHand[], plus: number, minus: number): number {
  const at = new Map(
    [...new Set(parts.flatMap((p) => p.leads.map(([, node]) => node)))].map((node, i) => [node, i] as const),
  );
  // Which nodes a part has on the left and on the right, one bit a node, for both ways round.
  const masks = parts.map(({ leads }) =>
    [false, true].map((isTurned) =>
      (["left", "right"] as const).map((side) =>
        leads.reduce(
          (mask, [, node], j) =>
            node >= 0 && sideAt(leads.length, j, isTurned) === side ? mask | (1 << (at.get(node) ?? 0)) : mask,
          0,
        ),
      ),
    ),
  );
  const rails = [plus, minus].reduce((mask, n) => (at.has(n) ? mask | (1 << (at.get(n) ?? 0)) : mask), 0);
  let [best, least] = [0, Number.POSITIVE_INFINITY];
  for (let turned = 0; turned < 1 << parts.length; turned += 1) {
    let [left, right] = [0, 0];
    for (let i = 0; i < masks.length; i += 1) {
      const [onLeft, onRight] = masks[i][(turned >> i) & 1];
      left |= onLeft;
      right |= onRight;
    }
    const cost = ones(left & right & ~rails) + LINK * ones(right & rails);
    if (cost < least) [best, least] = [turned, cost];
  }
  return best;
}

function ones(mask: number): number {
  let count = 0;
  for (let rest = mask; rest !== 0; rest &= rest - 1) count += 1;
  return count;
}
