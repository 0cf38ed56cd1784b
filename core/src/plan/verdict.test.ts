import { describe, expect, it } from "vitest";
import { weighToEnd } from "../rank/index.ts";
import { follow } from "../test/stories/follow.ts";
import { planMeasurements, SCHOOLS, type Suggestion, verdictOf } from "./index.ts";
import { worthOfAnswers } from "./information.ts";

function stands(trail: string, lines: readonly string[], more: object = {}) {
  const input = follow({ trail, lines, ...more });
  const weighing = weighToEnd(input);
  if (weighing.kind === "problem") throw new Error(weighing.message);
  const plan = planMeasurements(input, weighing);
  if (!plan) throw new Error("no plan");
  return { verdict: verdictOf(weighing, plan), plan, weighing };
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

  it("agrees with healthy where nothing read speaks for a fault, and names what could not be seen", () => {
    const { verdict } = stands("PS1 9V ri=0: [P] R1 56 + [Q] R2 39", ["P 9.00", "Q 3.69", "P-Q 5.31", "R1 94.7mA"]);
    if (verdict.kind !== "healthy") throw new Error(verdict.kind);
    expect(verdict.unseen.map((u) => u.faults[0])).toMatchObject([{ part: "PS1", mode: "weak" }]);
    expect(verdict.unseen[0].show).toMatchObject({ kind: "swap", part: "PS1" });
    // A reading that is likely mis-taken is taken again first.
    expect(stands("PS1 9V ri=0: [P] R1 56 + [Q] R2 39", ["P 9.00", "Q -3.69", "P-Q 5.31"]).verdict.kind).toBe("open");
  });

  it("is stuck where only dismantling tells, and says what to dismantle", () => {
    // Either of two equal resistors side by side has opened: without breaking a branch it is the same at every point.
    const trail = "BT1 10V ri=0: [A] R1 1k 1% + [B] (R2 1k 1% | R3 1k 1%)";
    const { verdict, plan, weighing } = stands(trail, ["A 10.00", "B 5.00", "A-B 5.00"]);
    expect(plan.repairs.shares.slice(0, 2).map((s) => s.repair)).toEqual(
      expect.arrayContaining([[{ part: "R2" }], [{ part: "R3" }]]),
    );
    // A current tells, for four minutes; where nobody can break the branch, a lead has to be lifted.
    expect(verdict.kind).toBe("open");
    const offers = plan.offers.filter((o) => o.measurement.kind !== "current");
    const stuck = verdictOf(weighing, { ...plan, offers });
    if (stuck.kind !== "stuck") throw new Error(stuck.kind);
    expect(stuck.dismantle).toMatchObject({ kind: "lift", reading: { lifted: expect.stringMatching(/^R[23]$/) } });
  });

  it("counts a second fault that nothing speaks for with the first, and one that is needed by itself", () => {
    const { plan, weighing } = stands(DIVIDER, ["A 10.00", "B 6.70"]);
    const total = plan.repairs.shares.reduce((s, r) => s + r.probability, 0);
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
    expect(needed.plan.repairs.shares[0].repair).toEqual([{ part: "R2" }, { part: "R4" }]);
  });
});

describe("the order near the end", () => {
  const suggestion = (name: string, minutes: number, informationBits: number, settles: number): Suggestion => ({
    measurement: { kind: "swap", part: name, minutes },
    informationBits,
    settles,
    predictions: [],
  });
  const order = (...list: readonly Suggestion[]) =>
    SCHOOLS.information
      .order(list, { nodes: [], branches: [], reference: 0 })
      .map((s) => ("part" in s.measurement ? s.measurement.part : ""));

  it("goes by bits a minute while nothing settles it", () => {
    expect(order(suggestion("dear", 4, 1.2, 0.1), suggestion("cheap", 0.5, 0.4, 0))).toEqual(["cheap", "dear"]);
  });

  it("puts what settles it before a cheap reading that cannot", () => {
    // Cheap first costs 0.5 and then 2/0.9 minutes; the dear one 2 and, one time in ten, as much again.
    expect(order(suggestion("cheap", 0.5, 0.4, 0), suggestion("dear", 2, 0.8, 0.9))).toEqual(["dear", "cheap"]);
    // One that may settle it for little is tried first: 0.5 + 0.6·2/0.9 against 2 + 0.1·0.5/0.4.
    expect(order(suggestion("dear", 2, 0.8, 0.9), suggestion("cheap", 0.5, 0.5, 0.4))).toEqual(["cheap", "dear"]);
  });

  it("never asks for what tells nothing before what tells something", () => {
    expect(order(suggestion("idle", 0.1, 0, 0), suggestion("dear", 6, 0.5, 0.5))).toEqual(["dear", "idle"]);
  });
});

describe("a question with few answers", () => {
  it("is worth the entropy of its answer where each way answers for sure", () => {
    const classes = [0, 1, 2, 3];
    const weights = [0.4, 0.3, 0.2, 0.1];
    const yes = [1, 0, 0, 0];
    const { bits, settles } = worthOfAnswers(classes, weights, [yes, yes.map((p) => 1 - p)]);
    expect(bits).toBeCloseTo(-0.4 * Math.log2(0.4) - 0.6 * Math.log2(0.6), 12);
    // Only the yes leaves one class alone.
    expect(settles).toBeCloseTo(0.4, 12);
    expect(
      worthOfAnswers(classes, weights, [
        [0.5, 0.5, 0.5, 0.5],
        [0.5, 0.5, 0.5, 0.5],
      ]).bits,
    ).toBeCloseTo(0, 12);
    // 94 % is not enough, 95 % is.
    expect(worthOfAnswers([0, 1], [0.94, 0.06], [[1, 1]]).settles).toBe(0);
    expect(worthOfAnswers([0, 1], [0.96, 0.04], [[1, 1]]).settles).toBeCloseTo(1, 12);
  });
});
