import fc from "fast-check";
import { expect, it } from "vitest";
import type { Network } from "../circuit/index.ts";
import { cutBranches } from "./cutBranches.ts";

const anyGraph = fc
  .tuple(fc.integer({ min: 1, max: 12 }), fc.array(fc.tuple(fc.nat(11), fc.nat(11)), { maxLength: 16 }))
  .map(([count, pairs]) => {
    const branches = pairs.map(([a, b]) => ({ from: a % count, to: b % count }));
    return { nodes: Array.from({ length: count }, (_, i) => `N${i}`), branches } as unknown as Network;
  });

/** Nodes that are reached from one over all branches but one: by walking. */
function reached({ branches }: Network, from: number, without: number): Set<number> {
  const seen = new Set([from]);
  for (let grown = true; grown; ) {
    grown = false;
    branches.forEach((b, k) => {
      if (k === without || seen.has(b.from) === seen.has(b.to)) return;
      seen.add(b.from).add(b.to);
      grown = true;
    });
  }
  return seen;
}

it("finds the branches without which something is cut off, and what lies beyond them, as trying each does", () => {
  fc.assert(
    fc.property(anyGraph, (network) => {
      const { cuts, order } = cutBranches(network);
      network.branches.forEach(({ from, to }, k) => {
        const rest = reached(network, from, k);
        const cut = cuts.get(k);
        expect(cut !== undefined, `branch ${k}`).toBe(!rest.has(to));
        if (!cut) return;
        const beyond = reached(network, cut.far, k);
        const numbered = network.nodes.flatMap((_, n) => (order[n] >= cut.first && order[n] < cut.end ? [n] : []));
        expect(new Set(numbered)).toEqual(beyond);
        expect([from, to].sort()).toEqual([cut.near, cut.far].sort());
      });
    }),
    { numRuns: 500 },
  );
});
