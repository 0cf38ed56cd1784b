import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { buildNetwork, type Circuit, type Network } from "../circuit/index.ts";
import { solveNetwork } from "../solve/index.ts";
import { linearCircuits } from "../test/arbitrary/circuits.ts";
import { examples } from "../test/examples.ts";
import { currentPath, describeStretch, oddities, relationOf, ruleFor } from "./index.ts";

const solved = (network: Network) => {
  const solution = solveNetwork(network);
  if (solution.kind !== "solved") throw new Error(solution.why);
  return solution;
};

/** The same circuit with every resistance changed: what holds by the drawing alone holds again. */
const changed = (circuit: Circuit): Circuit => ({
  ...circuit,
  parts: circuit.parts.map((p, i) =>
    "resistance" in p && p.resistance.by === "ohms"
      ? { ...p, resistance: { by: "ohms", ohms: p.resistance.ohms * (0.3 + ((i * 37) % 11) / 3) } }
      : p,
  ),
});

const near = (a: number, b: number) =>
  Math.abs(Math.abs(a) - Math.abs(b)) <= 1e-9 * Math.max(1e-6, Math.abs(a), Math.abs(b));

describe("words about a circuit hold in every case", () => {
  it("series: one current; parallel: one voltage; whatever the values", () => {
    let [series, parallel, neither] = [0, 0, 0];
    fc.assert(
      fc.property(linearCircuits({ most: 9 }), (circuit) => {
        const networks = [circuit, changed(circuit)].map(buildNetwork);
        const solutions = networks.map(solved);
        const count = networks[0].branches.length;
        for (let a = 0; a < count; a += 1) {
          for (let b = a + 1; b < count; b += 1) {
            const { kind, why } = relationOf(networks[0], a, b);
            expect(relationOf(networks[0], b, a).kind).toBe(kind);
            expect(why).toContain(networks[0].branches[a].name);
            const same = (pick: (s: (typeof solutions)[number], k: number) => number) =>
              solutions.every((s) => near(pick(s, a), pick(s, b)));
            const across = (s: (typeof solutions)[number], k: number) => {
              const { from, to } = s.network.branches[k];
              return s.point.volts[from] - s.point.volts[to];
            };
            if (kind === "series")
              expect(
                same((s, k) => s.amps[k]),
                why,
              ).toBe(true);
            if (kind === "parallel") expect(same(across), why).toBe(true);
            if (kind === "series") series += 1;
            else if (kind === "parallel") parallel += 1;
            else neither += 1;
          }
        }
      }),
      examples(400),
    );
    for (const seen of [series, parallel, neither]) expect(seen).toBeGreaterThan(20);
  });

  it("a stretch that is one composite has the current or the voltage of its neighbours in common", () => {
    fc.assert(
      fc.property(linearCircuits({ most: 10 }), fc.integer({ min: 2, max: 4 }), (circuit, size) => {
        const network = buildNetwork(circuit);
        const all = network.branches.map((_, k) => k);
        for (let start = 0; start + size <= all.length; start += 1) {
          const words = describeStretch(network, all.slice(start, start + size));
          expect(words.length).toBeGreaterThan(10);
          for (const k of all.slice(start, start + size)) expect(words).toContain(network.branches[k].name);
        }
      }),
      examples(60),
    );
  });

  it("a dead end carries nothing, a shorted part has no voltage, and nothing else is called either", () => {
    fc.assert(
      fc.property(linearCircuits({ most: 10 }), (circuit) => {
        const network = buildNetwork(circuit);
        const { amps, point } = solved(network);
        const odd = oddities(network);
        network.branches.forEach(({ name, from, to }, k) => {
          const kinds = odd.filter((o) => o.parts.includes(name)).map((o) => o.kind);
          if (kinds.includes("dead end")) expect(Math.abs(amps[k])).toBeLessThan(1e-9);
          if (kinds.includes("shorted")) expect(Math.abs(point.volts[from] - point.volts[to])).toBeLessThan(1e-9);
          // Removing a part that lies on no closed way parts the circuit in two; any other keeps it in one piece.
          const rest = network.branches.filter((_, other) => other !== k);
          const reached = new Set([from]);
          for (let grew = true; grew; ) {
            grew = false;
            for (const b of rest)
              for (const [x, y] of [
                [b.from, b.to],
                [b.to, b.from],
              ])
                if (reached.has(x) && !reached.has(y)) {
                  reached.add(y);
                  grew = true;
                }
          }
          expect(kinds.includes("dead end")).toBe(from !== to && !reached.has(to));
        });
      }),
      examples(100),
    );
  });

  it("the rule behind a cell names a twin that has the same current or drop", () => {
    fc.assert(
      fc.property(linearCircuits({ most: 10 }), (circuit) => {
        const network = buildNetwork(circuit);
        const { amps, point } = solved(network);
        network.branches.forEach((branch, k) => {
          for (const cell of ["amps", "volts"] as const) {
            const rule = ruleFor(network, k, cell);
            const twin = /^(?:same current as|drop shared with) (\w+):/.exec(rule)?.[1];
            if (!twin) continue;
            const other = network.branches.findIndex((b) => b.name === twin);
            const across = (n: number) => point.volts[network.branches[n].from] - point.volts[network.branches[n].to];
            if (cell === "amps") expect(near(amps[k], amps[other]), `${branch.name}: ${rule}`).toBe(true);
            else expect(near(across(k), across(other)), `${branch.name}: ${rule}`).toBe(true);
          }
        });
      }),
      examples(80),
    );
  });
});

describe("the path of the current", () => {
  it("hangs together, runs with the current everywhere, and passes the part asked for", () => {
    fc.assert(
      fc.property(linearCircuits({ most: 12 }), (circuit) => {
        const network = buildNetwork(circuit);
        const { amps } = solved(network);
        const most = amps.reduce((m, i) => Math.max(m, Math.abs(i)), 0);
        network.branches.forEach(({ from, to }, k) => {
          const path = currentPath(network, amps, k);
          if (from === to || Math.abs(amps[k]) <= 1e-9 * most) return;
          expect(path.map((s) => s.branch)).toContain(k);
          expect(new Set(path.map((s) => s.branch)).size).toBe(path.length);
          for (const { branch, forward } of path) expect(forward).toBe(amps[branch] > 0);
          const ends = path.map(({ branch, forward }) => {
            const b = network.branches[branch];
            return forward ? [b.from, b.to] : [b.to, b.from];
          });
          for (let i = 1; i < ends.length; i += 1) expect(ends[i][0]).toBe(ends[i - 1][1]);
        });
      }),
      examples(80),
    );
  });
});
