import { describe, expect, it } from "vitest";
import { planMeasurements } from "../plan/index.ts";
import { weighToEnd } from "../rank/index.ts";
import { follow } from "../test/stories/follow.ts";
import { verdictOf } from "./index.ts";

function stands(trail: string, lines: readonly string[], more: object = {}) {
  const input = follow({ trail, lines, ...more });
  const weighing = weighToEnd(input);
  if (weighing.kind === "problem") throw new Error(weighing.message);
  const plan = planMeasurements(input, weighing);
  if (!plan) throw new Error("no plan");
  const { readings } = input;
  return { verdict: verdictOf(weighing, plan, readings), plan, weighing, readings };
}

const DIVIDER = "BT1 10V 1% ri=0: [A] R1 1k 1% + [B] R2 1k 1%";

describe("where a job stands", () => {
  it("is open before any reading, whatever is on the bench", () => {
    expect(stands(DIVIDER, []).verdict).toEqual({ kind: "open" });
    expect(stands(DIVIDER, [], { situation: "newBuild" }).verdict).toEqual({ kind: "open" });
  });

  it("is settled where one repair holds 95 %, modes together, and just that repair is named", () => {
    const { verdict, plan } = stands(DIVIDER, ["A 10.00", "B 6.67", "R1 lifted", "R1 1000ohm"]);
    const [first] = plan.repairs.shares;
    if (verdict.kind !== "settled") throw new Error(verdict.kind);
    expect(verdict.repair).toEqual([{ part: "R2" }]);
    expect(first.repair).toEqual(verdict.repair);
    expect(first.probability).toBeGreaterThanOrEqual(0.95);
    expect(stands(DIVIDER, ["A 10.00", "B 6.70"]).verdict.kind).toBe("open");
  });

  it("says how likely something else is wrong too, be it that nothing read speaks for it: of all that is weighed", () => {
    // A dead supply hides whatever else is wrong; what was measured good by itself hides nothing.
    const row = "BT1 12V: F1 1A + [A] R1 220 5% + [B] R2 470 5% + [D] LA1 100 5%";
    const hidden = stands(row, ["+ 0.000", "LA1 dark"]);
    const known = stands(row, [
      "+ 0.000",
      "LA1 dark",
      "R1 lifted",
      "R1 221ohm",
      "R1 restored",
      "R2 lifted",
      "R2 468ohm",
    ]);
    const said = [hidden, known].map(({ verdict, weighing }) => {
      if (verdict.kind !== "settled") throw new Error(verdict.kind);
      expect(verdict.repair).toEqual([{ part: "BT1" }]);
      const { branches } = weighing.prepared.network;
      const supply = branches.findIndex((b) => b.name === "BT1");
      const held = weighing.hypotheses.filter((h) => h.hypothesis.sites.some((s) => s.branch === supply));
      const sum = (of: typeof held) => of.reduce((total, h) => total + h.probability, 0);
      const due = 1 - sum(held.filter((h) => h.hypothesis.sites.length === 1)) / sum(held);
      // But for the few in which the supply is the one that nothing speaks for.
      expect(verdict.besides).toBeCloseTo(due, 2);
      return verdict.besides;
    });
    expect(said[0]).toBeGreaterThan(0.05);
    expect(said[1]).toBeLessThan(said[0]);
  });

  it("agrees with healthy where nothing read speaks for a fault, and names what could not be seen", () => {
    const { verdict } = stands("PS1 9V ri=0: [P] R1 56 + [Q] R2 39", ["P 9.00", "Q 3.69", "P-Q 5.31", "R1 94.7mA"]);
    if (verdict.kind !== "healthy") throw new Error(verdict.kind);
    expect(verdict.unseen.map((u) => u.faults[0])).toMatchObject([{ part: "PS1", mode: "weak" }]);
    expect(verdict.unseen[0].show).toMatchObject({ kind: "swap", part: "PS1" });
    // It is the part itself that is to be swapped, whichever others there are.
    const lastly = "[P] R1 56 [Q]\n[Q] R2 39 [0]\n[0] PS1 9V ri=0 [P]";
    const turned = stands(lastly, ["P 9.00", "Q 3.69", "P-Q 5.31", "R1 94.7mA"]).verdict;
    expect(turned).toMatchObject({ kind: "healthy", unseen: [{ show: { kind: "swap", part: "PS1" } }] });
    // A reading that is likely mis-taken is taken again first; once that was done it has no say any more.
    const slipped = ["P 9.00", "Q -3.69", "P-Q 5.31"];
    const odd = stands("PS1 9V ri=0: [P] R1 56 + [Q] R2 39", slipped).verdict;
    expect(odd).toEqual({ kind: "open", quiet: true, again: 1 });
    const again = stands("PS1 9V ri=0: [P] R1 56 + [Q] R2 39", [...slipped, "Q 3.69"]).verdict;
    expect(again.kind).toBe("healthy");
  });

  it("is stuck where only dismantling tells, and says what to dismantle", () => {
    // Either of two equal resistors side by side has opened: without breaking a branch it is the same at every point.
    const trail = "BT1 10V ri=0: [A] R1 1k 1% + [B] (R2 1k 1% | R3 1k 1%)";
    const { verdict, plan, weighing, readings } = stands(trail, ["A 10.00", "B 5.00", "A-B 5.00"]);
    expect(plan.repairs.shares.slice(0, 2).map((s) => s.repair)).toEqual(
      expect.arrayContaining([[{ part: "R2" }], [{ part: "R3" }]]),
    );
    // A current tells, for four minutes; where nobody can break the branch, a lead has to be lifted.
    expect(verdict.kind).toBe("open");
    const offers = plan.offers.filter((o) => o.measurement.kind !== "current");
    const stuck = verdictOf(weighing, { ...plan, offers }, readings);
    if (stuck.kind !== "stuck") throw new Error(stuck.kind);
    expect(stuck.dismantle).toMatchObject({ kind: "lift", reading: { lifted: expect.stringMatching(/^R[23]$/) } });
  });

  it("counts a second fault that nothing speaks for with the first, and one that is needed by itself", () => {
    const { plan, weighing } = stands(DIVIDER, ["A 10.00", "B 6.70"]);
    const total = plan.repairs.shares.reduce((s, r) => s + r.alone, 0);
    expect(total).toBeCloseTo(1, 9);
    const ofPair = weighing.hypotheses.find(
      ({ hypothesis: { sites } }) => sites.length === 2 && sites.some((s) => s.mode === "weak"),
    );
    if (!ofPair) throw new Error("no pair");
    const share = plan.repairs.shares[plan.repairs.ofHypothesis[weighing.hypotheses.indexOf(ofPair)]];
    expect(share.repair).toHaveLength(1);
    const needed = stands("BT1 12V ri=0.1: [P] (R1 1k 1% + [B] R2 1k 1% | R3 2k 1% + [D] R4 1k 1%)", [
      "P 11.99",
      "B 12.0",
      "D 8.0",
    ]);
    const both = needed.plan.repairs.shares.find((s) => s.repair.length === 2);
    expect(both?.repair).toEqual([{ part: "R2" }, { part: "R4" }]);
    // Each of them is to be changed whatever else is: at least as likely as both.
    for (const part of ["R2", "R4"]) {
      const own = needed.plan.repairs.shares.find((s) => JSON.stringify(s.repair) === JSON.stringify([{ part }]));
      expect(own?.probability).toBeGreaterThanOrEqual((both?.probability ?? 1) - 1e-12);
    }
    expect(both?.probability).toBeGreaterThan(0.6);
  });

  it("settles at 95 %, not a hair later, and on nothing that the readings have not earned", () => {
    const { plan, weighing, readings } = stands(DIVIDER, ["A 10.00", "B 6.67"]);
    const [first, ...others] = plan.repairs.shares;
    const at = (changed: Partial<typeof first>) =>
      verdictOf(
        weighing,
        { ...plan, repairs: { ...plan.repairs, shares: [{ ...first, ...changed }, ...others] } },
        readings,
      ).kind;
    const enough = Math.log(20);
    expect([at({ probability: 0.95 }), at({ probability: 0.9499 })]).toEqual(["settled", "open"]);
    expect(at({ probability: 0.99, evidence: enough })).toBe("settled");
    expect(at({ probability: 0.99, evidence: enough - 0.001 })).toBe("open");
  });
});
