import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { buildNetwork, type Circuit, type Part } from "../../circuit/index.ts";
import { readTrail } from "../../notation/index.ts";
import { meterData, type NumericReading } from "../../record/index.ts";
import { monteCarlo, seededRandom } from "../../simulate/index.ts";
import { solveNetwork } from "../../solve/index.ts";
import { linearCircuits } from "../../test/arbitrary/circuits.ts";
import { cornersOf, equivalentBetween, expectChart, expectReadings, settleUnknowns, type Window } from "../index.ts";

const networkOf = (trail: string) => buildNetwork(readTrail(trail).circuit as Circuit);
const VENT = "BT1 24V 2% ri=0.3: F1 1A + [A] R1 220 5% + [B] (R2 1k 5% | R3 470 2% + [C] R4 330 5%) + [D] R5 100 10%";
const LAMPS = "BT1 12V: F1 5A + [A] (LA1 12V 5W | R1 22 5% + [B] LA2 6V 3W) + [C] R2 1.5 5%";

function sampled(trail: string, draws: number) {
  const network = networkOf(trail);
  const run = monteCarlo(network, draws, seededRandom(7));
  let step = run.next();
  const shares: number[] = [];
  while (!step.done) {
    shares.push(step.value);
    step = run.next();
  }
  return { network, samples: step.value, shares };
}

function momentsOf(values: Float64Array, stride: number, at: number) {
  let [sum, square, n] = [0, 0, 0];
  for (let i = at; i < values.length; i += stride, n += 1) {
    sum += values[i];
    square += values[i] ** 2;
  }
  const mean = sum / n;
  return { mean, deviation: Math.sqrt(Math.max(0, square / n - mean * mean)) };
}

describe("what a healthy circuit should show", () => {
  it.each([
    ["a shining one at the end of its volts", "PS1 2.8V 5%: R1 47 5% + [A] LED1 white", "LED1"],
    ["a Zener at its knee", "PS1 5.6V 5%: R1 100 5% + [A] (ZD1 5V1 rev | R2 2k 5%)", "ZD1"],
    [
      "two supplies with a diode each",
      "BT1 12V 5% ri=0.5: [P] D1 + [A] R1 100 5%\n[0] BT2 12V 5% ri=0.5 [Q]\n[Q] D2 [A]",
      "D1",
    ],
    ["a contact whose coil may pull or not", "PS1 11.4V 10%: [A] K1 16V 1W\n[A] K1.no + [B] R1 100 5% [0]", "R1"],
  ])("where %s, its window is that of drawn circuits", (_, trail, bending) => {
    const { network, samples } = sampled(trail, 6000);
    const chart = expectChart(network);
    if (!chart) throw new Error("unsolvable");
    const [N, B] = [network.nodes.length, network.branches.length];
    const ends = (values: number[]) => {
      const rising = values.sort((a, b) => a - b);
      return [0.02275, 0.97725].map((q) => rising[Math.round(q * (rising.length - 1))]);
    };
    const near = (window: Window, values: number[]) => {
      const [low, high] = ends(values);
      const own = window.drawn?.likely ?? { low: window.value - window.two, high: window.value + window.two };
      const within = 0.1 * (high - low) + 1e-6;
      expect(Math.abs(own.low - low), `${own.low} ${low}`).toBeLessThan(within);
      expect(Math.abs(own.high - high), `${own.high} ${high}`).toBeLessThan(within);
      if (!window.drawn) return;
      expect(window.drawn.worst.low).toBeLessThanOrEqual(own.low);
      expect(window.drawn.worst.high).toBeGreaterThanOrEqual(own.high);
    };
    const draws = Array.from({ length: samples.draws }, (_, d) => d);
    network.nodes.forEach((_, n) => {
      near(
        chart.nodes[n],
        draws.map((d) => samples.volts[d * N + n] - samples.volts[d * N + network.reference]),
      );
    });
    network.branches.forEach(({ name, kind }, k) => {
      if (kind === "supply") return;
      const through = draws.map((d) => samples.amps[d * B + k]);
      near(chart.branches[k].amps, through);
      if (name === bending) expect(chart.branches[k].amps.drawn).toBeDefined();
    });
    // The same wherever it is asked for.
    const [asked] = expectReadings(network, [{ quantity: "current", through: bending, value: 0 }], null) ?? [];
    const { drawn } = chart.branches[network.branches.findIndex((b) => b.name === bending)].amps;
    expect(asked.drawn?.likely.low).toBeCloseTo(drawn?.likely.low ?? Number.NaN, 6);
    expect(asked.drawn?.likely.high).toBeCloseTo(drawn?.likely.high ?? Number.NaN, 6);
  });

  it.each([
    ["resistors", VENT],
    ["lamps", LAMPS],
    // One conducts, one breaks down, one blocks, and one has nothing to do.
    [
      "diodes",
      "BT1 12V 2%: F1 0.5A + [P] R1 100 5% + [A] (ZD1 5V1 rev | R2 820 5% | R3 470 5% + [L] LED1 red)\n[A] R5 1k + [M] D1 rev [0]\n[0] LED2 green + [B] R4 1k [0]",
    ],
  ])("windows agree with Monte Carlo: %s", (_, trail) => {
    const { network, samples, shares } = sampled(trail, 6000);
    expect(shares.at(-1)).toBe(1);
    const chart = expectChart(network);
    if (!chart) throw new Error("unsolvable");
    const near = (window: { value: number; two: number }, found: { mean: number; deviation: number }) => {
      // What leaks through what blocks is no straight line, and no meter shows it.
      if (window.two < 1e-7) return;
      // The sampled deviation itself has a standard error of 1/√(2n); tolerances bend the rest.
      expect(found.deviation * 2).toBeGreaterThan(window.two * 0.93);
      expect(found.deviation * 2).toBeLessThan(window.two * 1.08);
      expect(Math.abs(found.mean - window.value)).toBeLessThan(0.15 * window.two + 1e-9);
    };
    chart.nodes.forEach((w, n) => {
      near(w, momentsOf(samples.volts, network.nodes.length, n));
    });
    chart.branches.forEach((b, k) => {
      near(b.amps, momentsOf(samples.amps, network.branches.length, k));
    });
  });

  it("windows agree with Monte Carlo on any network, for tolerances up to a tenth", () => {
    const DRAWS = 1500;
    fc.assert(
      fc.property(linearCircuits({ most: 10 }), fc.nat(), (circuit, seed) => {
        const network = buildNetwork(circuit);
        const chart = expectChart(network);
        if (!chart) return;
        const run = monteCarlo(network, DRAWS, seededRandom(seed));
        let step = run.next();
        while (!step.done) step = run.next();
        const { volts, amps } = step.value;
        const supplied = circuit.parts.reduce((s, p) => s + (p.kind === "supply" ? (p.volts ?? 0) : 0), 0);
        const most = Math.max(...chart.branches.map((b) => Math.abs(b.amps.value)));
        // Four standard errors of a deviation from so many draws, and what is of second order in the tolerances.
        const near = ({ two }: Window, { deviation }: { deviation: number }, scale: number) =>
          expect(Math.abs(2 * deviation - two)).toBeLessThan((4 / Math.sqrt(2 * DRAWS)) * two + 0.003 * scale);
        for (const [n, w] of chart.nodes.entries()) near(w, momentsOf(volts, network.nodes.length, n), supplied);
        for (const [k, b] of chart.branches.entries()) near(b.amps, momentsOf(amps, network.branches.length, k), most);
      }),
      { numRuns: 40 },
    );
  });

  it("gives the solver's values, shares that add up, and powers that balance", () => {
    const network = networkOf(VENT);
    const chart = expectChart(network);
    const solution = solveNetwork(network);
    if (!chart || solution.kind !== "solved") throw new Error("unsolvable");
    chart.nodes.forEach((w, n) => {
      expect(w.value).toBeCloseTo(solution.volts[n], 9);
    });
    chart.branches.forEach((b, k) => {
      expect(b.amps.value).toBeCloseTo(solution.amps[k], 9);
      expect(b.watts.value).toBeCloseTo(solution.watts[k], 9);
      expect(b.volts.worst).toBeGreaterThanOrEqual(b.volts.two - 1e-12);
      const sum = b.amps.causes.reduce((s, c) => s + c.share, 0);
      expect(sum).toBeGreaterThan(0.95);
      expect(sum).toBeLessThanOrEqual(1 + 1e-9);
    });
    expect(chart.branches.reduce((s, b) => s + b.watts.value, 0)).toBeCloseTo(0, 9);
  });

  it("meets its worst case in a corner that is solved, not extrapolated", () => {
    const network = networkOf("BT1 10V 0% ri=0: [P] R1 1k 10% + [A] R2 1k 10%");
    const [low, high] = cornersOf(network, { quantity: "voltage", from: "A", value: 0 }) ?? [];
    expect(low).toBeCloseTo((10 * 0.9) / 2, 9);
    expect(high).toBeCloseTo((10 * 1.1) / 2, 9);
  });

  it("looks into the circuit from two nodes as Thévenin did, and as a meter does", () => {
    const network = networkOf("BT1 10V ri=0: [P] R1 1M 1% + [A] R2 1M 1%");
    const seen = equivalentBetween(network, "A", "0", { voltage: { inputResistance: 1e6 } });
    expect(seen?.openVolts).toBeCloseTo(5, 9);
    expect(seen?.sourceOhms).toBeCloseTo(5e5, 3);
    expect(seen?.shortAmps).toBeCloseTo(1e-5, 12);
    expect(seen?.offOhms).toBeCloseTo(1e6, 3);
    expect(seen?.readVolts).toBeCloseTo((5 * 1e6) / 1.5e6, 9);
  });

  it("equals, from any two nodes of any network, what a load hung there finds", () => {
    fc.assert(
      fc.property(
        linearCircuits({ most: 12 }),
        fc.nat(),
        fc.nat(),
        fc.integer({ min: 1, max: 5 }),
        (circuit, a, b, decade) => {
          const network = buildNetwork(circuit);
          const [from, to] = [network.nodes[a % network.nodes.length], network.nodes[b % network.nodes.length]];
          if (from === to) return;
          const seen = equivalentBetween(network, from, to, {});
          if (!seen) return;
          const ohms = 10 ** decade;
          const load: Part = {
            designator: "R900",
            kind: "resistor",
            from,
            to,
            tolerance: 0,
            resistance: { by: "ohms", ohms },
          };
          const loaded = solveNetwork(buildNetwork({ ...circuit, parts: [...circuit.parts, load] }));
          if (loaded.kind !== "solved") throw new Error(loaded.why);
          const across =
            loaded.volts[loaded.network.nodes.indexOf(from)] - loaded.volts[loaded.network.nodes.indexOf(to)];
          const scale = Math.max(1, Math.abs(seen.openVolts));
          expect(across / scale).toBeCloseTo((seen.openVolts * ohms) / (ohms + seen.sourceOhms) / scale, 7);
        },
      ),
      { numRuns: 100 },
    );
  });

  it("lies between its corners, and the corners within the worst case to first order, for small tolerances", () => {
    fc.assert(
      fc.property(linearCircuits({ most: 10 }), fc.nat(), (circuit, pick) => {
        const network = buildNetwork(circuit);
        const chart = expectChart(network);
        if (!chart) return;
        const k = pick % network.branches.length;
        const corners = cornersOf(network, { quantity: "current", through: network.branches[k].name, value: 0 });
        if (!corners) return;
        const { value, worst } = chart.branches[k].amps;
        const shown = network.branches[k].kind === "supply" ? -value : value;
        const slack = 1e-9 + 1e-9 * Math.abs(value);
        expect(shown).toBeGreaterThanOrEqual(corners[0] - slack);
        expect(shown).toBeLessThanOrEqual(corners[1] + slack);
        // Tolerances of a tenth bend what is linear for small ones.
        expect(corners[1] - corners[0]).toBeLessThan(2 * worst * 1.6 + slack);
      }),
      { numRuns: 100 },
    );
  });

  it("draws the same circuits from the same seed, and others from another", () => {
    const first = (seed: number) => {
      const run = monteCarlo(networkOf(VENT), 50, seededRandom(seed));
      for (let step = run.next(); ; step = run.next()) if (step.done) return step.value.volts;
    };
    expect(first(3)).toEqual(first(3));
    expect(first(3)).not.toEqual(first(4));
  });

  it("adds up every part's pull for the worst case", () => {
    const network = buildNetwork(readTrail("BT1 10V 0% ri=0: [A] R1 1k 10% + [B] R2 1k 4%").circuit as Circuit);
    const at = expectChart(network)?.nodes[network.nodes.indexOf("B" as never)];
    // Half the volts: each part moves it by a quarter of its own share of 10 V.
    expect(at?.worst).toBeCloseTo(2.5 * 0.1 + 2.5 * 0.04, 6);
    expect(at?.two).toBeCloseTo(Math.hypot(2.5 * 0.1, 2.5 * 0.04), 6);
  });

  it("says between what a figure lies while a value is not known, and a number once readings tell", () => {
    const trail = "BT1 12V ri=0: [A] R1 ? + [B] R2 ? + [C] R3 1k";
    const circuit = readTrail(trail).circuit as Circuit;
    const at = (readings: readonly NumericReading[]) => {
      const settled = settleUnknowns(circuit, readings, meterData());
      return buildNetwork(settled?.narrowed as Circuit);
    };
    const volts = (from: string): NumericReading => ({ quantity: "voltage", from, value: 0 });
    const [a, b] = expectReadings(at([]), [volts("A"), volts("B")], null) ?? [];
    expect(a.reach).toBeUndefined();
    expect(b.reach?.low).toBeCloseTo(0, 1);
    expect(b.reach?.high).toBeCloseTo(12, 1);
    const chart = expectChart(at([]));
    expect(chart?.branches[1].amps.reach?.high).toBeCloseTo(0.0118, 3);
    expect(chart?.branches[0].volts.reach).toBeUndefined();
    // Of two alone a drop of 3 V leaves their ratio: the point between is known, the current is not.
    const two = readTrail("BT1 12V ri=0: [A] R1 ? + [B] R2 ?").circuit as Circuit;
    const drop: NumericReading = { quantity: "voltage", from: "A", to: "B", value: 3 };
    const narrowed = buildNetwork(settleUnknowns(two, [drop], meterData())?.narrowed as Circuit);
    const [between] = expectReadings(narrowed, [volts("B")], null) ?? [];
    expect(between.value).toBeCloseTo(9, 1);
    expect((between.reach?.high ?? 9) - (between.reach?.low ?? 9)).toBeLessThan(1.5);
    const current = expectChart(narrowed)?.branches[1].amps.reach;
    expect((current?.high ?? 0) / (current?.low ?? 1)).toBeGreaterThan(100);
    // 6 V and 3 V with 1 k at the end: 2 k and 1 k, known as well as the meter and the parts allow.
    const known = expectReadings(
      at([
        { ...volts("B"), value: 6 },
        { ...volts("C"), value: 3 },
      ]),
      [volts("B")],
      null,
    );
    expect(known?.[0].reach).toBeUndefined();
    expect(known?.[0].value).toBeCloseTo(6, 1);
    expect(known?.[0].plusMinus).toBeLessThan(1.5);
  });
});
