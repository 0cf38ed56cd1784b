import { describe, expect, it } from "vitest";
import { buildNetwork } from "../circuit/index.ts";
import { bridgeCandidates } from "../faults/index.ts";
import { planMeasurements } from "../plan/index.ts";
import { prepare, rankingOf, weighToEnd } from "../rank/index.ts";
import { meterData } from "../record/index.ts";
import { drawCircuit, FaultDrawer, seededRandom, takeReadings } from "../simulate/index.ts";
import { everyPoint } from "../test/arbitrary/circuits.ts";
import { share } from "../test/examples.ts";
import { type Bench, follow } from "../test/stories/follow.ts";
import { judge, proofAmong } from "./index.ts";

function judged(bench: Bench) {
  const input = follow(bench);
  const weighing = weighToEnd(input);
  if (weighing.kind === "problem") throw new Error(weighing.message);
  const plan = planMeasurements(input, weighing);
  if (!plan) throw new Error("no plan");
  return { ...judge(input, weighing, plan, seededRandom(1)), plan, ranking: rankingOf(weighing) };
}

const kinds = (next: ReturnType<typeof judged>["next"]) => next.map((s) => s.measurement.kind);

describe("a judgement", () => {
  it.each([
    // Good for good proves nothing: the new one has a deviation of its own.
    ["a good part swapped for a good one", "BT1 24V 2%: [A] R1 1k 5% + [B] R2 1k 5%", "B 12.30, R1 swapped, B 11.80"],
    ["another piece of the same value", "BT1 24V 2%: [A] R1 1k 5% + [B] R2 1k 5%", "B 12.30, R1 now 1k, B 11.80"],
    ["a supply at its limit, exactly healthy", "PS1 24V limit=1A: [A] R1 10 5% 100W", "A 10.0"],
    [
      "all as foretold",
      "BT1 9V: [P] R1 120 1% + [A] R2 330 1% + [B] R3 560 1%",
      "P 9.00, A 7.93, B 4.99, P-A 1.07, A-B 2.94",
    ],
  ])("settles nothing that no reading speaks for, and then wants nothing dismantled: %s", (_, trail, lines) => {
    for (const situation of ["complaint", "unsaid", "newBuild"] as const) {
      const { verdict, next, toSettle } = judged({ trail, lines: lines.split(", "), situation });
      expect(verdict.kind, situation).toBe("healthy");
      expect(toSettle).toBe(0);
      for (const kind of ["swap", "lift", "alone"] as const) expect(kinds(next), situation).not.toContain(kind);
    }
  });

  it("takes parts far out in their tolerances for no fault: a healthy circuit was read, by chance 26 times better with RT1 off", () => {
    const trail =
      "[0] BT1 24V [N1]\n[N1] RT1 4.7k [N5]\n[N5] RT2 12 [N3]\n[N3] R1 470 10% [N4]\n[N4] DS1 120 [N2]\n[N2] R2 12 [0]\n" +
      "[N1] R3 1k [N6]\n[N6] R4 27 1% [N2]\n[N1] RT3 820 [N3]\n[N6] R5 390 1% [N2]\n[N6] F1 1A [N5]";
    const lines = ["N5-N3 -0.2931", "N3-N4 1.189", "N1 24.00", "N5 1.818"];
    const { verdict, plan } = judged({ trail, lines, situation: "complaint" });
    expect(plan.repairs.shares[0]).toMatchObject({ repair: [{ part: "RT1" }] });
    expect(plan.repairs.shares[0].probability).toBeGreaterThan(0.95);
    expect(plan.repairs.shares[0].evidence).toBeGreaterThan(Math.log(20));
    expect(verdict.kind).toBe("open");
  });

  it("wants one more reading at least where the priors alone hold enough for a verdict", () => {
    const { verdict, toSettle, plan } = judged({
      trail: "BT1 12V: [A] R1 ? + [B] R2 ?",
      lines: ["R1 3V"],
      situation: "complaint",
    });
    expect(plan.repairs.shares[0].probability).toBeGreaterThan(0.95);
    expect(verdict.kind).toBe("open");
    expect(toSettle).not.toBe(0);
  });

  it.each([
    [
      "R5 has risen, and R3 or R4 as well",
      "BT1 12V: [A] R1 100 5% + [B] (R2 220 5% | R3 330 5% + [C] R4 100 5%) + [D] R5 470 5%",
      "A 12.0, B 10.96, D 9.3, C 9.3, B-C 1.62",
      "R5",
    ],
    [
      "a good lamp is dark as well",
      "BT1 12V: [P] F1 2A + [A] S1 + [B] LA1 12V 5W",
      "P 12.1, A 12.1, B 12.0, LA1 swapped, LA1 dark",
      "LA1",
    ],
  ])("does not settle for one of two faults while a reading may tell the other: %s", (_, trail, lines, part) => {
    const { verdict, next } = judged({ trail, lines: lines.split(", "), situation: "complaint" });
    expect(verdict).toMatchObject({ kind: "open", sure: [{ part }] });
    expect(next[0].informationBits).toBeGreaterThan(0.1);
  });

  it("takes no good supply out while nothing speaks against it and a reading may tell", () => {
    const trail = "BT1 24V: F1 1A + R1 220 + [B] R2 470";
    const { verdict, next } = judged({ trail, lines: ["+ 24.0", "B 16.1"], situation: "complaint" });
    expect(verdict).toEqual({ kind: "open", quiet: true });
    expect(next.length).toBeGreaterThan(0);
    for (const kind of ["swap", "lift", "alone"] as const) expect(kinds(next)).not.toContain(kind);
  });

  it.each([
    ["a decimal point", "A 24.0, B 2.09, D 6.70", "voltage", { from: "B" }],
    ["the leads swapped", "A 24.0, B 20.9, D -6.70", "voltage", { from: "D" }],
    ["the leads swapped, over two parts", "A 24.0, B 20.9, A-D -17.3", "voltage", { from: "A", to: "D" }],
    ["no contact on ohms", "A 24.0, B 20.9, B-D OL", "ohms", { from: "B", to: "D" }],
    ["no contact on a lifted part", "A 24.0, B 20.9, D 6.70, R1 lifted OL", "lift", { lifted: "R1" }],
  ])("has a reading that alone was mis-taken taken again, and nothing apart: %s", (_, lines, kind, reading) => {
    const trail = "BT1 24V 2%: [A] R1 220 5% + [B] R2 1k 5% + [D] R5 470 1%";
    const { verdict, next } = judged({ trail, lines: lines.split(", "), situation: "complaint" });
    expect(verdict).toMatchObject({ kind: "open", again: expect.any(Number) });
    expect(next[0].measurement).toMatchObject({ kind, reading });
    for (const other of ["swap", "alone"] as const) expect(kinds(next)).not.toContain(other);
  });

  it("has a part looked at again where the eye was probably mistaken, and believes the second look", () => {
    const trail = "BT1 12V 2%: [A] R1 10 5% + [B] LA1 12V 2W + [C] R2 4R7 5%";
    const lines = ["A 12.0", "B 10.55", "C 0.69", "LA1 dark"];
    const { verdict, next, ranking } = judged({ trail, lines, situation: "complaint" });
    expect(verdict).toMatchObject({ kind: "open", quiet: true, again: 3 });
    expect(next[0].measurement).toMatchObject({ kind: "look", part: "LA1" });
    expect(next[0].looks?.[0]).toMatchObject({ faults: [], seen: "lit" });
    expect(ranking.readings.map((r) => r.index)).toEqual([0, 1, 2, 3]);
    const [dark] = ranking.readings.slice(3);
    expect(dark.slip).toBe("look");
    expect(dark.blunderProbability).toBeGreaterThan(0.5);
    expect(ranking.healthyButMistaken).toBeGreaterThan(0.9);
    const after = judged({ trail, lines: [...lines, "LA1 lit"], situation: "complaint" });
    expect(after.verdict).not.toHaveProperty("again");
    expect(after.ranking.readings[4].blunderProbability).toBeLessThan(0.05);
  });

  it("asks for nothing more where nothing on offer tells: the new part is in and all is well, which proves nothing", () => {
    const trail = "BT1 9V ri=0.5: [A] (R1 100 1% | R2 820 10%) + [B] R3 270 10%";
    const swapped = ["A 9.00", "B 6.71", "A-B 2.29", "A 8.99", "R1 lifted 100.1", "R2 lifted 818", "R3 lifted 270.4"];
    const { verdict, next, toSettle } = judged({
      trail,
      lines: ["A 8.72", "BT1 swapped", ...swapped],
      situation: "complaint",
    });
    expect(verdict.kind).toBe("stuck");
    expect(toSettle).toBeNull();
    expect(next.every((s) => s.informationBits >= 0.1)).toBe(true);
    expect(kinds(next).filter((k) => k === "voltage" || k === "current" || k === "ohms")).toEqual([]);
  });

  it("has a change read with first, and does not offer it again", () => {
    const trail = "BT1 15V ri=1: [A] R1 1k 5% + [B] R2 1k 5%";
    const lines = ["A 15.0", "B 7.10", "R2 swapped"];
    const before = judged({ trail, lines: lines.slice(0, 2), situation: "complaint" });
    const after = judged({ trail, lines, situation: "complaint" });
    expect(before.plan.offers.some((o) => o.measurement.kind === "swap" && o.measurement.part === "R2")).toBe(true);
    expect(after.plan.offers.some((o) => o.measurement.kind === "swap" && o.measurement.part === "R2")).toBe(false);
    const [first] = after.next;
    expect(first.measurement).toMatchObject({ kind: "voltage", reading: { state: { swapped: ["R2"] } } });
  });

  it("offers nothing that tells next to nothing while something tells more", () => {
    const { next } = judged({ trail: "BT1 12V: F1 1A + [A] R1 220 + [B] R2 470 + [C] R3 100", lines: ["B 8.9"] });
    expect(next.length).toBeGreaterThan(1);
    for (const { informationBits } of next) expect(informationBits).toBeGreaterThanOrEqual(0.05);
  });

  it("counts a proof that was given already", () => {
    const trail = "BT1 12V: [P] (LA1 12V 5W | S1 + [A] LA2 12V 5W)";
    const lit = judged({ trail, lines: ["LA1 lit", "LA2 dark", "A 12.0", "LA2 swapped, lit"], situation: "complaint" });
    if (lit.verdict.kind !== "settled") throw new Error(lit.verdict.kind);
    const proof = proofAmong(lit.proofs, lit.verdict.repair);
    expect(proof).toMatchObject({ given: [{ how: "swapped", index: 3 }], steps: [] });
    const trail2 = "BT1 10V 1% ri=0: [A] R1 1k 1% + [B] R2 1k 1%";
    const lifted = judged({ trail: trail2, lines: ["A 10.00", "B 0.046", "R1 lifted 219k"], situation: "complaint" });
    if (lifted.verdict.kind !== "settled") throw new Error(lifted.verdict.kind);
    expect(lifted.verdict.repair).toEqual([{ part: "R1" }]);
    expect(proofAmong(lifted.proofs, lifted.verdict.repair)).toMatchObject({ given: [{ how: "lifted", index: 2 }] });
  });

  it("proves both of two faults", () => {
    const trail = "BT1 12V ri=0.1: [P] (R1 1k 1% + [B] R2 1k 1% | R3 2k 1% + [D] R4 1k 1%)";
    const { proofs, verdict } = judged({ trail, lines: ["P 11.99", "B 12.0", "D 0.001", "R1 0.1mA"] });
    expect(verdict.kind).not.toBe("healthy");
    const both = proofs.find((p) => p.repair.length === 2);
    if (!both) return expect(proofs.length).toBeGreaterThan(0);
    expect(both.steps.length + both.given.length).toBeGreaterThanOrEqual(2);
  });

  it("says which meter may read false, and not once it was held against a known value", () => {
    const trail = "PS1 24V 1%: [P] R1 1k 1% + [A] R2 2k 1% + [B] R3 1k 1%";
    const lines = ["P 23.5", "A 17.63", "B 5.87"];
    const all = judged({ trail, lines, situation: "complaint" });
    expect(all.verdict.kind).toBe("open");
    expect(all.meters).toMatchObject([{ quantity: "voltage", meter: "" }]);
    const checks = [{ quantity: "voltage" as const, known: 24, shown: 24, plusMinus: 0.02 }];
    const checked = judged({ trail, lines, situation: "complaint", meter: { checks } });
    expect(checked.meters).toEqual([]);
    // Two percent that nobody could have noticed is hardly the complaint, but it is read all the same.
    expect(checked.verdict).toMatchObject({ kind: "stuck", dismantle: { kind: "swap", part: "PS1" } });
    expect(checked.plan.repairs.shares[0]).toMatchObject({ repair: [{ part: "PS1" }] });
  });

  it("settles no circuit that is healthy, and is right about those that are not", () => {
    const random = seededRandom(11);
    let settled = 0;
    for (let n = 0; n < share(24); n += 1) {
      const circuit = drawCircuit(5, random);
      const network = buildNetwork(circuit);
      const isHealthy = n % 2 === 0;
      const situation = n % 4 < 2 ? ("complaint" as const) : ("newBuild" as const);
      const prepared = prepare({ circuit, readings: [], situation, priors: { healthy: 1e-6 } });
      if (prepared.kind === "problem") continue;
      const faults = isHealthy ? [] : new FaultDrawer(prepared).draw(random);
      const options = { meter: meterData({}), bridges: bridgeCandidates(network), blunder: 0, counts: 6000 };
      const taken = takeReadings(network, faults, everyPoint(circuit), options, random);
      if (!taken) continue;
      const input = { circuit, readings: taken.map((t) => t.reading), situation };
      const weighing = weighToEnd(input);
      const plan = weighing.kind === "problem" ? null : planMeasurements(input, weighing);
      if (weighing.kind === "problem" || !plan) continue;
      const { verdict } = judge(input, weighing, plan, seededRandom(1));
      if (verdict.kind !== "settled") continue;
      settled += 1;
      const owners = faults.map((f) => prepared.prior.nameOf(f.site));
      for (const step of verdict.repair) if ("part" in step) expect(owners, `world ${n}`).toContain(step.part);
      expect(isHealthy, `world ${n}`).toBe(false);
    }
    expect(settled).toBeGreaterThan(1);
  });

  it("turns what is the wrong way round, and proves a junction by the diode test, not by ohms", () => {
    const trail = "BT1 12V: [P] R1 470 5% + [A] LED1 red";
    const seen = ["LED1 dark", "A 12.00"];
    const maybe = judged({ trail, lines: seen, situation: "newBuild" });
    expect(maybe.verdict).toMatchObject({ kind: "settled", turned: { LED1: "perhaps" } });
    const surely = judged({ trail, lines: [...seen, "LED1 diode OL", "LED1 diode rev 1.80"], situation: "newBuild" });
    expect(surely.verdict).toMatchObject({ kind: "settled", turned: { LED1: "surely" } });
    const open = judged({ trail, lines: [...seen, "P 12.0"], situation: "complaint" });
    expect(open.verdict).toMatchObject({ kind: "settled", turned: {} });
    const proof = open.verdict.kind === "settled" ? proofAmong(open.proofs, open.verdict.repair) : null;
    expect(JSON.stringify(proof)).toContain('"test":"diode"');
  });
});
