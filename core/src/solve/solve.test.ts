import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { buildNetwork, type Circuit, idealCircuit, type Network, type Part } from "../circuit/index.ts";
import { readTrail } from "../notation/index.ts";
import { circuitOf, linearCircuits } from "../test/arbitrary/circuits.ts";
import { examples, share } from "../test/examples.ts";
import { type Rational, rational, solveExactly, toNumber } from "../test/plain/rational.ts";
import { NodalSolver, operatingPoint, solveNetwork, topologyOf } from "./index.ts";

const networkOf = (trail: string): Network => {
  const { circuit, mistakes } = readTrail(trail);
  if (!circuit) throw new Error(mistakes.map((m) => m.message).join("; "));
  return buildNetwork(circuit);
};

function solved(network: Network) {
  const solution = solveNetwork(network);
  if (solution.kind !== "solved") throw new Error(solution.why);
  return solution;
}

const voltsAt = (network: Network, node: string) => solved(network).volts[network.nodes.indexOf(node)];

/** The tableau in exact fractions: node volts, then branch amperes. */
function exactly(network: Network): number[] | null {
  const N = network.nodes.length;
  const n = N + network.branches.length;
  const zero = rational(0);
  const a = Array.from({ length: n }, () => new Array<Rational>(n).fill(zero));
  const z = new Array<Rational>(n).fill(zero);
  const put = (row: number, col: number, sign: number) => {
    a[row][col] = rational(toNumber(a[row][col]) + sign);
  };
  network.branches.forEach(({ from, to, law }, k) => {
    put(from, N + k, 1);
    put(to, N + k, -1);
    put(N + k, from, 1);
    put(N + k, to, -1);
    if (law.kind !== "resistance" && law.kind !== "supply") throw new Error(`no exact law for ${law.kind}`);
    a[N + k][N + k] = rational(-law.ohms);
    if (law.kind === "supply") z[N + k] = rational(law.volts);
  });
  a[network.reference] = a[network.reference].map((_, k) => rational(k === network.reference ? 1 : 0));
  return solveExactly(a, z)?.map(toNumber) ?? null;
}

describe("the solver", () => {
  it("agrees with exact rational arithmetic to 1e-9 on random networks", () => {
    fc.assert(
      fc.property(linearCircuits(), (circuit) => {
        const network = buildNetwork(circuit);
        const exact = exactly(network);
        const { volts, amps } = solved(network);
        expect(exact).not.toBeNull();
        const all = [...volts, ...amps];
        const size = (from: number, to: number) =>
          Math.max(...(exact as number[]).slice(from, to).map(Math.abs), 1e-12);
        const [v, i] = [size(0, volts.length), size(volts.length, all.length)];
        all.forEach((value, k) => {
          expect(Math.abs(value - (exact as number[])[k])).toBeLessThanOrEqual(1e-9 * (k < volts.length ? v : i));
        });
      }),
      { numRuns: 60 },
    );
  });

  it("delivers as much power as it takes, and loses no current at any node", () => {
    fc.assert(
      fc.property(linearCircuits({ most: 40 }), (circuit) => {
        const network = buildNetwork(circuit);
        const { amps, watts } = solved(network);
        const total = watts.reduce((sum, w) => sum + Math.abs(w), 0);
        expect(Math.abs(watts.reduce((sum, w) => sum + w, 0))).toBeLessThanOrEqual(1e-9 * total);
        const sums = new Float64Array(network.nodes.length);
        network.branches.forEach(({ from, to }, k) => {
          sums[from] -= amps[k];
          sums[to] += amps[k];
        });
        const most = Math.max(...amps.map(Math.abs), 1e-12);
        for (const sum of sums) expect(Math.abs(sum)).toBeLessThanOrEqual(1e-9 * most);
      }),
      { numRuns: 60 },
    );
  });

  it("adds the effects of two supplies (superposition)", () => {
    fc.assert(
      fc.property(linearCircuits(), (circuit) => {
        const network = buildNetwork(circuit);
        const only = (keep: (k: number) => boolean): Network => ({
          ...network,
          branches: network.branches.map((b, k) =>
            b.law.kind === "supply" && !keep(k) ? { ...b, law: { ...b.law, volts: 0 } } : b,
          ),
        });
        const first = network.branches.findIndex((b) => b.kind === "supply");
        const both = solved(network).volts;
        const one = solved(only((k) => k === first)).volts;
        const other = solved(only((k) => k !== first)).volts;
        both.forEach((v, node) => {
          expect(Math.abs(v - one[node] - other[node])).toBeLessThanOrEqual(1e-8 * (1 + Math.abs(v)));
        });
      }),
      { numRuns: 40 },
    );
  });

  it("solves worked circuits", () => {
    const divider = networkOf("BT1 10V ri=0: [A] R1 1k + [B] R2 1k");
    expect(voltsAt(divider, "B")).toBeCloseTo(5, 12);
    const balanced = networkOf("BT1 10V ri=0: [A] (R1 1k + [L] R2 2k | R3 10k + [M] R4 20k)\n[L] R5 470 [M]");
    const balance = solved(balanced);
    expect(balance.amps[balanced.branches.findIndex((b) => b.name === "R5")]).toBeCloseTo(0, 12);
    const twoSupplies = networkOf("BT1 12V ri=1: [A] R1 11\nBT2 6V ri=1: [B] R2 5 [A]\n[B] R3 6 [0]");
    const { watts } = solved(twoSupplies);
    expect(watts.reduce((sum, w) => sum + w, 0)).toBeCloseTo(0, 9);
  });

  it("opens and shorts exactly, and pins what floats", () => {
    const cut = networkOf("BT1 12V: S1 open + [A] R1 100 + [B] R2 100");
    expect(voltsAt(cut, "A")).toBe(0);
    expect(voltsAt(cut, "B")).toBe(0);
    const floating = networkOf("BT1 12V: [A] R1 100\n[X] R2 100 [Y]");
    const solution = solved(floating);
    expect(solution.floating).toEqual(["X", "Y"]);
    expect(solution.amps.at(-1)).toBe(0);
  });

  it("says where a network cannot be solved", () => {
    const clash = solveNetwork(networkOf("BT1 12V ri=0: [A] R1 100\nBT2 9V ri=0: [A] R2 100\n[A] BT3 5V ri=0 [0]"));
    expect(clash).toMatchObject({ kind: "unsolvable" });
    if (clash.kind === "unsolvable") expect(`${clash.at}: ${clash.why}`).toMatch(/BT\d: supplies without internal/);
  });

  it("heats a filament to where its resistance and its voltage agree", () => {
    const network = networkOf("BT1 12V ri=0: LA1 12V 5W + [B] R1 10");
    const { volts, amps } = solved(network);
    const drop = volts[network.branches[1].from] - volts[network.branches[1].to];
    const hot = (12 ** 2 / 5) * (drop / 12) ** 0.45;
    expect(drop / amps[1]).toBeCloseTo(hot, 6);
    expect(drop).toBeLessThan(12);
  });

  it("turns a supply into a current source at its limit, and back when it need not", () => {
    const over = networkOf("PS1 12V ri=0 limit=1A: [A] R1 5");
    expect(solved(over).volts[over.nodes.indexOf("A")]).toBeCloseTo(5, 9);
    const under = networkOf("PS1 12V ri=0 limit=1A: [A] R1 50");
    expect(solved(under).volts[under.nodes.indexOf("A")]).toBeCloseTo(12, 9);
  });

  it("holds every limited supply to its law, however they drive each other", () => {
    const one = networkOf("BT1 25V ri=0 limit=1.03A: [A] R1 54 + [B] BT2 8V ri=0 limit=0.07A");
    expect(Math.abs(solved(one).amps[1])).toBeCloseTo(0.07, 6);
    const decades = fc.double({ min: -2, max: 1, noNaN: true }).map((x) => 10 ** x);
    const supplies = fc.array(fc.tuple(fc.nat(5), fc.nat(4), decades, fc.integer({ min: 1, max: 48 }), fc.boolean()), {
      minLength: 1,
      maxLength: 5,
    });
    fc.assert(
      fc.property(linearCircuits({ most: 9 }), decades, supplies, (circuit, first, more) => {
        const nodes = [...new Set(circuit.parts.flatMap((p) => [p.from, p.to]))];
        const limited = more.map(([a, step, limit, volts, isIdeal], i): Part => {
          const from = a % nodes.length;
          const to = (from + 1 + (step % (nodes.length - 1))) % nodes.length;
          const own = { designator: `PS${i + 1}`, kind: "supply" as const, from: nodes[from], to: nodes[to] };
          return { ...own, tolerance: 0.02, volts, internalOhms: isIdeal ? 0.001 : 0.3, limit };
        });
        const parts = circuit.parts.map((p) => (p.kind === "supply" ? { ...p, limit: first } : p));
        const network = buildNetwork(circuitOf([...parts, ...limited]));
        const { volts, amps } = solved(network);
        const sums = new Float64Array(network.nodes.length);
        network.branches.forEach(({ from, to, law }, k) => {
          sums[from] += amps[k];
          sums[to] -= amps[k];
          if (law.kind !== "supply" || law.limit === undefined) return;
          const out = -amps[k];
          const across = volts[from] - volts[to];
          const free = law.volts - law.ohms * out;
          // Free below its limit; at the limit with no more volts than that leaves it.
          if (out < law.limit * (1 - 1e-6)) expect(across).toBeCloseTo(free, 5);
          else {
            expect(out).toBeLessThan(law.limit * (1 + 1e-6) + 1e-6);
            expect(across).toBeLessThan(law.volts - law.ohms * law.limit + 1e-5);
          }
        });
        for (const sum of sums) expect(Math.abs(sum)).toBeLessThan(1e-6);
      }),
      examples(200),
    );
  });

  it("many times over, too: ideal supplies and contacts anywhere, floating on megohms, by the exact tableau", () => {
    const float = networkOf("BT1 5V ri=0: [A] R1 100M + [B] BT2 9V ri=0 + [C] R2 100M");
    const ideal = idealCircuit(readTrail("BT1 12V: R1 100M + [A] J1 + [B] W1 + [C] R2 100M").circuit as Circuit, {
      supplies: true,
      contacts: true,
    });
    const drawn = fc.sample(linearCircuits({ most: 10 }), { numRuns: share(60), seed: 5 }).map((circuit) => {
      // Ideal supplies, or contacts of next to nothing: both may short each other.
      const hasTwo = circuit.parts[1].kind === "supply";
      const parts = circuit.parts.map((p, k): Part => {
        if (p.kind === "supply") return hasTwo ? { ...p, internalOhms: 0 } : p;
        const ends = { designator: p.designator, from: p.from, to: p.to, tolerance: 0.05 };
        return hasTwo || k % 2 === 0 ? p : { ...ends, kind: "wire", ohms: 1e-9 };
      });
      return buildNetwork(circuitOf(parts));
    });
    for (const network of [float, buildNetwork(ideal), ...drawn]) {
      const solution = solveNetwork(network);
      if (solution.kind !== "solved") continue;
      const solver = new NodalSolver(network);
      const { branches } = network;
      solver.solve(
        Float64Array.from(branches, ({ law }) => ("ohms" in law ? law.ohms : Number.POSITIVE_INFINITY)),
        Float64Array.from(branches, ({ law }) => (law.kind === "supply" ? law.volts : 0)),
      );
      const size = Math.max(1, ...branches.map(({ law }) => (law.kind === "supply" ? law.volts : 0)));
      for (const [n, volts] of solution.volts.entries())
        expect(Math.abs(solver.volts[n] - volts)).toBeLessThan(2e-5 * size);
      const sums = new Float64Array(network.nodes.length);
      branches.forEach(({ from, to }, k) => {
        sums[from] += solver.amps[k];
        sums[to] -= solver.amps[k];
      });
      const most = Math.max(...solver.amps.map(Math.abs));
      for (const sum of sums) expect(Math.abs(sum)).toBeLessThan(1e-9 * most + 1e-15);
    }
  });

  it("holds from micro-ohms to tera-ohms", () => {
    for (const ohms of [1e-6, 1, 1e6, 1e12]) {
      const part = (designator: string, from: string, to: string): Part => ({
        designator,
        kind: "resistor",
        from,
        to,
        tolerance: 0.05,
        resistance: { by: "ohms", ohms },
      });
      const supply: Part = {
        designator: "BT1",
        kind: "supply",
        from: "A",
        to: "0",
        tolerance: 0,
        volts: 9,
        internalOhms: 0,
      };
      const network = buildNetwork(circuitOf([supply, part("R1", "A", "B"), part("R2", "B", "0")]));
      expect(voltsAt(network, "B")).toBeCloseTo(4.5, 9);
      const point = operatingPoint(
        topologyOf(network),
        network.branches.map((b) => b.law),
      );
      expect(point.kind).toBe("solved");
    }
  });
});
