import { describe, expect, it } from "vitest";
import type { Circuit } from "../../circuit/index.ts";
import { habitsFrom, priorData, type Repair, repairsOf } from "../../faults/index.ts";
import { readQuick, readTrail } from "../../notation/index.ts";
import type { Reading } from "../../record/index.ts";
import { explainer, rankFaults, weighToEnd } from "../index.ts";

const TRAIL = "BT1 24V 2% ri=0.3: F1 1A + [A] R1 220 + [B] (R2 1k | R3 470 2% + [C] R4 330) + [D] R5 100 1% 0.25W";
const circuit = readTrail(TRAIL).circuit as Circuit;
const readings = ["A 23.97", "B 19.99", "D 1.82", "C 1.82"].map((line): Reading => {
  const read = readQuick(line, circuit);
  if (read.kind !== "reading") throw new Error(line);
  return read.reading;
});

describe("explanations", () => {
  it("add up to how the odds moved, and name the reading that decided", () => {
    const weighing = weighToEnd({ circuit, readings });
    if (weighing.kind === "problem") throw new Error(weighing.message);
    const healthy = weighing.hypotheses.find((h) => h.hypothesis.sites.length === 0);
    const leading = weighing.hypotheses.slice(0, 3);
    const explain = explainer(weighing);
    if (!explain) throw new Error("nothing to compare with");
    const explained = leading.map(explain);
    explained.forEach(({ bits, rest, total }, i) => {
      expect(bits.map((b) => b.index)).toEqual([0, 1, 2, 3]);
      expect(bits.reduce((s, b) => s + b.bits, rest)).toBeCloseTo(total, 9);
      const h = leading[i];
      if (!healthy) throw new Error("no healthy hypothesis");
      const moved = h.logMass - h.hypothesis.logPrior - healthy.logMass + healthy.hypothesis.logPrior;
      expect(total).toBeCloseTo(moved / Math.LN2, 9);
    });
    const [first] = explained;
    expect(first.faults).toMatchObject([{ part: "R3", mode: "open" }]);
    expect(Math.abs(first.bits[0].bits)).toBeLessThan(0.5);
    expect(first.bits[1].bits).toBeGreaterThan(5);
    expect(Math.abs(first.rest)).toBeLessThan(0.5);
  });
});

describe("stress", () => {
  it("says which neighbours a suspect runs beyond their rating", () => {
    const short = "BT1 24V: [A] R1 10 5W + [B] R2 100 5W";
    const read = readQuick("B 0.024V", readTrail(short).circuit as Circuit);
    if (read.kind !== "reading") throw new Error("no reading");
    const ranking = rankFaults({ circuit: readTrail(short).circuit as Circuit, readings: [read.reading] });
    if (ranking.kind === "problem") throw new Error(ranking.message);
    const shorted = ranking.suspects.find(
      (s) => s.faults.length === 1 && "part" in s.faults[0] && s.faults[0].mode === "short",
    );
    // 24 V across 10 Ω: 57 W in a 5 W part.
    expect(shorted?.overloads).toMatchObject([{ part: "R1", of: "power", rating: 5 }]);
    expect(shorted?.overloads[0].value).toBeCloseTo(57, 0);
  });
});

describe("habits", () => {
  const lessons = (n: number, repair: Repair) =>
    Array.from({ length: n }, () => ({ repairs: [repair], expected: { [repair.kind]: 0.5 } }));

  it("stay what they were without repairs, and where just so much failed as was to be expected", () => {
    const before = priorData();
    const same = priorData(habitsFrom([]));
    for (const kind of Object.keys(before.rates) as (keyof typeof before.rates)[])
      expect(same.rates[kind]).toBeCloseTo(before.rates[kind], 9);
    const usual = { repairs: [{ kind: "resistor", mode: "open" } as const], expected: { resistor: 1 } };
    expect(priorData(habitsFrom([usual, usual])).rates.resistor).toBeCloseTo(before.rates.resistor, 9);
  });

  it("come from closed jobs: each verified fault counts for its kind", () => {
    const pot = readTrail("BT1 9V: [P] RV1 1k wiper=[W] + [Q] R1 100 + DS1 6V 1W").circuit as Circuit;
    expect(
      repairsOf(pot, [
        { part: "RV1.wiper", mode: "open" },
        { part: "DS1", mode: "open" },
        { nodes: ["P", "Q"], mode: "bridged" },
      ]),
    ).toEqual([
      { kind: "potentiometer", mode: "wiperOpen" },
      { kind: "lamp", mode: "open" },
      { kind: "bridge", mode: "bridged" },
    ]);
    expect(repairsOf(pot, [{ part: "R9", mode: "open" }])).toBe("R9");
  });

  it("lean towards what was found, the more the oftener", () => {
    const rate = (n: number) => priorData(habitsFrom(lessons(n, { kind: "connector", mode: "high" }))).rates.connector;
    expect(rate(5)).toBeGreaterThan(rate(0));
    expect(rate(50)).toBeGreaterThan(rate(5));
    const modes = priorData(habitsFrom(lessons(40, { kind: "connector", mode: "high" }))).modes.connector;
    // 40 pseudo-counts at 0.4 and 40 repairs: (16 + 40) of 80.
    expect(modes.high).toBeCloseTo(0.7, 9);
    expect((modes.high ?? 0) + (modes.open ?? 0)).toBeCloseTo(1, 9);
  });
});
