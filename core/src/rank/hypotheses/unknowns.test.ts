import { describe, expect, it } from "vitest";
import { buildNetwork, type Circuit } from "../../circuit/index.ts";
import { readQuick, readTrail } from "../../notation/index.ts";
import { meterData, type Reading } from "../../record/index.ts";
import { drawCircuit, seededRandom } from "../../simulate/index.ts";
import { solveNetwork } from "../../solve/index.ts";
import { rankFaults, settleUnknowns } from "../index.ts";

const circuitOf = (trail: string) => readTrail(trail).circuit as Circuit;
const meter = meterData({ voltage: { inputResistance: "ideal" }, current: { burdenResistance: 0 } });

/** Readings as the complete circuit gives them, to five digits. */
function readingsOf(trail: string, points: readonly string[]): Reading[] {
  const circuit = circuitOf(trail);
  const network = buildNetwork(circuit);
  const solved = solveNetwork(network);
  if (solved.kind !== "solved") throw new Error(solved.why);
  return points.map((point) => {
    const branch = network.branches.findIndex((b) => b.name === point);
    const value = branch >= 0 ? solved.amps[branch] : solved.volts[network.nodes.indexOf(point)];
    const sign = branch >= 0 && network.branches[branch].kind === "supply" ? -1 : 1;
    const unit = branch >= 0 ? "A" : "V";
    const typed = readQuick(`${point} ${(sign * value).toPrecision(5)}${unit}`, circuit);
    if (typed.kind !== "reading") throw new Error(JSON.stringify(typed));
    return typed.reading;
  });
}

const TWO_LOOPS = (r1: string, r3: string, e2: string) =>
  `BT1 12V: [P] R1 ${r1} + [A] R2 330 1%\n[0] BT2 ${e2} [Q]\n[Q] R3 ${r3} [A]`;

describe("values left unknown", () => {
  it("are found in a two-loop, two-supply circuit with three unknowns", () => {
    const readings = readingsOf(TWO_LOOPS("220", "470", "9V"), ["P", "A", "Q", "R1", "R3"]);
    const settled = settleUnknowns(circuitOf(TWO_LOOPS("?", "?", "?")), readings, meter);
    const found = Object.fromEntries((settled?.estimates ?? []).map((e) => [e.designator, e]));
    for (const [name, value] of [
      ["R1", 220],
      ["R3", 470],
      ["BT2", 9],
    ] as const) {
      expect(found[name].value / value).toBeCloseTo(1, 1);
      expect(found[name].low).toBeLessThan(value);
      expect(found[name].high).toBeGreaterThan(value);
      expect(found[name].isSettled).toBe(true);
    }
    expect(settled?.wanted).toEqual([]);
  });

  it("are not claimed from too few readings, which are told instead", () => {
    const circuit = circuitOf(TWO_LOOPS("?", "?", "?"));
    const few = settleUnknowns(circuit, readingsOf(TWO_LOOPS("220", "470", "9V"), ["P", "A"]), meter);
    const open = few?.estimates.filter((e) => !e.isSettled).map((e) => e.designator);
    expect(open).toContain("R3");
    const wanted = (few?.wanted ?? []).map((r) =>
      r.quantity === "voltage" ? r.from : r.quantity === "current" ? r.through : "",
    );
    expect(wanted.some((w) => ["Q", "R3", "BT2", "R1"].includes(w))).toBe(true);
    expect(settleUnknowns(circuit, [], meter)?.estimates.every((e) => !e.isSettled)).toBe(true);
    expect(settleUnknowns(circuitOf("BT1 9V: R1 1k"), [], meter)).toBeNull();
  });

  it("do not stop a ranking: other faults are still found", () => {
    const readings = readingsOf("BT1 12V: F1 1A + [A] R1 220 + [B] (R2 1k | R3 470 + [C] R4 5M)", ["A", "B", "C"]);
    const ranking = rankFaults({
      circuit: circuitOf("BT1 12V: F1 1A + [A] R1 220 + [B] (R2 ? | R3 470 + [C] R4 330)"),
      readings,
    });
    if (ranking.kind !== "ranking") throw new Error(ranking.message);
    expect(ranking.suspects[0].faults).toMatchObject([{ part: "R4" }]);
    expect(ranking.suspects[0].probability).toBeGreaterThan(0.5);
    const sum = ranking.suspects.reduce((s, x) => s + x.probability, 0);
    expect(sum).toBeCloseTo(1, 6);
  });

  it("come out within their limits in random circuits, whichever part is left open", () => {
    const random = seededRandom(12);
    let [held, settled] = [0, 0];
    for (let round = 0; round < 60; round += 1) {
      const whole = drawCircuit(6, random);
      const resistors = whole.parts.filter((p) => p.kind === "resistor");
      if (resistors.length === 0) continue;
      const hidden = resistors[Math.floor(random.next() * resistors.length)];
      const network = buildNetwork(whole);
      const solved = solveNetwork(network);
      if (solved.kind !== "solved") continue;
      const readings = network.nodes.flatMap((from, n): Reading[] =>
        n === network.reference ? [] : [{ quantity: "voltage", from, value: solved.volts[n], plusMinus: 0.002 }],
      );
      const parts = whole.parts.map((p) => (p === hidden ? { ...p, resistance: { by: "unknown" as const } } : p));
      const [found] = settleUnknowns({ ...whole, parts }, readings, meter)?.estimates ?? [];
      const truth = "resistance" in hidden && hidden.resistance.by === "ohms" ? hidden.resistance.ohms : Number.NaN;
      // Where nothing flows through it, no voltage can tell its ohms.
      if (!found.isSettled) continue;
      settled += 1;
      if (found.low <= truth && truth <= found.high) held += 1;
    }
    expect(settled).toBeGreaterThan(30);
    expect(held / settled).toBeGreaterThan(0.97);
  });

  it("make room for a supply of unknown voltage beside an unknown resistance", () => {
    const readings = readingsOf("BT1 24V: [P] R1 220 1% + [A] R2 470 1% + [B] R3 100 1%", ["P", "A", "B", "R1"]);
    const settled = settleUnknowns(circuitOf("BT1 ?: [P] R1 220 1% + [A] R2 ? + [B] R3 100 1%"), readings, meter);
    const [supply, resistor] = settled?.estimates ?? [];
    expect(supply).toMatchObject({ designator: "BT1", unit: "V", isSettled: true });
    expect(supply.value).toBeCloseTo(24, 0);
    expect(resistor.value / 470).toBeCloseTo(1, 1);
    const ranking = rankFaults({
      circuit: circuitOf("BT1 ?: [P] R1 220 1% + [A] R2 ? + [B] R3 100 1%"),
      readings,
      priors: { healthy: 0.9 },
    });
    if (ranking.kind !== "ranking") throw new Error(ranking.message);
    expect(ranking.unknowns.map((u) => u.designator)).toEqual(["BT1", "R2"]);
    expect(ranking.suspects[0].faults).toEqual([]);
  });
});
