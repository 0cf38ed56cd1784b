import { describe, expect, it } from "vitest";
import { buildNetwork, type Circuit } from "../circuit/index.ts";
import { readTrail } from "../notation/index.ts";
import { prepare } from "../rank/index.ts";
import { meterData, type NumericReading } from "../record/index.ts";
import { drawFactorsInto } from "./drawFactors.ts";
import { drawCircuit, FaultDrawer, type Random, seededRandom, takeReadings } from "./index.ts";

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
      for (const { from, to } of circuit.parts) expect(from).not.toBe(to);
      expect(circuit.parts).toHaveLength(count + 1);
      expect(new Set(circuit.parts.map((p) => p.designator)).size).toBe(count + 1);
      for (const { designator } of circuit.parts) expect(designator).toMatch(/^[A-Z]+[1-9]\d?$/);
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

  it("breaks what brings a job here on a complaint: what nobody could have noticed comes as rarely as the model says", () => {
    const circuit = readTrail("BT1 24V: [A] R1 1k").circuit as Circuit;
    const random = seededRandom(4);
    const shareOfWeak = (situation: "complaint" | "newBuild") => {
      const ready = prepare({ circuit, readings: [], situation, priors: { healthy: 0, doubleShare: 0 } });
      if (ready.kind === "problem") throw new Error(ready.message);
      const drawer = new FaultDrawer(ready);
      const drawn = Array.from({ length: 800 }, () => drawer.draw(random)[0].site.mode);
      return drawn.filter((mode) => mode === "weak").length / drawn.length;
    };
    // Of a rate of 10 beside 1 for R1, four in ten are a battery weak inside: by at most 15 Ω before 1 kΩ.
    expect(shareOfWeak("newBuild")).toBeGreaterThan(0.33);
    const noticed = 0.033;
    expect(shareOfWeak("complaint")).toBeLessThan((2 * 4 * noticed) / 7);
    expect(shareOfWeak("complaint")).toBeGreaterThan((0.3 * 4 * noticed) / 7);
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
    expect(new Set(slips)).toEqual(new Set([null, "sign", "kilo", "milli", "ten", "tenth", "zero", "other"]));
  });

  /** Numbers as told: every uniform one in turn, normal ones all the same. */
  const told = (uniform: readonly number[], normal = 0): Random => {
    const left = [...uniform];
    return { next: () => left.shift() ?? 0.999, normal: () => normal };
  };
  const on = (trail: string) => buildNetwork(readTrail(trail).circuit as Circuit);
  const bench = { meter: meterData({}), bridges: [], counts: 6000 };

  it("slips by the sign, a thousand or ten either way, no contact, or anything up to half as much again", () => {
    const network = on("BT1 12V ri=0: [A] R1 100 + [B] R2 100");
    const slip = (...uniform: number[]) => {
      const point: NumericReading = { quantity: "voltage", from: "B", value: 0 };
      const taken = takeReadings(network, [], [point], { ...bench, blunder: 1 }, told([0, ...uniform]));
      return [taken?.[0].slip, taken?.[0].reading.value];
    };
    expect(slip(0.39)).toEqual(["sign", -6]);
    expect(slip(0.41)).toEqual(["kilo", 6000]);
    expect(slip(0.51)).toEqual(["milli", 0.006]);
    expect(slip(0.61)).toEqual(["ten", 60]);
    expect(slip(0.66)).toEqual(["tenth", 0.6]);
    expect(slip(0.71)).toEqual(["zero", 0]);
    expect(slip(0.91, 1)).toEqual(["other", 9]);
    expect(slip(0.91, 0)).toEqual(["other", -9]);
    // A thousandth keeps as many digits as were on the display.
    const odd = on("BT1 12V ri=0: [A] R1 100 + [B] R2 47");
    const point: NumericReading = { quantity: "voltage", from: "B", value: 0 };
    const [taken] = takeReadings(odd, [], [point], { ...bench, blunder: 1 }, told([0, 0.55])) ?? [];
    expect(taken.reading.value).toBeCloseTo(0.003837, 9);
  });

  it("shows OL above the top of its ohms, and the ohms below", () => {
    const network = on("[A] R1 39M + [B] R2 2M [C]");
    const ohms = (from: string, to: string): NumericReading => ({ quantity: "resistance", from, to, value: 0 });
    const taken = takeReadings(network, [], [ohms("A", "B"), ohms("A", "C")], { ...bench, blunder: 0 }, told([]));
    expect(taken?.[0].reading).toMatchObject({ value: expect.closeTo(39e6, -5) });
    expect(taken?.[0].reading.beyond).toBeUndefined();
    expect(taken?.[1].reading).toMatchObject({ value: 4e7, beyond: "over" });
  });

  it("moves a part by half its tolerance a standard deviation, and a potentiometer's sections as one track", () => {
    const network = on("BT1 10V 4% ri=0: [P] R1 100 10% + [Q] RV1 10k 20% at=40% wiper=[W]");
    const factor = (name: string, normal: number) => {
      const out = new Float64Array(network.branches.length);
      drawFactorsInto(network, told([], normal), 0.01, out);
      return out[network.branches.findIndex((b) => b.name === name)];
    };
    expect(factor("BT1", 1)).toBeCloseTo(1.02, 12);
    expect(factor("R1", -2)).toBeCloseTo(0.9, 12);
    // The track is 10 % off; the wiper half a percent of it, which the top gains and the bottom loses.
    expect(factor("RV1.top", 1)).toBeCloseTo(1.1 * (1 + 0.005 / 0.4), 12);
    expect(factor("RV1.bottom", 1)).toBeCloseTo(1.1 * (1 - 0.005 / 0.6), 12);
    const [top, bottom] = [factor("RV1.top", 3), factor("RV1.bottom", 3)];
    expect(0.4 * top + 0.6 * bottom).toBeCloseTo(1.3, 12);
    // Nothing gets smaller than is allowed.
    expect(factor("R1", -50)).toBe(0.01);
    expect(factor("RV1.top", -50)).toBe(0.01);
  });
});

it("draws circuits of the kinds and as deep as asked: a circuit one deep folds in a row of forks, one of none in a row", () => {
  const random = seededRandom(8);
  for (let n = 0; n < 40; n += 1) {
    const row = drawCircuit(3 + (n % 9), random, { hasBridges: false, depth: 0, kinds: ["resistor"] });
    // All in a row: each node joins just two ends.
    const ends = row.parts.flatMap((p) => [p.from, p.to]);
    for (const node of ends) expect(ends.filter((e) => e === node)).toHaveLength(2);
    expect(row.parts.filter((p) => p.kind !== "supply").every((p) => p.kind === "resistor")).toBe(true);
    // One deep: with every branch's inner nodes taken out, what is left are parts beside each other between the row's nodes.
    const { parts } = drawCircuit(3 + (n % 9), random, { hasBridges: false, depth: 1 });
    let edges = parts.map((p): [string, string] => [p.from, p.to]);
    const joined = (node: string) => edges.filter((e) => e.includes(node));
    const inner = () =>
      [...new Set(edges.flat())].find((node) => joined(node).length === 2 && node !== "0" && node !== "N1");
    for (let node = inner(); node !== undefined; node = inner()) {
      const [a, b] = joined(node);
      const far = [a, b].map((e) => (e[0] === node ? e[1] : e[0])) as [string, string];
      edges = [...edges.filter((e) => e !== a && e !== b), far];
    }
    const pairs = new Set(edges.map((e) => [...e].sort().join(" ")));
    // What is left of nodes is a ring: as many pairs as nodes, or one pair of two.
    const nodes = new Set(edges.flat());
    expect(pairs.size).toBe(nodes.size === 2 ? 1 : nodes.size);
  }
});
