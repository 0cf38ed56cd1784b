import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { buildNetwork, type Circuit, type NodeName, type Part } from "../circuit/index.ts";
import type { Configuration } from "../configuration/index.ts";
import { readQuick, readTrail } from "../notation/index.ts";
import { type Meter, meterData, type NumericReading } from "../record/index.ts";
import { everyPoint, linearCircuits } from "../test/arbitrary/circuits.ts";
import { plainReading } from "../test/plain/bench.ts";
import { AS_DRAWN, buildProbes, errorOf, limitOf, rangeOf, roundingOf, settingKey, settingOf } from "./index.ts";

const VENT = "BT1 24V ri=0.3: F1 1A + [A] R1 220 + [B] (R2 1k | R3 470 + [C] R4 330) + [D] S1 + [E] R5 100";

/** What a meter would show, line by line. */
function shown(trail: string, lines: readonly string[], meter: Meter = {}, state?: Configuration): number[] {
  const circuit = readTrail(trail).circuit as Circuit;
  const readings = lines.map((line): NumericReading => {
    const read = readQuick(line, circuit);
    if (read.kind !== "reading" || read.reading.quantity === "observation") throw new Error(line);
    return { ...read.reading, ...(state ? { state } : {}) };
  });
  const set = buildProbes(buildNetwork(circuit), readings, { meter: meterData(meter) });
  if (set.kind !== "probes") throw new Error(JSON.stringify(set));
  return set.probes.map((p) => p.y);
}

describe("what a meter shows", () => {
  it("is what a plain solution with the meter drawn in gives: volts, amperes and ohms on random networks", () => {
    const meters = fc.constantFrom({ input: 1e7, burden: 1 }, { input: 1e5, burden: 10 });
    fc.assert(
      fc.property(linearCircuits(), meters, (circuit, meter) => {
        const network = buildNetwork(circuit);
        const nodes = network.nodes.filter((n) => n !== circuit.reference);
        const ohms = nodes.map((from): NumericReading => ({ quantity: "resistance", from, value: 0 }));
        const points = [...everyPoint(circuit), ...ohms];
        const { input, burden } = meter;
        const data = meterData({ voltage: { inputResistance: input }, current: { burdenResistance: burden } });
        const set = buildProbes(network, points, { meter: data });
        if (set.kind !== "probes") throw new Error("unsolvable");
        const plain = points.map((p) => plainReading(circuit, p, [], { factor: {} }, meter));
        set.probes.forEach(({ y }, i) => {
          expect(Math.abs(y - plain[i])).toBeLessThan(1e-6 * Math.max(Math.abs(plain[i]), 1e-6) + 1e-9);
        });
      }),
      { numRuns: 60 },
    );
  });

  it("is what the circuit with other meters drawn in gives, where they were left in it", () => {
    const left = fc.record({
      part: fc.nat(),
      node: fc.nat(),
      burden: fc.constantFrom(0, 1, 200),
      input: fc.constantFrom(1e4, 1e7),
    });
    fc.assert(
      fc.property(linearCircuits(), left, (circuit, { part, node, burden, input }) => {
        const nodes = buildNetwork(circuit).nodes.filter((n) => n !== circuit.reference);
        const [in_, at] = [circuit.parts[part % circuit.parts.length], nodes[node % nodes.length]];
        const state = {
          meters: [
            { through: in_.designator, ohms: burden },
            { from: at, ohms: input },
          ],
        };
        const split = "SPLIT" as NodeName;
        const meters = [
          { designator: "R98", from: split, to: in_.to, ohms: burden },
          { designator: "R99", from: at, to: circuit.reference, ohms: input },
        ].map(
          ({ ohms, ...rest }): Part => ({ ...rest, kind: "resistor", tolerance: 0, resistance: { by: "ohms", ohms } }),
        );
        const drawn = {
          ...circuit,
          parts: [...circuit.parts.map((p) => (p === in_ ? { ...p, to: split } : p)), ...meters],
        };
        const ohms = nodes.map((from): NumericReading => ({ quantity: "resistance", from, value: 0 }));
        const points = [...everyPoint(circuit), ...ohms];
        const data = meterData({});
        const found = buildProbes(
          buildNetwork(circuit),
          points.map((p) => ({ ...p, state })),
          { meter: data },
        );
        const meant = buildProbes(buildNetwork(drawn), points, { meter: data });
        if (found.kind !== "probes" || meant.kind !== "probes") throw new Error("unsolvable");
        found.probes.forEach(({ y }, i) => {
          const wanted = meant.probes[i].y;
          expect(Math.abs(y - wanted)).toBeLessThan(1e-7 * Math.max(Math.abs(wanted), 1e-6) + 1e-9);
        });
      }),
      { numRuns: 60 },
    );
  });

  it("is loaded by its input resistance and its burden, unless it is ideal", () => {
    const divider = "BT1 10V ri=0: [A] R1 1M + [B] R2 1M";
    const [ideal] = shown(divider, ["B 1"], { voltage: { inputResistance: "ideal" } });
    const [real] = shown(divider, ["B 1"], { voltage: { inputResistance: 1e6 } });
    expect(ideal).toBeCloseTo(5, 9);
    expect(real).toBeCloseTo(10 / 3, 9);
    const [amps] = shown("BT1 10V ri=0: [A] R1 9", ["R1 1A"], { current: { burdenResistance: 1 } });
    expect(amps).toBeCloseTo(1, 9);
    const [supply, part] = shown("BT1 10V ri=0: [A] R1 10", ["BT1 1A", "R1 1A"], { current: { burdenResistance: 0 } });
    expect([supply, part]).toEqual([expect.closeTo(1, 9), expect.closeTo(1, 9)]);
  });

  it("measures ohms with the power off, parallel paths included, and the part itself when a lead is lifted", () => {
    const [inCircuit, lifted] = shown(VENT, ["R2 1R", "R2 lifted 1R"]);
    expect(shown(VENT, ["R2 lifted 1R"], {}, { lifted: ["R2"] })[0]).toBeCloseTo(1000, 9);
    expect(inCircuit).toBeCloseTo((1000 * 800) / 1800, 6);
    expect(lifted).toBeCloseTo(1000, 9);
    const bridged = "BT1 9V ri=5: [P] R1 100";
    expect(shown(bridged, ["R1 1R"])[0]).toBeCloseTo(100, 6);
    expect(shown(bridged, ["R1 1R"], { resistance: { supplies: "internal" } })[0]).toBeCloseTo((100 * 5) / 105, 6);
  });

  it("follows the configuration: switches moved, leads lifted, supplies off", () => {
    expect(shown(VENT, ["E 1"], {}, { switches: { S1: "open" } })[0]).toBeCloseTo(0, 9);
    const [open, drawn] = [shown(VENT, ["B 1"], {}, { lifted: ["R2"] })[0], shown(VENT, ["B 1"])[0]];
    expect(open).toBeGreaterThan(drawn + 1);
    expect(shown(VENT, ["B 1"], {}, { off: ["BT1"] })[0]).toBeCloseTo(0, 9);
    // A lead lifted leaves no way through: the ohmmeter is over its range.
    expect(shown("BT1 9V: [P] R1 100 + [Q] R2 50", ["P-0 1R"], {}, { lifted: ["R2"] })[0]).toBe(
      Number.POSITIVE_INFINITY,
    );
  });

  it("reads nothing between islands", () => {
    const [across, ohms] = shown("BT1 9V: [A] R1 100\n[X] R2 100 [Y]", ["A-X 1", "A-X 1R"]);
    expect(across).toBe(0);
    expect(ohms).toBe(Number.POSITIVE_INFINITY);
  });

  it("says which reading is at a place that does not exist", () => {
    const network = buildNetwork(readTrail(VENT).circuit as Circuit);
    const at = (reading: NumericReading) => buildProbes(network, [reading], { meter: meterData({}) });
    expect(at({ quantity: "voltage", from: "Z", value: 1 })).toMatchObject({
      kind: "reading",
      index: 0,
      why: expect.stringMatching(/no node Z/),
    });
    expect(at({ quantity: "current", through: "R9", value: 1 })).toMatchObject({
      why: expect.stringMatching(/no part R9/),
    });
    const state = { meters: [{ through: "R9" }] };
    expect(at({ quantity: "voltage", from: "A", value: 1, state })).toMatchObject({
      why: expect.stringMatching(/meter left in.*no part R9/),
    });
  });
});

describe("limits", () => {
  const volts = (extra: object): NumericReading => ({ quantity: "voltage", from: "A", value: 10, ...extra });
  const meter = meterData({ voltage: { accuracy: { percent: 1, counts: 2 }, offset: 0.004 } });

  it("are percent of reading and counts of the last digit, what was written beside it, and half of how it wanders", () => {
    // 1 % of 10 V, two of the last digit, and the 4 mV that a dead circuit may show.
    expect(limitOf(volts({ step: 0.01 }), meter)).toBeCloseTo(0.124, 12);
    expect(limitOf(volts({ step: 0.1 }), meter)).toBeCloseTo(0.304, 12);
    expect(limitOf(volts({ plusMinus: 0.05, step: 0.01 }), meter)).toBeCloseTo(0.05, 12);
    expect(limitOf(volts({ plusMinus: 0.05, wander: 0.2 }), meter)).toBeCloseTo(0.25, 12);
    // Without digits to go by: the last one of a display of 2,000 counts.
    expect(limitOf(volts({}), meter)).toBeCloseTo(0.124, 12);
    expect(limitOf(volts({ value: 0, plusMinus: 0 }), meter)).toBeGreaterThan(0);
    expect(roundingOf(volts({ step: 0.01 }), rangeOf(volts({}), meter))).toBeCloseTo(0.01 / Math.sqrt(12), 12);
  });

  it("are mostly one gain for all readings of a range: four fifths of the percentage's variance", () => {
    const reading = volts({ step: 0.01 });
    const { own, gain, group } = errorOf(reading, meter);
    expect(gain).toBeCloseTo(0.005 * Math.sqrt(0.8), 12);
    // Together they are what the limit says: two standard deviations.
    expect(Math.hypot(own, gain * 10)).toBeCloseTo(0.062, 12);
    expect(errorOf(volts({ value: 7, step: 0.01 }), meter).group).toBe(group);
    expect(errorOf(volts({ value: 1.5, step: 0.001 }), meter).group).not.toBe(group);
    expect(errorOf(volts({ step: 0.01, meter: "bench" }), meter).group).not.toBe(group);
    expect(errorOf(volts({ plusMinus: 0.1 }), meter)).toEqual({ own: 0.05, gain: 0, group: "" });
  });

  it.each([
    // value, step, range, expected → full scale
    [7.42, 0.01, undefined, 0, 20],
    [7.421, 0.001, undefined, 0, 20],
    [1.5, undefined, undefined, 0, 2],
    [3, undefined, "200V", 0, 200],
    [0, undefined, undefined, 14, 20],
    [0, 0.01, undefined, 14, 20],
    [0, 0.0001, undefined, 14, 0.2],
    [5000, undefined, undefined, 0, 1000],
    [3, undefined, "600V", 0, 600],
    // A range is full at its span; one that nobody can read is none.
    [20, undefined, undefined, 0, 20],
    [20.01, undefined, undefined, 0, 200],
    [3, undefined, "wide", 0, 20],
    [3, undefined, "0V", 0, 20],
    [3, undefined, "-20V", 0, 20],
    // A last digit of the display's own range, of the one above it, and of one far above what was read.
    [3.1, 0.1, undefined, 0, 200],
    [3.1, 0.15, undefined, 0, 200],
    [3.1, 0.25, undefined, 0, 20],
    [0, 1, undefined, 14, 1000],
  ] as const)(
    "of %s V (digit %s, range %s, expected %s) are those of the range to %s V",
    (value, step, range, expected, span) => {
      const reading = volts({ value, ...(step ? { step } : {}), ...(range ? { range } : {}) });
      expect(rangeOf(reading, meterData(), expected).span).toBe(span);
    },
  );

  it("on a range that the meter does not have are those of the nearest, in proportion", () => {
    const range = rangeOf(volts({ value: 3, range: "600V" }), meterData());
    // 1 V on 1,000 V.
    expect(range.resolution).toBeCloseTo(0.6, 12);
    expect(rangeOf(volts({ value: 3, range: "150V" }), meterData()).resolution).toBeCloseTo(0.075, 12);
  });

  it("say nothing of a gain that a meter without a percentage does not have, and tell meters apart", () => {
    const counts = meterData({ voltage: { accuracy: { percent: 0, counts: 2 } } });
    expect(errorOf(volts({ step: 0.01 }), counts)).toEqual({ own: expect.closeTo(0.0125, 12), gain: 0, group: "" });
    const named = (name?: string) => errorOf(volts({ step: 0.01, ...(name ? { meter: name } : {}) }), meter).group;
    expect(new Set([named(), named("bench"), named("spare")]).size).toBe(3);
    expect(named("bench")).toContain("bench");
    expect(named()).toMatch(/^\|/);
  });

  it("on a range that was named are no finer than it shows", () => {
    const amps = (extra: object): NumericReading => ({ quantity: "current", through: "R1", value: 0, ...extra });
    expect(limitOf(amps({ range: "10A" }), meterData())).toBeCloseTo(0.03 + 5e-6, 12);
    expect(limitOf(amps({ range: "10A", step: 0.001 }), meterData())).toBeCloseTo(0.03 + 5e-6, 12);
    // Coarser than it shows, as typed; finer where no range was named.
    expect(limitOf(amps({ range: "10A", step: 0.1 }), meterData())).toBeCloseTo(0.3 + 5e-6, 12);
    expect(limitOf(amps({ value: 1, step: 0.001 }), meterData())).toBeCloseTo(0.01 + 0.003 + 5e-6, 12);
    expect(rangeOf(amps({ value: 0.05, step: 0.01 }), meterData()).span).toBe(10);
    expect(rangeOf(amps({ value: 0.012, step: 0.001 }), meterData()).span).toBe(0.02);
  });

  it("belong to settings that are told apart by what differs, not by the order it was written in", () => {
    const network = buildNetwork(readTrail(VENT).circuit as Circuit);
    const key = (state: object) => settingKey(settingOf(volts({ state }), network, meter));
    expect(key({ switches: { S1: "closed" } })).toBe(settingKey(AS_DRAWN));
    expect(key({ switches: { S1: "open" } })).not.toBe(settingKey(AS_DRAWN));
    for (const state of [{ values: { R1: 5 } }, { added: [{ from: "A", ohms: 5 }] }, { off: ["BT1"] }, { out: ["R1"] }])
      expect(key(state)).not.toBe(settingKey(AS_DRAWN));
    expect(key({ lifted: ["R1", "R2"] })).toBe(key({ lifted: ["R2", "R1"] }));
    expect(key({ lifted: ["R1"] })).not.toBe(key({ swapped: ["R1"] }));
    expect(settingOf({ quantity: "resistance", from: "A", value: 1 }, network, meter).power).toBe("off");
    // Of a part whose lead is lifted nothing else of the circuit matters.
    const alone = (state: Configuration) =>
      settingKey(settingOf({ quantity: "resistance", lifted: "R1", value: 1, state }, network, meter));
    expect(alone({ lifted: ["R1"], switches: { S1: "open" } })).toBe(alone({}));
    expect(alone({ swapped: ["R1"] })).not.toBe(alone({}));
  });
});
