import type { Network } from "../circuit/index.ts";
import { deduce, type Fact, type Given } from "../reduce/index.ts";
import type { Marked } from "./check.ts";
import type { Asked } from "./figures.ts";

/** The cell that can be filled now: a figure that follows in one step from the drawing and from what is right already. */
export interface NextCell {
  readonly fact: Fact;
  readonly of: Asked;
}

/** Cells that follow in one step, the simplest first. */
export function nextCells(network: Network, marked: readonly Marked[]): NextCell[] {
  const right = marked.filter(({ mark }) => mark.kind === "right" || mark.kind === "rounded").map((m) => m.claim);
  const given = right.flatMap((c): Given[] => {
    const branch = network.branches.findIndex((b) => b.name === c.place);
    if (branch < 0 || (c.of !== "volts" && c.of !== "amps")) return [];
    const { from, to } = network.branches[branch];
    return c.of === "volts" ? [{ of: "volts", from, to, value: c.value }] : [{ of: "amps", branch, value: c.value }];
  });
  const facts = deduce(network, given, new Set());
  const isThere = (fact: Fact) =>
    fact.rule === "drawn" ||
    fact.rule === "read" ||
    right.some((c) => c.place === fact.name && c.of === (fact.of === "emf" ? "volts" : fact.of));
  return facts.flatMap((fact): NextCell[] => {
    if (isThere(fact) || fact.of === "emf") return [];
    return fact.using.every((t) => isThere(t.fact)) ? [{ fact, of: fact.of }] : [];
  });
}

/** Why a cell cannot be filled yet: what its step would need; null where it can, or is no cell that follows. */
export function missingFor(
  network: Network,
  marked: readonly Marked[],
  place: string,
  of: Asked,
): readonly Fact[] | null {
  const open = nextCells(network, marked);
  if (open.some((c) => c.fact.name === place && c.of === of)) return null;
  const facts = deduce(network, [], new Set());
  const own = facts.find((f) => f.name === place && f.of === of);
  if (!own) return null;
  const right = new Set(
    marked
      .filter((m) => m.mark.kind === "right" || m.mark.kind === "rounded")
      .map((m) => `${m.claim.of} ${m.claim.place}`),
  );
  return own.using.map((t) => t.fact).filter((f) => f.rule !== "drawn" && !right.has(`${f.of} ${f.name}`));
}
