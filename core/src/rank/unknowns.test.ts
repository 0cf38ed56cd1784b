import { describe, expect, it } from "vitest";
import { buildNetwork, type Circuit } from "../circuit/index.ts";
import { readQuick, readTrail } from "../notation/index.ts";
import { meterData, type Reading } from "../record/index.ts";
import { solveNetwork } from "../solve/index.ts";
import { rankFaults, settleUnknowns } from "./index.ts";

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
});
