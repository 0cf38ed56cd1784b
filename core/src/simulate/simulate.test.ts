import { describe, expect, it } from "vitest";
import { buildNetwork } from "../circuit/index.ts";
import { readTrail } from "../notation/index.ts";
import { prepare } from "../rank/index.ts";
import { meterData, type NumericReading } from "../record/index.ts";
import { drawCircuit, FaultDrawer, seededRandom, takeReadings } from "./index.ts";

const TRAIL = "BT1 12V: F1 1A + [A] R1 100 5% + [B] R2 100 5%";

function prepared(trail: string, priors = {}) {
  const circuit = readTrail(trail).circuit;
  if (!circuit) throw new Error("no circuit");
  const made = prepare({ circuit, readings: [], priors });
  if (made.kind === "problem") throw new Error(made.message);
  return made;
}

describe("the seeded bench", () => {
  it("draws the same for the same seed", () => {
    const run = (seed: number) => {
      const random = seededRandom(seed);
      return JSON.stringify([drawCircuit(9, random), random.next(), random.normal()]);
    };
    expect(run(5)).toBe(run(5));
    expect(run(5)).not.toBe(run(6));
  });

  it("draws uniform and normal numbers", () => {
    const random = seededRandom(1);
    const n = 20_000;
    const uniform = Array.from({ length: n }, () => random.next());
    const normal = Array.from({ length: n }, () => random.normal());
    const mean = (list: readonly number[]) => list.reduce((s, v) => s + v, 0) / n;
    expect(mean(uniform)).toBeCloseTo(0.5, 1);
    expect(Math.min(...uniform)).toBeGreaterThanOrEqual(0);
    expect(Math.max(...uniform)).toBeLessThan(1);
    expect(Math.abs(mean(normal))).toBeLessThan(0.03);
    expect(mean(normal.map((v) => v * v))).toBeCloseTo(1, 1);
  });

  it("draws circuits that solve, with as many parts as asked for", () => {
    const random = seededRandom(2);
    for (let count = 3; count < 30; count += 1) {
      const circuit = drawCircuit(count, random);
      expect(circuit.parts).toHaveLength(count + 1);
      expect(new Set(circuit.parts.map((p) => p.designator)).size).toBe(count + 1);
      expect(prepare({ circuit, readings: [] }).kind).toBe("prepared");
    }
  });

  it("breaks circuits as often, and in the ways, that the priors say", () => {
    const drawer = new FaultDrawer(prepared(TRAIL, { healthy: 0.2 }));
    const random = seededRandom(3);
    const n = 4000;
    const drawn = Array.from({ length: n }, () => drawer.draw(random));
    const share = (test: (d: (typeof drawn)[number]) => boolean) => drawn.filter(test).length / n;
    expect(share((d) => d.length === 0)).toBeCloseTo(0.2, 1);
    // Shorts blow the fuse besides: two faults come out a little oftener than 8 % of the rest.
    expect(share((d) => d.length === 2)).toBeGreaterThan(0.05);
    expect(share((d) => d.length === 2)).toBeLessThan(0.12);
    const ofFuse = share((d) => d.length === 1 && d[0].site.mode === "open" && d[0].site.branch === 1);
    const weights = 10 + 10 + 1 + 1 + 0.3 * 2;
    expect(ofFuse).toBeCloseTo((0.8 * 0.92 * 9.5) / weights, 1);
  });

  it("reads within the meter's limits, rounds to the display, and slips as often as told", () => {
    const network = buildNetwork(readTrail(TRAIL).circuit ?? drawCircuit(3, seededRandom(1)));
    const point: NumericReading = { quantity: "voltage", from: "B", value: 0 };
    const take = (blunder: number, seed: number) => {
      const options = { meter: meterData({}), bridges: [], blunder, counts: 6000 };
      const taken = takeReadings(network, [], [point], options, seededRandom(seed));
      if (!taken) throw new Error("unsolvable");
      return taken[0];
    };
    const well = Array.from({ length: 400 }, (_, seed) => take(0, seed).reading.value);
    const mean = well.reduce((s, v) => s + v, 0) / well.length;
    // 12 V over two alike: half of it less what the fuse takes, spread by 5 % parts.
    expect(mean).toBeCloseTo(6, 1);
    const sd = Math.sqrt(well.reduce((s, v) => s + (v - mean) ** 2, 0) / well.length);
    expect(sd).toBeGreaterThan(0.08);
    expect(sd).toBeLessThan(0.18);
    for (const value of well) expect(value).toBeCloseTo(Math.round(value * 1000) / 1000, 9);
    const slips = Array.from({ length: 600 }, (_, seed) => take(0.5, seed).slip);
    expect(slips.filter((s) => s !== null).length / 600).toBeCloseTo(0.5, 1);
    expect(new Set(slips)).toEqual(new Set([null, "sign", "kilo", "milli", "zero", "other"]));
  });
});
