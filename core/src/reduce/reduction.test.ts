import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { buildNetwork, type Circuit, type Network, type NodeName } from "../circuit/index.ts";
import { readTrail } from "../notation/index.ts";
import { seededRandom } from "../simulate/index.ts";
import { NodalSolver, solveNetwork } from "../solve/index.ts";
import { linearCircuits } from "../test/arbitrary/circuits.ts";
import { examples } from "../test/examples.ts";
import { parseQuantity } from "../units/index.ts";
import {
  checksOf,
  loopsOf,
  madeBy,
  nodeEquations,
  reducedNetwork,
  reduceNetwork,
  type School,
  type Seen,
  type Step,
  SUMS,
  statesOfParts,
  sumOf,
  type WayBack,
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

/** Ohms between two nodes by Kirchhoff's current law: one ampere in at the first, out at the second, by elimination. */
function ohmsBetween(
  branches: readonly { from: number; to: number; ohms: number }[],
  nodes: number,
  [a, b]: readonly [number, number],
): number {
  // Only what hangs together with the second node: it is at 0 V.
  const joined = new Set([b]);
  for (let size = 0; size < joined.size; ) {
    size = joined.size;
    for (const { from, to } of branches) if (joined.has(from) || joined.has(to)) joined.add(from).add(to);
  }
  if (!joined.has(a)) return Number.POSITIVE_INFINITY;
  const own = Array.from({ length: nodes }, (_, n) => n).filter((n) => n !== b && joined.has(n));
  const rows = own.map((n) => [
    ...own.map((m) =>
      branches.reduce((sum, { from, to, ohms }) => {
        if (from === to || (from !== n && to !== n)) return sum;
        if (m === n) return sum + 1 / ohms;
        return from === m || to === m ? sum - 1 / ohms : sum;
      }, 0),
    ),
    n === a ? 1 : 0,
  ]);
  for (let c = 0; c < rows.length; c += 1) {
    const p = rows.slice(c).reduce((best, row, i) => (Math.abs(row[c]) > Math.abs(rows[best][c]) ? c + i : best), c);
    [rows[c], rows[p]] = [rows[p], rows[c]];
    for (let r = 0; r < rows.length; r += 1) {
      if (r === c) continue;
      const factor = rows[r][c] / rows[c][c];
      for (let k = c; k <= rows.length; k += 1) rows[r][k] -= factor * rows[c][k];
    }
  }
  const i = own.indexOf(a);
  return rows[i][rows.length] / rows[i][i];
}

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
    expect(steps.map((s) => `${madeBy(s)[0].name}: ${s.kind} ${s.parts.map((p) => p.name).join(" ")}`)).toEqual([
      "Ra: series R3 R4",
      "Rb: parallel R2 Ra R9",
      "Rc: series F1 R1 Rb R5",
    ]);
    expect(steps[0].why).toMatch(/nothing else joins at C/);
    expect(steps[1].why).toMatch(/same two nodes, B and D/);
    expect(idle.map((i) => i.why)).toEqual(["S1 is open", expect.stringMatching(/^R8 leads to/)]);
    expect([left.length, stops]).toEqual([1, null]);
  });

  it("goes on over a bridge by star and triangle, and stops at a second supply, and says where", () => {
    const network = networkOf(BRIDGE);
    const bridge = reduceNetwork(network, ohmsOf(network));
    expect(bridge.bridge).toMatch(/a bridge$/);
    expect(bridge.steps.map((s) => s.kind)).toEqual(["star", "series", "series", "parallel", "series"]);
    // R1 10, R2 22 and the wire-like R5 5 at L: the corner L joins one part more.
    const [star] = bridge.steps;
    expect(star.why).toMatch(/form a triangle of L, .*: a star with its middle at Y1 does the same$/);
    const lines = sumOf(star, exactly("reciprocals", true)).map((l) => l.replaceAll("\u00a0", " "));
    expect(lines[0]).toMatch(/^sum = .* = \d+ Ω$/);
    expect(lines[1]).toMatch(/^Ra = R\d × R\d ÷ sum = \d+ Ω × \d+ Ω ÷ \d+ Ω = [\d.]+ m?Ω$/);
    const found = statesOfParts(network, wayBack(network, bridge) as WayBack);
    const { states } = solved(network);
    for (const [branch, { volts, amps }] of found) {
      expect(volts).toBeCloseTo(states[branch].volts, 9);
      expect(amps).toBeCloseTo(states[branch].amps, 9);
    }
    expect(found.size).toBe(5);
    const two = networkOf("BT1 9V: [P] R1 10 + [A] R2 22\n[0] BT2 5V + R3 4 [A]");
    expect(reduceNetwork(two, ohmsOf(two)).stops).toMatch(/^BT2 is a supply among the rest/);
    const none = networkOf("[A] R1 10 [B]");
    expect(reduceNetwork(none, ohmsOf(none)).stops).toMatch(/no supply/);
  });

  it("leaves out what came together and leads nowhere, and knows that it carries nothing", () => {
    const network = networkOf(
      "BT1 9V: [P] R1 10 + [A] R2 22\n[A] R3 30 [X]\n[A] R4 40 [X]\n[X] R5 5 [Y]\n[X] R6 6 [Y]",
    );
    const reduction = reduceNetwork(network, ohmsOf(network));
    expect([reduction.stops, reduction.left.length]).toEqual([null, 1]);
    expect(reduction.left[0].ohms).toBe(32);
    expect(reduction.idle.map((i) => network.branches[i.branch].name).sort()).toEqual(["R3", "R4", "R5", "R6"]);
    const found = statesOfParts(network, wayBack(network, reduction) as WayBack);
    const { states } = solved(network);
    for (const [branch, { amps }] of found) expect(amps).toBeCloseTo(states[branch].amps, 9);
  });

  it("keeps what two nodes have between them at every step, on any network, supplies taken off or at rest", () => {
    const kinds = new Set<string>();
    let [whole, count] = [0, 0];
    fc.assert(
      fc.property(linearCircuits({ most: 12 }), fc.nat(99), fc.nat(99), fc.boolean(), (circuit, x, y, isOut) => {
        const network = buildNetwork(circuit);
        const ends = [x % network.nodes.length, y % network.nodes.length] as const;
        if (ends[0] === ends[1]) return;
        const ohms = network.branches.map((b) => ("ohms" in b.law ? b.law.ohms : 0));
        const seen: Seen = { ends, supplies: isOut ? "out" : "atRest" };
        const reduction = reduceNetwork(network, ohms, exactly("reciprocals", false), seen);
        const live = network.branches.flatMap((b, k) =>
          b.law.kind === "open" || (isOut && b.kind === "supply") ? [] : [{ from: b.from, to: b.to, ohms: ohms[k] }],
        );
        const due = ohmsBetween(live, network.nodes.length, ends);
        count += 1;
        if (Number.isFinite(due)) {
          for (let after = 1; after <= reduction.steps.length; after += 1) {
            const { nodes, branches } = reducedNetwork(network, reduction, after);
            const left = branches.flatMap(({ name, kind, law, from, to }) => {
              const own = network.branches.findIndex((b) => b.name === name);
              if (law.kind === "open" || (isOut && kind === "supply")) return [];
              return [{ from, to, ohms: own >= 0 ? ohms[own] : (law as { ohms: number }).ohms }];
            });
            expect(ohmsBetween(left, nodes.length, ends) / due).toBeCloseTo(1, 6);
          }
        }
        for (const step of reduction.steps) kinds.add(step.kind);
        if (reduction.stops !== null) return;
        whole += 1;
        expect(reduction.left[0].ohms / due).toBeCloseTo(1, 6);
      }),
      examples(500),
    );
    expect([...kinds].sort()).toEqual(["delta", "parallel", "series", "star"]);
    expect(whole).toBeGreaterThan(0.8 * count);
  });

  it("makes a star a triangle where no triangle is there, and says so in its sums", () => {
    // K3,3 without the line between the ends: no triangle anywhere, three meet at each inner node.
    const trail =
      "[A] R1 10 [U]\n[A] R2 20 [V]\n[B] R3 30 [U]\n[B] R4 40 [V]\n[B] R5 50 [W]\n[C] R6 60 [U]\n[C] R7 70 [V]\n[C] R8 80 [W]\n[A] R9 90 [W]";
    const network = networkOf(trail);
    const at = (name: string) => network.nodes.indexOf(name as NodeName);
    const ends: [number, number] = [at("A"), at("W")];
    const { steps, left, stops } = reduceNetwork(network, ohmsOf(network), undefined, { ends, supplies: "out" });
    const delta = steps.find((s) => s.kind === "delta") as Step;
    expect(delta.why).toMatch(/meet at . and nothing else does: a triangle of/);
    expect(sumOf(delta, exactly("reciprocals", false))[0]).toMatch(/^N = R\d × R\d \+ .* = \d+ Ω²$/);
    const plainly = network.branches.map((b) => ({ from: b.from, to: b.to, ohms: (b.law as { ohms: number }).ohms }));
    expect(left[0].ohms).toBeCloseTo(ohmsBetween(plainly, network.nodes.length, ends), 9);
    expect(stops).toBeNull();
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
            expect(read.value / madeBy(step)[0].ohms, lines.join("; ")).toBeCloseTo(1, 3);
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
    const [, { ohms }] = reduction.steps.map((s) => madeBy(s)[0]);
    expect(ohms).toBe(three(ohms));
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
