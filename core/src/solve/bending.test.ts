import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { buildNetwork, type Circuit } from "../circuit/index.ts";
import { readTrail } from "../notation/index.ts";
import { bendingCircuits, relayCircuits } from "../test/arbitrary/bending.ts";
import { examples } from "../test/examples.ts";
import { plainStandings, plainState } from "../test/plain/bench.ts";
import { solveNetwork } from "./index.ts";

const circuitIn = (trail: string): Circuit => {
  const { circuit, mistakes } = readTrail(trail);
  if (!circuit) throw new Error(mistakes.map((m) => m.message).join("; "));
  return circuit;
};

/** Amperes below which the reference's own leak counts. */
const DUST = 1e-6;

/** Volts of every node and amperes of every part, beside damped Newton with continuation on the full tableau. */
function agrees(circuit: Circuit) {
  const network = buildNetwork(circuit);
  const solution = solveNetwork(network);
  if (solution.kind !== "solved") throw new Error(solution.why);
  const { volts, amps } = plainState(circuit);
  const off = (own: Float64Array, other: readonly number[], least: number) =>
    Math.max(...own.map((v, i) => Math.abs(v - other[i]))) / Math.max(...other.map(Math.abs), least);
  expect(
    off(
      solution.point.volts,
      network.nodes.map((n) => volts.get(n) ?? 0),
      DUST,
    ),
  ).toBeLessThan(1e-6);
  expect(off(solution.point.amps, amps, DUST)).toBeLessThan(1e-6);
}

describe("what bends", () => {
  it("settles where damped Newton with continuation on the full tableau does, to 1e-6, whatever the network", () => {
    fc.assert(
      fc.property(bendingCircuits(), (circuit) => {
        agrees(circuit);
      }),
      examples(500),
    );
  });

  it("stands with its contacts as they come to stand from power-up, in one of all ways that hold themselves", () => {
    let buzzing = 0;
    fc.assert(
      fc.property(relayCircuits(), (circuit) => {
        const solution = solveNetwork(buildNetwork(circuit));
        const ways = plainStandings(circuit, { factor: {} });
        if (solution.kind !== "solved") throw new Error(solution.why);
        agrees(circuit);
        if (solution.point.buzzing >= 0) {
          buzzing += 1;
          return;
        }
        const closed = buildNetwork(circuit).branches.map(
          (b, k) => b.law.kind === "contact" && solution.point.ohms[k] < 1 === b.law.closes,
        );
        expect(ways).toContainEqual(closed);
      }),
      examples(300),
    );
    expect(buzzing).toBeGreaterThan(0);
  });

  it.each([
    // A known current: 10 mA is where forward volts are told.
    ["BT1 2.9V ri=0: [P] R1 100 + [A] LED1 red", "A", 1.9],
    ["BT1 6.1V ri=0: [P] R1 200 + [A] ZD1 5V1 rev", "A", 5.1],
    ["BT1 0.75V ri=0: [P] R1 10 + [A] D1", "A", 0.65],
  ])("drops what is written of it at its test current: %s", (trail, node, volts) => {
    const network = buildNetwork(circuitIn(trail));
    const solution = solveNetwork(network);
    expect(solution.kind === "solved" && solution.point.volts[network.nodes.indexOf(node as never)]).toBeCloseTo(
      volts,
      6,
    );
  });

  it("says of a relay that its own contact switches off that it buzzes, and takes it as let go", () => {
    const network = buildNetwork(circuitIn("BT1 24V: [P] K1.nc + [B] K1 24V 2W"));
    const solution = solveNetwork(network);
    expect(solution.kind === "solved" && network.branches[solution.point.buzzing].name).toBe("K1.nc");
    expect(solution.kind === "solved" && solution.point.ohms[1]).toBeLessThan(1);
  });
});
