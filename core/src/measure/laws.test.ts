import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { buildNetwork, type Circuit, type NodeName } from "../circuit/index.ts";
import { type Meter, meterData, type NumericReading } from "../record/index.ts";
import { linearCircuits } from "../test/arbitrary/circuits.ts";
import { buildProbes } from "./index.ts";

/** Laws that readings obey on any network, whichever way they are worked out. */
const IDEAL: Meter = { voltage: { inputResistance: "ideal" }, current: { burdenResistance: 0 } };

function shown(circuit: Circuit, readings: readonly NumericReading[], meter: Meter): number[] {
  const set = buildProbes(buildNetwork(circuit), readings, { meter: meterData(meter) });
  if (set.kind !== "probes") throw new Error(JSON.stringify(set));
  return set.probes.map((p) => p.y);
}

const volts = (from: NodeName, to?: NodeName): NumericReading => ({ quantity: "voltage", from, to, value: 0 });
const ohms = (from: NodeName, to?: NodeName): NumericReading => ({ quantity: "resistance", from, to, value: 0 });
const amps = (through: string): NumericReading => ({ quantity: "current", through, value: 0 });
const meters = fc.constantFrom<Meter>(
  IDEAL,
  {},
  { voltage: { inputResistance: 2e4 }, current: { burdenResistance: 5 } },
);

const near = (a: number, b: number, size: number, what: string) =>
  expect(Math.abs(a - b), what).toBeLessThan(1e-7 * size + 1e-10);

describe("readings of any network", () => {
  it("change their sign with the leads, and nothing else; ohms do not", () => {
    fc.assert(
      fc.property(linearCircuits({ most: 9 }), meters, (circuit, meter) => {
        const nodes = buildNetwork(circuit).nodes;
        const pairs = nodes.flatMap((a, i) => nodes.slice(i + 1).map((b) => [a, b] as const));
        const [there, back] = [0, 1].map((turn) =>
          shown(
            circuit,
            pairs.flatMap((p) => [volts(p[turn], p[1 - turn]), ohms(p[turn], p[1 - turn])]),
            meter,
          ),
        );
        const size = Math.max(...there.map(Math.abs));
        pairs.forEach((p, i) => {
          near(there[2 * i], -back[2 * i], size, `volts ${p}`);
          near(there[2 * i + 1], back[2 * i + 1], Math.abs(there[2 * i + 1]), `ohms ${p}`);
        });
      }),
      { numRuns: 40 },
    );
  });

  it("add up around every loop and at every node, where the meters are ideal", () => {
    fc.assert(
      fc.property(linearCircuits({ most: 9 }), (circuit) => {
        const { reference, parts } = circuit;
        const nodes = buildNetwork(circuit).nodes.filter((n) => n !== reference);
        const atNode = new Map<string, number>(
          nodes.map((n, i) => [
            n,
            shown(
              circuit,
              nodes.map((m) => volts(m)),
              IDEAL,
            )[i],
          ]),
        );
        atNode.set(reference, 0);
        const across = shown(
          circuit,
          parts.map((p) => volts(p.from, p.to)),
          IDEAL,
        );
        const through = shown(
          circuit,
          parts.map((p) => amps(p.designator)),
          IDEAL,
        );
        const [most, mostAmps] = [across, through].map((list) => Math.max(...list.map(Math.abs)));
        parts.forEach((p, k) => {
          near(across[k], (atNode.get(p.from) ?? 0) - (atNode.get(p.to) ?? 0), most, p.designator);
        });
        // A supply's current counts out of its plus, so into that node.
        const into = (k: number) => (parts[k].kind === "supply" ? 1 : -1) * through[k];
        for (const node of [...nodes, reference]) {
          const sum = parts.reduce((s, p, k) => s + (p.from === node ? into(k) : 0) - (p.to === node ? into(k) : 0), 0);
          near(sum, 0, mostAmps, `currents at ${node}`);
        }
      }),
      { numRuns: 40 },
    );
  });

  it("fall with what the meter takes, and rise to what an ideal one shows", () => {
    fc.assert(
      fc.property(linearCircuits({ most: 9 }), (circuit) => {
        const nodes = buildNetwork(circuit).nodes.filter((n) => n !== circuit.reference);
        const points = [...nodes.map((n) => volts(n)), ...circuit.parts.map((p) => amps(p.designator))];
        const series = [1e3, 1e5, 1e8].map((inputResistance, i) =>
          shown(circuit, points, { voltage: { inputResistance }, current: { burdenResistance: [100, 1, 1e-3][i] } }),
        );
        const ideal = shown(circuit, points, IDEAL);
        const size = Math.max(...ideal.map(Math.abs));
        ideal.forEach((value, i) => {
          const sizes = [...series.map((s) => Math.abs(s[i])), Math.abs(value)];
          for (let k = 1; k < sizes.length; k += 1)
            expect(sizes[k], `${JSON.stringify(points[i])}`).toBeGreaterThanOrEqual(sizes[k - 1] - 1e-9 * size);
          for (const s of series) expect(s[i] * value).toBeGreaterThanOrEqual(-1e-12 * size * size);
        });
      }),
      { numRuns: 40 },
    );
  });

  it("of ohms are a distance: never more by a detour, and less with every part that is added", () => {
    fc.assert(
      fc.property(linearCircuits({ most: 8 }), fc.nat(), fc.nat(), (circuit, one, step) => {
        const nodes = buildNetwork(circuit).nodes;
        const at = (a: NodeName, b: NodeName, c = circuit) => (a === b ? 0 : shown(c, [ohms(a, b)], IDEAL)[0]);
        const [a, b] = [nodes[one % nodes.length], nodes[(one + 1 + (step % (nodes.length - 1))) % nodes.length]];
        const direct = at(a, b);
        for (const c of nodes) expect(direct).toBeLessThanOrEqual((at(a, c) + at(c, b)) * (1 + 1e-9) + 1e-9);
        const resistor = circuit.parts.find((p) => p.kind === "resistor");
        if (!resistor) return;
        const more: Circuit = { ...circuit, parts: [...circuit.parts, { ...resistor, designator: "R99" }] };
        expect(at(a, b, more)).toBeLessThanOrEqual(direct * (1 + 1e-9) + 1e-12);
      }),
      { numRuns: 40 },
    );
  });
});
