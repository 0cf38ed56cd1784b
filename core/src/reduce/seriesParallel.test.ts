import { describe, expect, it } from "vitest";
import { buildNetwork, type Circuit, type Network } from "../circuit/index.ts";
import { buildProbes } from "../measure/index.ts";
import { readTrail } from "../notation/index.ts";
import { meterData } from "../record/index.ts";
import { seededRandom } from "../simulate/index.ts";
import { type Composite, combine, firstBranch, reversed, startingAt } from "./index.ts";

const networkOf = (trail: string) => buildNetwork(readTrail(trail).circuit as Circuit);

function reduced(network: Network): Composite[] {
  const supply = network.branches.findIndex((b) => b.kind === "supply");
  const { from, to } = network.branches[supply];
  const others = network.branches.map((_, k) => k).filter((k) => k !== supply);
  return combine(network, others, new Set([from, to]));
}

function ohmsOf(composite: Composite, network: Network): number {
  if (composite.kind === "branch") {
    const { law } = network.branches[composite.branch];
    return law.kind === "resistance" ? law.ohms : Number.NaN;
  }
  const parts = composite.parts.map((p) => ohmsOf(p, network));
  if (composite.kind === "series") return parts.reduce((s, r) => s + r, 0);
  return 1 / parts.reduce((s, r) => s + 1 / r, 0);
}

const branchesOf = (c: Composite): number[] => (c.kind === "branch" ? [c.branch] : c.parts.flatMap(branchesOf));

/** A random nest of series and parallel branches, written as a trail. */
function nest(depth: number, random: { next(): number }, count: { parts: number }): string {
  if (depth === 0 || random.next() < 0.3) {
    count.parts += 1;
    return `R${count.parts} ${1 + Math.floor(random.next() * 900)}`;
  }
  const several = Array.from({ length: 2 + Math.floor(random.next() * 2) }, () => nest(depth - 1, random, count));
  return random.next() < 0.5 ? several.join(" + ") : `(${several.join(" | ")})`;
}

describe("combining", () => {
  it("brings every series–parallel circuit down to one composite whose ohms the solver confirms", () => {
    const random = seededRandom(8);
    for (let round = 0; round < 60; round += 1) {
      const network = networkOf(`BT1 9V: [P] ${nest(3, random, { parts: 0 })} + [Q] R999 10`);
      const left = reduced(network);
      expect(left).toHaveLength(1);
      expect(branchesOf(left[0]).sort((a, b) => a - b)).toEqual(network.branches.map((_, k) => k).slice(1));
      const set = buildProbes(network, [{ quantity: "resistance", from: "P", value: 0 }], { meter: meterData({}) });
      if (set.kind !== "probes") throw new Error("unsolvable");
      expect(ohmsOf(left[0], network) / set.probes[0].y).toBeCloseTo(1, 9);
    }
  });

  it("keeps the order of the trail, whichever way it is walked", () => {
    const network = networkOf("BT1 9V: [P] R1 1 + [A] (R2 2 | R3 3 + [B] R4 4) + [C] R5 5");
    const [all] = reduced(network);
    const names = (c: Composite) => branchesOf(c).map((k) => network.branches[k].name);
    const fromPlus = startingAt(all, network.nodes.indexOf("P"));
    expect(names(fromPlus)).toEqual(["R1", "R2", "R3", "R4", "R5"]);
    expect(names(reversed(fromPlus))).toEqual(["R5", "R2", "R4", "R3", "R1"]);
    expect(reversed(reversed(fromPlus))).toEqual(fromPlus);
    expect(network.branches[firstBranch(all)].name).toBe("R1");
  });

  it("stops at a bridge, and does not call neighbours series when a third part joins between them", () => {
    expect(reduced(networkOf("BT1 9V: [P] (R1 1 + [L] R2 2 | R3 3 + [M] R4 4)\n[L] R5 5 [M]"))).toHaveLength(5);
    const tapped = reduced(networkOf("BT1 9V: [P] R1 1 + [A] R2 2\n[A] R3 3 [X]"));
    expect(tapped.length).toBeGreaterThan(1);
  });
});
