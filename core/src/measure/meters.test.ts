import { describe, expect, it } from "vitest";
import { buildNetwork, type Circuit } from "../circuit/index.ts";
import { readTrail } from "../notation/index.ts";
import { rankFaults } from "../rank/index.ts";
import { Meter, meterData, meterOf, type NumericReading, SHIPPED_METERS } from "../record/index.ts";
import { buildProbes, corrected, correctionOf, deviationOf, errorOf, limitOf, rangeOf } from "./index.ts";

const circuitFrom = (trail: string) => readTrail(trail).circuit as Circuit;

const volts = (value: number, more: object = {}) =>
  ({ quantity: "voltage", from: "A", value, ...more }) as NumericReading;
const needle = Meter.parse({ name: "needle", analogue: true, voltage: { ranges: [{ span: 2.5 }, { span: 10 }] } });

describe("a needle", () => {
  it("loads by its ohms for each volt of the span, not of what it shows", () => {
    const circuit = circuitFrom("BT1 10V ri=0: R1 100k + [A] R2 100k");
    const probes = (range: string) => {
      const set = buildProbes(buildNetwork(circuit), [volts(0, { range })], { meter: meterData(needle) });
      if (set.kind !== "probes") throw new Error(set.kind);
      return set.probes[0].y;
    };
    // 5 V behind 50 kΩ (two of 100 kΩ side by side), into 20 kΩ/V times the span.
    expect(probes("10V")).toBeCloseTo((5 * 200) / 250, 9);
    expect(probes("2.5V")).toBeCloseTo((5 * 50) / 100, 9);
  });

  it("is off by a share of the full scale, and its digits say nothing", () => {
    const data = meterData(needle);
    const low = limitOf(volts(1, { range: "10V", step: 0.01 }), data);
    const high = limitOf(volts(9, { range: "10V", step: 0.01 }), data);
    // 3 % of 10 V, half a division of 50, and what a dead circuit may show.
    expect(low).toBeCloseTo(0.3 + 0.1 + 0.005, 9);
    expect(high).toBeCloseTo(low, 9);
  });

  it("is off on ohms by a share of the scale's length: best where the scale has its middle", () => {
    const ohms = (value: number) => ({ quantity: "resistance", from: "A", value, range: "1k" }) as NumericReading;
    const data = meterData(
      Meter.parse({ analogue: true, resistance: { offset: 0, ranges: [{ span: 1000, middle: 20 }] } }),
    );
    const relative = (value: number) => limitOf(ohms(value), data) / value;
    // The needle stands at R/(R + 20) of the scale: 3 % of its length there is 0.03·(R + 20)²/20 ohms.
    expect(limitOf(ohms(20), data)).toBeCloseTo(0.03 * 80, 9);
    expect(relative(20)).toBeLessThan(Math.min(relative(5), relative(80)));
  });
});

describe("a meter held against a known value", () => {
  const checked = meterData(
    Meter.parse({ checks: [{ quantity: "voltage", known: 5, shown: 4.98, plusMinus: 0.004 }] }),
  );

  it("is taken to be off by as much as it was there, either way round, in doubt the further away", () => {
    expect(corrected(volts(4.98), checked).value).toBeCloseTo(5, 9);
    expect(corrected(volts(-4.98), checked).value).toBeCloseTo(-5, 9);
    expect(correctionOf(volts(5), checked)?.doubt).toBeCloseTo(0.004, 6);
    // At 10 V it is off by 20 mV, or by 40 mV as the same share: 10 mV of doubt besides what is known to 4 mV.
    expect(correctionOf(volts(10), checked)?.doubt).toBeCloseTo(Math.hypot(0.004, 0.01), 6);
    expect(correctionOf({ ...volts(5), quantity: "current", through: "R1" } as NumericReading, checked)).toBeNull();
    expect(correctionOf(volts(5, { by: "VM1" }), checked)).toBeNull();
  });

  it("goes by the nearest of several checks, and by its own where there are other meters", () => {
    const check = (known: number, shown: number) => ({ quantity: "voltage" as const, known, shown, plusMinus: 0 });
    const two = Meter.parse({
      checks: [check(1, 1.01), check(20, 19.8)],
      others: [{ name: "second", checks: [check(5, 5.3)] }],
    });
    expect(correctionOf(volts(2), meterData(two))?.by).toBeCloseTo(-0.01, 9);
    expect(correctionOf(volts(12), meterData(two))?.by).toBeCloseTo(0.2, 9);
    expect(correctionOf(volts(5, { meter: "second" }), meterData(two))?.by).toBeCloseTo(-0.3, 9);
  });

  it("has its ranges in order, whatever order they were written in, and more in series where little current is read", () => {
    const data = meterData(Meter.parse({ current: { ranges: [{ span: 10 }, { span: 0.2 }, { span: 0.02 }] } }));
    const spans = data.ranges.current.map((r) => r.span);
    expect(spans).toEqual([0.02, 0.2, 10]);
    // The usual digital meter: an ohm in series up to 200 mA, twenty milliohms in the socket for amperes.
    expect(data.ranges.current.map((r) => r.ohms)).toEqual([1, 1, 0.02]);
  });

  it("errs less where it was checked, in common as much as the check is in doubt", () => {
    const reading = volts(5, { step: 0.01, range: "20V" });
    expect(limitOf(reading, checked)).toBeLessThan(limitOf(reading, meterData()));
    const { own, gain } = errorOf(reading, checked);
    expect(gain * 5).toBeCloseTo(0.002, 6);
    expect(2 * Math.hypot(own, gain * 5)).toBeCloseTo(limitOf(reading, checked), 9);
  });

  it("clears what it was off by from the ranking", () => {
    const circuit = circuitFrom("BT1 10V 0.1%: R1 1k 0.1% + [A] R2 1k 0.1%");
    const low = { ...volts(4.98, { step: 0.001, range: "20V" }) };
    const fine = { voltage: { accuracy: { percent: 0.02, counts: 2 }, offset: 0 } };
    const healthy = (meter: Meter) => {
      const ranking = rankFaults({ circuit, readings: [low], meter });
      if (ranking.kind !== "ranking") throw new Error(ranking.message);
      return ranking.suspects.find((s) => s.faults.length === 0)?.probability ?? 0;
    };
    const checks = [{ quantity: "voltage" as const, known: 5, shown: 4.98, plusMinus: 0.002 }];
    expect(healthy({ ...fine, checks })).toBeGreaterThan(2 * healthy(fine));
  });
});

describe("several meters of a job", () => {
  const bench = SHIPPED_METERS.find((m) => m.id === "bench")?.meter as Meter;
  const data = meterData(Meter.parse({ name: "handheld", others: [bench] }));

  it("are told by the name that a reading has", () => {
    expect(meterOf({ meter: "Bench" }, data).name).toBe("bench");
    expect(meterOf({}, data)).toBe(data);
    expect(meterOf({ meter: "handheld" }, data)).toBe(data);
    expect(rangeOf(volts(7.4, { meter: "bench" }), data).resolution).toBe(1e-4);
    expect(limitOf(volts(7.4, { meter: "bench", step: 0.0001 }), data)).toBeLessThan(
      limitOf(volts(7.4, { step: 0.01 }), data) / 5,
    );
    expect(errorOf(volts(7.4, { meter: "bench" }), data).group).not.toBe(errorOf(volts(7.4), data).group);
    expect(errorOf(volts(7.4, { meter: "handheld" }), data).group).toBe(errorOf(volts(7.4), data).group);
  });

  it("come with the product as data that reads back, each range with socket, burden and fuse", () => {
    for (const { meter } of SHIPPED_METERS) {
      expect(Meter.parse(JSON.parse(JSON.stringify(meter)))).toEqual(meter);
      for (const range of meterData(meter).ranges.current) {
        expect(range.fuse).toBeGreaterThan(0);
        expect(range.ohms).toBeGreaterThan(0);
        expect(range.socket).not.toBe("");
      }
    }
  });
});

describe("what is off", () => {
  it("is counted in the limits of its own side, where they are not as wide either way", () => {
    const due = { value: 3, plusMinus: 0.5, drawn: { likely: { low: 2.9, high: 5 } } };
    const off = (value: number, what: Parameters<typeof deviationOf>[1]) => deviationOf(volts(value), what, null);
    expect(off(4, due)).toEqual({ limits: expect.closeTo(0.5), side: 0 });
    expect(off(2.7, due)).toEqual({ limits: expect.closeTo(-3), side: -1 });
    expect(off(5.2, due)).toEqual({ limits: expect.closeTo(1.1), side: 1 });
    expect(off(4, { value: 3, plusMinus: 0.5 })).toEqual({ limits: expect.closeTo(2), side: 1 });
  });
});
