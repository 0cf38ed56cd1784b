import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { buildNetwork, type Circuit } from "../../circuit/index.ts";
import { readTrail } from "../../notation/index.ts";
import { linearCircuits } from "../../test/arbitrary/circuits.ts";
import { examples } from "../../test/examples.ts";
import {
  type BreadboardPlan,
  checkBreadboard,
  drawParts,
  type Hole,
  LABEL,
  nameOfHole,
  planBreadboard,
} from "./index.ts";

const networkOf = (trail: string) => buildNetwork(readTrail(trail).circuit as Circuit);
const planned = (plan: ReturnType<typeof planBreadboard>): BreadboardPlan => {
  if (plan.kind === "refused") throw new Error(plan.why);
  return plan;
};
const moved = (plan: BreadboardPlan, lead: number, rows: number): BreadboardPlan => ({
  ...plan,
  leads: plan.leads.map((l, i) => (i === lead ? { ...l, hole: { ...l.hole, row: l.hole.row + rows } } : l)),
});

/** What a hole is joined with by the board alone: its half row, or its rail. */
const halfRow = (hole: Hole) =>
  hole.on === "rail" ? `${hole.side}${hole.rail}` : `${"abcde".includes(hole.column)}${hole.row}`;

/** Where everything is joined to, by repainting: a reference that knows nothing of the plan's own check. */
function painted(plan: BreadboardPlan): (hole: Hole) => string {
  const colour = new Map<string, string>();
  const at = (hole: Hole) => colour.get(halfRow(hole)) ?? halfRow(hole);
  for (const { from, to } of plan.jumpers) {
    const [a, b] = [at(from), at(to)];
    for (const hole of [from, to]) colour.set(halfRow(hole), at(hole));
    for (const [key, c] of colour) if (c === b) colour.set(key, a);
  }
  return at;
}

interface Line {
  readonly node: number;
  readonly a: { x: number; y: number };
  readonly b: { x: number; y: number };
}

/** How near a place is to an upright or level line. */
function gapTo({ a, b }: Line, { x, y }: { x: number; y: number }): number {
  const off = (v: number, p: number, q: number) => Math.max(0, Math.min(p, q) - v, v - Math.max(p, q));
  return Math.hypot(off(x, a.x, b.x), off(y, a.y, b.y));
}

describe("the breadboard", () => {
  it("connects what the circuit connects and nothing else, one lead a hole, on random circuits", () => {
    fc.assert(
      fc.property(linearCircuits({ most: 14 }), (circuit) => {
        const network = buildNetwork(circuit);
        const plan = planned(planBreadboard(network));
        expect(checkBreadboard(plan)).toEqual([]);
        const at = painted(plan);
        plan.leads.forEach((a, i) => {
          for (const b of plan.leads.slice(i + 1))
            expect(at(a.hole) === at(b.hole), `${a.part} ${b.part}`).toBe(a.node === b.node);
        });
        const holes = [...plan.leads.map((l) => l.hole), ...plan.jumpers.flatMap((j) => [j.from, j.to])].map(
          nameOfHole,
        );
        expect(new Set(holes).size).toBe(holes.length);
        for (const [, probe] of plan.probes) expect(holes).not.toContain(nameOfHole(probe));
        for (const node of new Set(network.branches.flatMap((b) => [b.from, b.to]))) {
          const probe = plan.probes.get(node);
          if (!probe) throw new Error(`no probe at ${network.nodes[node]}`);
          for (const l of plan.leads) expect(at(l.hole) === at(probe)).toBe(l.node === node);
        }
      }),
      examples(150),
    );
  });

  it("gives every part a row of its own, and a lead that can be pulled to put a meter in its way", () => {
    fc.assert(
      fc.property(linearCircuits({ most: 14 }), (circuit) => {
        const plan = planned(planBreadboard(buildNetwork(circuit)));
        const parts = [...new Set(plan.leads.map((l) => l.part))];
        const rows = plan.leads.map((l) => l.hole.row);
        for (const part of parts)
          expect(new Set(plan.leads.filter((l) => l.part === part).map((l) => l.hole.row)).size).toBe(1);
        expect(new Set(rows).size).toBe(parts.length);
        expect(plan.pulls.map((p) => p.part)).toEqual(parts);
        const taken = [...plan.leads.map((l) => l.hole), ...plan.jumpers.flatMap((j) => [j.from, j.to])].map(halfRow);
        for (const { part, from, to, red, black } of plan.pulls) {
          // Only the meter joins the pulled lead with its node, and current from first to second goes into the red lead.
          const second = plan.leads.find((l) => l.part === part && l.lead === "second");
          expect(second?.hole).toEqual(from);
          expect(taken).not.toContain(halfRow(to));
          expect(halfRow(red)).toBe(halfRow(to));
          expect(nameOfHole(red)).not.toBe(nameOfHole(to));
          expect(halfRow(black)).toBe(halfRow(from));
          expect(taken.filter((t) => t === halfRow(from)).length).toBeLessThanOrEqual(4);
        }
      }),
      examples(150),
    );
  });

  it("draws no line upon another, over a hole in use or through a name, on random circuits", () => {
    fc.assert(
      fc.property(linearCircuits({ most: 14 }), (circuit) => {
        const plan = planned(planBreadboard(buildNetwork(circuit)));
        const parts = drawParts(plan);
        const lines: Line[] = [
          ...plan.jumpers.flatMap((j) => j.way.slice(1).map((b, i): Line => ({ node: j.node, a: j.way[i], b }))),
          ...parts.flatMap((p) =>
            p.leads.map(
              (l): Line => ({
                node: plan.leads.find((x) => x.part === p.part && x.lead === l.lead)?.node ?? -1,
                a: p.at,
                b: l,
              }),
            ),
          ),
        ];
        const isUpright = ({ a, b }: Line) => a.x === b.x && a.y !== b.y;
        expect(lines.filter(({ a, b }) => a.x !== b.x && a.y !== b.y)).toEqual([]);
        const upon = lines.flatMap((one, i) =>
          lines.slice(i + 1).filter((two) => {
            // The lines of one part's two leads meet under its name.
            if (one.node === two.node || one.a === two.a || isUpright(one) !== isUpright(two)) return false;
            return Math.min(gapTo(one, two.a), gapTo(one, two.b), gapTo(two, one.a), gapTo(two, one.b)) < 0.1;
          }),
        );
        expect(upon).toEqual([]);
        const ends = plan.jumpers.flatMap((j) => [j.way[0], j.way[j.way.length - 1]].map((p) => ({ node: j.node, p })));
        const over = lines.filter((line) => ends.some(({ node, p }) => node !== line.node && gapTo(line, p) < 0.2));
        expect(over).toEqual([]);
        const through = parts.filter(({ at }) =>
          lines.some(({ a, b }) => {
            const meets = (p: number, q: number, middle: number, size: number) =>
              Math.min(p, q) < middle + size / 2 && Math.max(p, q) > middle - size / 2;
            return a !== at && meets(a.x, b.x, at.x, LABEL.width) && meets(a.y, b.y, at.y, LABEL.height);
          }),
        );
        expect(through).toEqual([]);
      }),
      examples(150),
    );
  });

  it("catches any lead that is moved by one row", () => {
    fc.assert(
      fc.property(linearCircuits({ most: 12 }), fc.nat(), fc.constantFrom(-1, 1), (circuit, pick, rows) => {
        const plan = planned(planBreadboard(buildNetwork(circuit)));
        const lead = pick % plan.leads.length;
        const { part, node } = plan.leads[lead];
        // A lead that is alone at its node meets nothing before, and nothing after.
        const isRail = node === plan.plus || node === plan.minus;
        if (!isRail && plan.leads.filter((l) => l.node === node).length < 2) return;
        expect(checkBreadboard(moved(plan, lead, rows)).join("\n")).toContain(part);
      }),
      examples(150),
    );
  });

  it("lays a chain to and fro with one jumper a node, a potentiometer over three rows, and joins the rails if it must", () => {
    const chain = planned(planBreadboard(networkOf("BT1 9V: R1 1k + [A] R2 1k + [B] R3 1k")));
    expect(chain.leads.map((l) => `${l.part} ${nameOfHole(l.hole)}`)).toEqual([
      "R1 e3",
      "R1 f3",
      "R2 f5",
      "R2 e5",
      "R3 e7",
      "R3 f7",
    ]);
    expect(chain.jumpers.map(({ from, to }) => `${nameOfHole(from)} to ${nameOfHole(to)}`).sort()).toEqual(
      [
        "g3 to g5",
        "d5 to d7",
        "minus rail, row 2 to right minus rail, row 2",
        "plus rail, row 3 to a3",
        "right minus rail, row 7 to j7",
      ].sort(),
    );
    const pot = planned(planBreadboard(networkOf("BT1 9V: [P] RV1 1k at=30% wiper=[W] + [Q] R1 100\n[W] R2 470 [0]")));
    expect(pot.leads.filter((l) => l.part === "RV1").map((l) => `${l.lead} ${nameOfHole(l.hole)}`)).toEqual([
      "first e3",
      "wiper f4",
      "second e5",
    ]);
    expect(checkBreadboard(pot)).toEqual([]);
    const free = planned(planBreadboard(networkOf("BT1 9V: RV1 1k at=30% + R1 100")));
    expect(checkBreadboard(free)).toEqual([]);
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
