import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { buildNetwork, type Circuit } from "../circuit/index.ts";
import { readTrail } from "../notation/index.ts";
import { linearCircuits } from "../test/arbitrary/circuits.ts";
import { type BreadboardPlan, checkBreadboard, type Hole, nameOfHole, planBreadboard } from "./index.ts";

const networkOf = (trail: string) => buildNetwork(readTrail(trail).circuit as Circuit);
const planned = (plan: ReturnType<typeof planBreadboard>): BreadboardPlan => {
  if (plan.kind === "refused") throw new Error(plan.why);
  return plan;
};
const moved = (plan: BreadboardPlan, lead: number, rows: number): BreadboardPlan => ({
  ...plan,
  leads: plan.leads.map((l, i) =>
    i === lead && l.hole.on === "strip" ? { ...l, hole: { ...l.hole, row: l.hole.row + rows } } : l,
  ),
});

describe("the breadboard", () => {
  it("connects what the circuit connects and nothing else, one lead a hole, on random circuits", () => {
    fc.assert(
      fc.property(linearCircuits({ most: 14 }), (circuit) => {
        const network = buildNetwork(circuit);
        const plan = planBreadboard(network);
        if (plan.kind === "refused") throw new Error(plan.why);
        expect(checkBreadboard(plan)).toEqual([]);
        const holes = [...plan.leads.map((l) => l.hole), ...plan.jumpers.flatMap((j) => [j.from, j.to])].map(
          nameOfHole,
        );
        expect(new Set(holes).size).toBe(holes.length);
        for (const [, probe] of plan.probes) expect(holes).not.toContain(nameOfHole(probe));
        const used = new Set(network.branches.flatMap((b) => [b.from, b.to]));
        for (const node of used) expect(plan.probes.has(node), network.nodes[node]).toBe(true);
        expect(plan.jumpers.length).toBeLessThanOrEqual(plan.leads.length / 3);
      }),
      { numRuns: 150 },
    );
  });

  it("catches any lead that is moved by one row", () => {
    fc.assert(
      fc.property(linearCircuits({ most: 12 }), fc.nat(), fc.constantFrom(-1, 1), (circuit, pick, rows) => {
        const plan = planned(planBreadboard(buildNetwork(circuit)));
        const strips = plan.leads.flatMap((l, i) => (l.hole.on === "strip" ? [i] : []));
        if (strips.length === 0) return;
        const lead = strips[pick % strips.length];
        const { part, node } = plan.leads[lead];
        // A lead that is alone at its node meets nothing before, and nothing after.
        if (plan.leads.filter((l) => l.node === node).length < 2) return;
        expect(checkBreadboard(moved(plan, lead, rows)).join("\n")).toContain(part);
      }),
      { numRuns: 150 },
    );
  });

  it("gives a potentiometer three leads, and a node with many leads a jumper across the gap", () => {
    const pot = planned(planBreadboard(networkOf("BT1 9V: [P] RV1 1k at=30% wiper=[W] + [Q] R1 100\n[W] R2 470 [0]")));
    expect(pot.leads.filter((l) => l.part === "RV1").map((l) => l.lead)).toEqual(["first", "wiper", "second"]);
    const star = planned(
      planBreadboard(
        networkOf(`BT1 9V: R1 1k + [A] (${[2, 3, 4, 5, 6].map((i) => `R${i} ${i}k`).join(" | ")}) + [B] R9 10`),
      ),
    );
    expect(star.jumpers.map(({ from, to }) => [from, to].map((h: Hole) => nameOfHole(h).slice(0, 1)))).toEqual([
      ["e", "f"],
      ["e", "f"],
    ]);
    expect(new Set(star.jumpers.map((j) => j.colour)).size).toBe(2);
    expect(checkBreadboard(star)).toEqual([]);
  });

  it("says so where a circuit is too large, or has nothing to feed it", () => {
    const long = `BT1 9V: ${Array.from({ length: 15 }, (_, i) => `R${i + 1} 1k`).join(" + ")}`;
    expect(planBreadboard(networkOf(long))).toEqual({
      kind: "refused",
      why: "one board takes 14 parts, and this circuit has 15",
    });
    expect(planBreadboard(networkOf("[A] R1 1k [B]"))).toMatchObject({ kind: "refused" });
    expect(planned(planBreadboard(networkOf(long.replace(" + R15 1k", "")))).rows).toBeLessThan(60);
  });
});
