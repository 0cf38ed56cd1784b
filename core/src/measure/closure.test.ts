import { describe, expect, it } from "vitest";
import { buildNetwork, type Circuit, type NodeName } from "../circuit/index.ts";
import { readTrail } from "../notation/index.ts";
import { meterData, type NumericReading } from "../record/index.ts";
import { closuresOf } from "./index.ts";

const network = buildNetwork(
  readTrail("BT1 10V ri=0: [A] R1 100 + [B] (R2 200 | R3 300) + [C] R4 80").circuit as Circuit,
);
const volts = (value: number, from: string, to?: string): NumericReading => ({
  quantity: "voltage",
  from: from as NodeName,
  ...(to ? { to: to as NodeName } : {}),
  value,
  plusMinus: 0.1,
});
const amps = (through: string, value: number): NumericReading => ({
  quantity: "current",
  through,
  value,
  plusMinus: 0.001,
});
const close = (...readings: readonly NumericReading[]) => closuresOf(network, readings, meterData({}));

describe("what was read has to close, whatever is wrong", () => {
  it("round a loop of voltages: a difference between two nodes is what was read across them", () => {
    const { checks, suspect } = close(volts(10, "A"), volts(6.7, "B"), volts(3.3, "A", "B"));
    expect(checks).toHaveLength(1);
    expect(checks[0]).toMatchObject({ kind: "loop", residual: expect.closeTo(0, 9) });
    expect(suspect).toBeNull();
    const off = close(volts(10, "A"), volts(6.7, "B"), volts(4.3, "A", "B")).checks[0];
    expect(off.residual).toBeCloseTo(1, 9);
    // Three readings of 0.1 V each: 0.173 V together.
    expect(off.limits).toBeCloseTo(1 / Math.hypot(0.1, 0.1, 0.1), 6);
    // Only one fails: any of the three may be off.
    expect(close(volts(10, "A"), volts(6.7, "B"), volts(4.3, "A", "B")).suspect).toBeNull();
  });

  it("at a junction of which every branch was read, with the supply's current out of its plus", () => {
    const all = [amps("R1", 0.03), amps("R2", 0.018), amps("R3", 0.012)];
    const { checks } = close(...all, amps("BT1", 0.03));
    expect(checks.map((c) => c.at[0]).sort()).toEqual(["A", "B"]);
    for (const c of checks) expect(c.residual).toBeCloseTo(0, 9);
    expect(close(...all.slice(0, 2)).checks).toEqual([]);
    const off = close(amps("R1", 0.03), amps("R2", 0.018), amps("R3", 0.022)).checks[0];
    // What leaves counts up: ten milliamperes too much.
    expect(off.residual).toBeCloseTo(0.01, 9);
  });

  it("at a junction as it stood: levers moved, parts out, what was put there for a test", () => {
    const switched = buildNetwork(
      readTrail("BT1 10V ri=0: [A] R1 100 + [B] (R2 200 | S1 open + [C] R3 300)").circuit as Circuit,
    );
    const at = (state: NumericReading["state"], ...read: readonly NumericReading[]) =>
      closuresOf(
        switched,
        read.map((r) => ({ ...r, state })),
        meterData({}),
      ).checks.filter((c) => c.at[0] === "B");
    const pair = [amps("R1", 0.05), amps("R2", 0.05)];
    // As drawn the lever stands open; closed it carries what was not read, and what was.
    expect(at(undefined, ...pair)[0].residual).toBeCloseTo(0, 9);
    expect(at({ switches: { S1: "closed" } }, ...pair)).toEqual([]);
    expect(
      at({ switches: { S1: "closed" } }, amps("R1", 0.09), amps("R2", 0.05), amps("S1", 0.04))[0].residual,
    ).toBeCloseTo(0, 9);
    // A lever that stands open and was read all the same counts: it may have stuck.
    expect(at(undefined, amps("R1", 0.09), amps("R2", 0.05), amps("S1", 0.04))[0].residual).toBeCloseTo(0, 9);
    expect(at({ switches: { S1: "closed" }, lifted: ["S1"] }, ...pair)).toHaveLength(1);
    expect(at({ switches: { S1: "closed" }, out: ["S1"] }, ...pair)).toHaveLength(1);
    const [b, c] = ["B", "C"] as NodeName[];
    expect(at({ added: [{ from: b, to: c, ohms: 1000 }] }, ...pair)).toEqual([]);
    expect(at({ added: [{ from: b, ohms: 1000 }] }, ...pair)).toEqual([]);
    expect(at({ meters: [{ from: b, ohms: 5000 }] }, ...pair)).toEqual([]);
    expect(at({ meters: [{ from: b }] }, ...pair)).toHaveLength(1);
  });

  it("names the reading that is in all that fails, and in little that closes", () => {
    // B is 1 V high: both loops with it fail, the one without it closes.
    const readings = [
      volts(10, "A"),
      volts(7.7, "B"),
      volts(3.3, "C"),
      volts(3.3, "A", "B"),
      volts(3.4, "B", "C"),
      volts(6.7, "A", "C"),
    ];
    const { checks, suspect } = close(...readings);
    expect(checks.filter((c) => Math.abs(c.limits) > 1).length).toBeGreaterThan(1);
    expect(suspect).toBe(1);
  });

  it("leaves readings beyond a range out", () => {
    expect(close(volts(10, "A"), volts(6.7, "B"), { ...volts(2, "A", "B"), beyond: "over" }).checks).toEqual([]);
  });

  it("without what a diode test shows: that is the meter's own", () => {
    const test = { ...volts(0.6, "A", "B"), test: "diode" } as NumericReading;
    const { checks } = close(volts(10, "A"), volts(6.7, "B"), test);
    expect(checks).toEqual([]);
  });
});
