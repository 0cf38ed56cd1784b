import { describe, expect, it } from "vitest";
import { buildNetwork, type Circuit } from "../circuit/index.ts";
import { bridgeCandidates } from "../faults/index.ts";
import { prepare, type RankInput, weighToEnd } from "../rank/index.ts";
import { meterData, type NumericReading } from "../record/index.ts";
import { drawCircuit, FaultDrawer, type Random, seededRandom, takeReadings } from "../simulate/index.ts";
import { everyPoint } from "../test/arbitrary/circuits.ts";
import { type Plan, planMeasurements } from "./index.ts";

interface Bench {
  readonly circuit: Circuit;
  /** What the meter shows at every point, with a fault hidden. */
  readonly shown: readonly NumericReading[];
}

function hideFault(random: Random, parts: number): Bench {
  for (;;) {
    const circuit = drawCircuit(parts, random);
    const network = buildNetwork(circuit);
    const prepared = prepare({ circuit, readings: [], priors: { healthy: 1e-6, doubleShare: 0 } });
    if (prepared.kind === "problem") continue;
    const options = { meter: meterData({}), bridges: bridgeCandidates(network), blunder: 0, counts: 6000 };
    const faults = new FaultDrawer(prepared).draw(random);
    const taken = takeReadings(network, faults, everyPoint(circuit), options, random);
    if (taken) return { circuit, shown: taken.map((t) => t.reading) };
  }
}

function planOn({ circuit }: Bench, readings: readonly NumericReading[]): Plan {
  const input: RankInput = { circuit, readings };
  // One fault is hidden: two need not be weighed.
  const weighing = weighToEnd(input, { pairs: false });
  const plan = weighing.kind === "problem" ? null : planMeasurements(input, weighing, { count: 200 });
  if (!plan) throw new Error("no plan");
  return plan;
}

const pointOf = (reading: NumericReading) => {
  const { value, ...where } = { ...reading, step: undefined, plusMinus: undefined };
  return JSON.stringify(where, Object.keys(where).sort());
};

/** Entropy over the groups after each reading, taken where `choose` says among those not taken yet. */
function follow(bench: Bench, count: number, choose: (plan: Plan, left: readonly NumericReading[]) => NumericReading) {
  const taken: NumericReading[] = [];
  let plan = planOn(bench, taken);
  const entropies = [plan.entropyBits];
  while (taken.length < count) {
    const left = bench.shown.filter((r) => !taken.includes(r));
    taken.push(choose(plan, left));
    plan = planOn(bench, taken);
    entropies.push(plan.entropyBits);
  }
  return entropies;
}

const mean = (list: readonly number[]) => list.reduce((a, b) => a + b, 0) / list.length;

describe("following the plan", () => {
  it("narrows a hidden fault down in fewer readings than probing at random", () => {
    const random = seededRandom(77);
    const READINGS = 2;
    const benches = Array.from({ length: 24 }, (_, n) => hideFault(random, 5 + (n % 2)));
    const planned = benches.map((bench) =>
      follow(bench, READINGS, ({ offers }, left) => {
        // What tells most, whatever it costs.
        const byBits = [...offers].sort((a, b) => b.informationBits - a.informationBits);
        const wanted = byBits.flatMap(({ measurement }) =>
          "reading" in measurement ? [pointOf(measurement.reading)] : [],
        );
        const rankOf = (r: NumericReading) => (wanted.indexOf(pointOf(r)) + 1 || wanted.length + 1) - 1;
        return left.reduce((best, r) => (rankOf(r) < rankOf(best) ? r : best), left[0]);
      }),
    );
    const chance = benches.map((bench) =>
      follow(bench, READINGS, (_, left) => left[Math.floor(random.next() * left.length)]),
    );
    const after = (paths: readonly (readonly number[])[], n: number) => mean(paths.map((p) => p[n]));
    // Before any reading both know the same; with each, the plan leads.
    expect(after(planned, 0)).toBeCloseTo(after(chance, 0), 9);
    expect(after(planned, 1)).toBeLessThan(after(chance, 1) - 0.2);
    expect(after(planned, READINGS)).toBeLessThan(after(chance, READINGS) - 0.2);
    // … and what is left at the end is little of what there was.
    expect(after(planned, READINGS)).toBeLessThan(0.6 * after(planned, 0));
  });

  it("offers the same measurements in every school, each with as much to learn", () => {
    const random = seededRandom(5);
    for (let n = 0; n < 6; n += 1) {
      const bench = hideFault(random, 6);
      const input: RankInput = { circuit: bench.circuit, readings: bench.shown.slice(0, 1) };
      const weighing = weighToEnd(input);
      if (weighing.kind === "problem") throw new Error(weighing.message);
      const offered = (["information", "halfSplit", "fromSupply", "swapOne"] as const).map((school) => {
        const plan = planMeasurements(input, weighing, { school, count: 500 }) as Plan;
        for (const { informationBits } of plan.suggestions) {
          expect(informationBits).toBeGreaterThan(-1e-9);
          expect(informationBits).toBeLessThan(plan.entropyBits + 0.05);
        }
        return new Set(plan.suggestions.map((s) => `${JSON.stringify(s.measurement)} ${s.informationBits.toFixed(9)}`));
      });
      for (const others of offered) expect(others).toEqual(offered[0]);
    }
  });
});
