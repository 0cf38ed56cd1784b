import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { buildNetwork, type Circuit, type Network } from "../circuit/index.ts";
import { readTrail } from "../notation/index.ts";
import { seededRandom } from "../simulate/index.ts";
import { NodalSolver, solveNetwork } from "../solve/index.ts";
import { linearCircuits } from "../test/arbitrary/circuits.ts";
import { parseQuantity } from "../units/index.ts";
import {
  checksOf,
  loopsOf,
  nodeEquations,
  reduceNetwork,
  type School,
  SUMS,
  statesOfParts,
  sumOf,
  wayBack,
} from "./index.ts";

const networkOf = (trail: string) => buildNetwork(readTrail(trail).circuit as Circuit);
const ohmsOf = (network: Network) => network.branches.map((b) => (b.law.kind === "resistance" ? b.law.ohms : 0));
const solved = (network: Network) => {
  const solution = solveNetwork(network);
  if (solution.kind !== "solved") throw new Error(solution.why);
  const states = network.branches.map((b, k) => ({
    volts: solution.volts[b.from] - solution.volts[b.to],
    amps: solution.amps[k],
  }));
  return { solution, states };
};

function nest(depth: number, random: { next(): number }, count: { parts: number }): string {
  if (depth === 0 || random.next() < 0.3) {
    count.parts += 1;
    return `R${count.parts} ${1 + Math.floor(random.next() * 900)}`;
  }
  const several = Array.from({ length: 2 + Math.floor(random.next() * 2) }, () => nest(depth - 1, random, count));
  return random.next() < 0.5 ? several.join(" + ") : `(${several.join(" | ")})`;
}

const VENT =
  "BT1 24V ri=0.3: F1 1A + [A] R1 220 + [B] (R2 1k | R3 470 + [C] R4 330) + [D] R5 100\n[B] R9 10k [D]\n[A] S1 open + R8 5 [D]";
const BRIDGE = "BT1 9V: [P] (R1 10 + [L] R2 22 | R3 33 + [M] R4 47)\n[L] R5 5 [M]";

const exactly = (school: keyof typeof SUMS, shortcut: boolean) => ({ round: (v: number) => v, school, shortcut });

describe("reduction", () => {
  it("agrees with the solver there and back, on random series–parallel circuits", () => {
    const random = seededRandom(3);
    for (let round = 0; round < 80; round += 1) {
      const network = networkOf(`BT1 9V ri=0.7: [P] ${nest(3, random, { parts: 0 })} + [Q] R999 10`);
      const reduction = reduceNetwork(network, ohmsOf(network));
      expect(reduction.stops).toBeNull();
      const back = wayBack(network, reduction);
      if (!back) throw new Error("no way back");
      const { states } = solved(network);
      const found = statesOfParts(network, back);
      expect(found.size).toBe(network.branches.length - 1);
      for (const [branch, { volts, amps }] of found) {
        expect(volts).toBeCloseTo(states[branch].volts, 9);
        expect(amps).toBeCloseTo(states[branch].amps, 9);
      }
      expect(Math.abs(back.total.amps)).toBeCloseTo(Math.abs(states[0].amps), 9);
    }
  });

  it("goes innermost first, says why, and leaves out what carries nothing", () => {
    const { steps, idle, left, stops } = reduceNetwork(networkOf(VENT), ohmsOf(networkOf(VENT)));
    expect(steps.map((s) => `${s.result.name}: ${s.kind} ${s.parts.map((p) => p.name).join(" ")}`)).toEqual([
      "Ra: series R3 R4",
      "Rb: parallel R2 Ra R9",
      "Rc: series F1 R1 Rb R5",
    ]);
    expect(steps[0].why).toMatch(/nothing else joins at C/);
    expect(steps[1].why).toMatch(/same two nodes, B and D/);
    expect(idle.map((i) => i.why)).toEqual(["S1 is open", expect.stringMatching(/^R8 leads to/)]);
    expect([left.length, stops]).toEqual([1, null]);
  });

  it("stops at a bridge and at a second supply, and says where", () => {
    const bridge = reduceNetwork(networkOf(BRIDGE), ohmsOf(networkOf(BRIDGE)));
    expect(bridge.left).toHaveLength(5);
    expect(bridge.stops).toMatch(/a bridge$/);
    expect(wayBack(networkOf(BRIDGE), bridge)).toBeNull();
    const two = networkOf("BT1 9V: [P] R1 10 + [A] R2 22\n[0] BT2 5V + R3 4 [A]");
    expect(reduceNetwork(two, ohmsOf(two)).stops).toMatch(/^BT2 is a supply among the rest/);
    const none = networkOf("[A] R1 10 [B]");
    expect(reduceNetwork(none, ohmsOf(none)).stops).toMatch(/no supply/);
  });

  it("is written in each school, to the same result", () => {
    const network = networkOf("BT1 9V: (R1 100 | R2 100 | R3 100) + R4 5");
    const [parallel, series] = reduceNetwork(network, ohmsOf(network)).steps;
    const plain = (lines: readonly string[]) => lines.join("\n").replaceAll("\u00a0", " ");
    expect(plain(sumOf(parallel, exactly("reciprocals", true)))).toBe("Ra = R1 ÷ 3\n= 100 Ω ÷ 3 = 33.33 Ω");
    expect(plain(sumOf(parallel, exactly("reciprocals", false)))).toMatch(
      /1\/Ra = 1\/R1 .*\n= 0.01000 .* = 0.03000 \(30.00 mS\)\nRa = 1 ÷ 0.03000 = 33.33 Ω/,
    );
    expect(plain(sumOf(parallel, exactly("conductances", false)))).toMatch(/G\(R3\)[\s\S]*Ra = 1\/G = 33.33 Ω/);
    expect(plain(sumOf(parallel, exactly("product", false)))).toMatch(
      /100 Ω × 100 Ω[\s\S]*Ra: \(50 Ω × 100 Ω\) .* = 33.33 Ω$/,
    );
    expect(plain(sumOf(series, exactly("product", true)))).toMatch(/^Rb = Ra \+ R4\n= .* = 38.33 Ω$/);
  });
});

describe("sums as one writes them", () => {
  it("end in the composite's own value, in every school, with and without the shortcut", () => {
    const random = seededRandom(21);
    const schools = Object.keys(SUMS) as School[];
    let shortcuts = 0;
    for (let round = 0; round < 60; round += 1) {
      const network = networkOf(`BT1 9V: [P] ${nest(3, random, { parts: 0 })} + [Q] R998 47 + (R997 30 | R996 30)`);
      for (const step of reduceNetwork(network, ohmsOf(network)).steps) {
        for (const school of schools) {
          for (const shortcut of [true, false]) {
            const lines = sumOf(step, exactly(school, shortcut));
            if (lines.some((l) => l.includes("÷ 2") || l.includes("÷ 3"))) shortcuts += 1;
            const last = lines[lines.length - 1].split("= ").at(-1) ?? "";
            const read = parseQuantity(last.replace(/\u00a0/g, "").replace("Ω", "ohm"));
            if (read.kind !== "quantity") throw new Error(`${last}: ${read.why}`);
            expect(read.value / step.result.ohms, lines.join("; ")).toBeCloseTo(1, 3);
          }
        }
      }
    }
    expect(shortcuts).toBeGreaterThan(60);
  });
});

describe("equations and checks", () => {
  it("hold on every network that solves, to rounding of the machine", () => {
    fc.assert(
      fc.property(linearCircuits({ most: 14 }), (circuit) => {
        const network = buildNetwork(circuit);
        const { states } = solved(network);
        const checks = checksOf(network, states, reduceNetwork(network, ohmsOf(network)), () => 0);
        expect(checks.filter((c) => !c.holds)).toEqual([]);
        const live = network.branches.filter((b) => b.from !== b.to).length;
        expect(loopsOf(network)).toHaveLength(live - network.nodes.length + 1);
        expect(nodeEquations(network)).toHaveLength(network.nodes.length - 1);
        for (const loop of loopsOf(network)) {
          const ends = loop.map(({ branch, forward }) => {
            const { from, to } = network.branches[branch];
            return forward ? [from, to] : [to, from];
          });
          ends.forEach(([, to], i) => {
            expect(to).toBe(ends[(i + 1) % ends.length][0]);
          });
        }
      }),
      { numRuns: 80 },
    );
  });

  it("can fail: a wrong figure shows in its loop and its junctions, and rounding shows within its limit", () => {
    const network = networkOf(VENT);
    const { states } = solved(network);
    const reduction = reduceNetwork(network, ohmsOf(network));
    const wrong = states.map((s, k) =>
      network.branches[k].name === "R9" ? { volts: s.volts + 1, amps: s.amps * 2 } : s,
    );
    const broken = checksOf(network, wrong, reduction, () => 0).filter((c) => !c.holds);
    expect(new Set(broken.map((c) => c.kind))).toEqual(new Set(["loop", "junction", "power"]));
    const three = (v: number) => Number(v.toPrecision(3));
    const half = (v: number) => (v === 0 ? 0 : 0.5 * 10 ** (Math.floor(Math.log10(Math.abs(v))) - 2));
    const rounded = states.map(({ volts, amps }) => ({ volts: three(volts), amps: three(amps) }));
    const checks = checksOf(network, rounded, reduction, half);
    expect(checks.every((c) => c.holds)).toBe(true);
    expect(checks.some((c) => c.kind === "loop" && c.residual !== 0)).toBe(true);
  });

  it("carry rounded figures as on paper, where that is asked for", () => {
    const network = networkOf(VENT);
    const three = (v: number) => Number(v.toPrecision(3));
    const reduction = reduceNetwork(network, ohmsOf(network), { round: three, school: "reciprocals", shortcut: false });
    expect(reduction.steps[1].result.ohms).toBe(three(reduction.steps[1].result.ohms));
    const back = wayBack(network, reduction, three);
    const exact = solved(network).states[2].amps;
    expect(back?.total.amps).toBe(three(back?.total.amps ?? 0));
    expect((back?.total.amps ?? 0) / exact).toBeCloseTo(1, 2);
  });
});

describe("nodal analysis", () => {
  it("agrees with the solution of the whole network to 1e-9", () => {
    fc.assert(
      fc.property(linearCircuits({ most: 16 }), (circuit) => {
        const network = buildNetwork(circuit);
        const { solution } = solved(network);
        const solver = new NodalSolver(network);
        const ohms = Float64Array.from(network.branches, (b) =>
          b.law.kind === "open" ? Infinity : "ohms" in b.law ? b.law.ohms : 1,
        );
        const sources = Float64Array.from(network.branches, (b) => (b.law.kind === "supply" ? b.law.volts : 0));
        solver.solve(ohms, sources);
        network.nodes.forEach((_, n) => {
          expect(solver.volts[n]).toBeCloseTo(solution.volts[n], 8);
        });
        network.branches.forEach((_, k) => {
          expect(solver.amps[k]).toBeCloseTo(solution.amps[k], 7);
        });
      }),
      { numRuns: 80 },
    );
  });
});
