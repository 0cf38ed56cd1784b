import { describe, expect, it } from "vitest";
import { buildNetwork, type Circuit } from "../circuit/index.ts";
import { bridgeCandidates, type FaultAt, priorData, sitesOf } from "../faults/index.ts";
import { readTrail } from "../notation/index.ts";
import { type Meter, meterData, type NumericReading } from "../record/index.ts";
import { BenchMeter, seededRandom } from "./index.ts";

const TRAIL = "BT1 12V 0% ri=0: R1 1k 0% + [A] R2 1k 0% + [B] R3 1k 0%";
const EXACT: Meter = {
  voltage: { accuracy: { percent: 0, counts: 1 } },
  current: { accuracy: { percent: 0, counts: 1 } },
  resistance: { accuracy: { percent: 0, counts: 1 } },
};
const volts = (from: string) => ({ quantity: "voltage", from, value: 0 }) as NumericReading;

function bench(mode: "open" | "short" | null = null, part = "R2", seed = 1) {
  const network = buildNetwork(readTrail(TRAIL).circuit as Circuit);
  const bridges = bridgeCandidates(network);
  const site = sitesOf(network, bridges, priorData({})).find(
    (s) => s.branch >= 0 && network.branches[s.branch].name === part && s.mode === mode,
  );
  const faults: FaultAt[] = site ? [{ site, value: 0 }] : [];
  return new BenchMeter(network, { meter: meterData(EXACT), bridges, faults }, seededRandom(seed));
}

describe("the simulated meter", () => {
  it("shows what the circuit has at the points it is put on, with its fault, once settled", () => {
    const meter = bench();
    expect(meter.put(volts("A"), 0)).toBeNull();
    expect(meter.show(5000).value).toBeCloseTo(8, 1);
    const open = bench("open");
    open.put(volts("A"), 0);
    expect(open.show(5000).value).toBeCloseTo(12, 1);
    open.put(volts("B"), 6000);
    expect(open.show(11_000).value).toBeCloseTo(0, 2);
    open.put({ quantity: "current", through: "R1", value: 0 }, 12_000);
    expect(open.show(17_000).value).toBeCloseTo(0, 5);
  });

  it("wanders about nothing in the air and while the probes are moved, then settles", () => {
    const meter = bench();
    expect(Math.abs(meter.show(0).value)).toBeLessThan(0.01);
    meter.put(volts("A"), 0);
    expect(Math.abs(meter.show(100).value)).toBeLessThan(0.01);
    const way = [300, 360, 420, 500, 700, 1200].map((at) => meter.show(at).value);
    expect(way[0]).toBeLessThan(6);
    expect([...way].sort((a, b) => a - b)[5]).toBeCloseTo(8, 1);
    meter.lift();
    expect(Math.abs(meter.show(2000).value)).toBeLessThan(0.01);
  });

  it("is over range where the range is too small, and where ohms are open", () => {
    const meter = bench();
    meter.put(volts("A"), 0);
    meter.range(2);
    expect(meter.show(5000).isOver).toBe(true);
    meter.range(null);
    expect(meter.show(5000).isOver).toBe(false);
    const open = bench("open");
    open.put({ quantity: "resistance", from: "A", to: "B", value: 0 } as NumericReading, 0);
    expect(open.show(5000)).toMatchObject({ isOver: true, quantity: "resistance" });
    // Asked for another quantity than its probes are put on for, it reads nothing.
    expect(Math.abs(open.show(5000, "voltage").value)).toBeLessThan(0.01);
  });

  it("sags, is noisy by a count or so, and is the same again for a seed", () => {
    const run = (seed: number) => {
      const meter = bench(null, "R2", seed);
      meter.put(volts("A"), 0);
      return Array.from({ length: 200 }, (_, i) => meter.show(1000 + i * 500).value);
    };
    const values = run(1);
    expect(run(1)).toEqual(values);
    const mean = (list: readonly number[]) => list.reduce((s, v) => s + v, 0) / list.length;
    expect(mean(values.slice(0, 5)) - mean(values.slice(-20))).toBeGreaterThan(0.005);
    const spread = new Set(values.slice(-40).map((v) => v.toFixed(2))).size;
    expect(spread).toBeGreaterThan(1);
    expect(spread).toBeLessThan(6);
  });

  it("says so where a point is not in the circuit", () => {
    expect(bench().put(volts("Z"), 0)).toMatch(/no node Z/);
  });
});
