import { type Meter, meterData, SHIPPED_METERS } from "@hound/core/record";
import { describe, expect, it } from "vitest";
import { checkFrom, type MeterTexts, meterFrom, textsOf } from "./meterTexts.ts";

const edited = (texts: MeterTexts, change: Partial<MeterTexts>) => meterFrom({ ...texts, ...change }, {});

describe("a meter in a form", () => {
  it.each(SHIPPED_METERS)("says all there is of $id, and gives it back", ({ meter }) => {
    const back = meterFrom(textsOf(meter), meter);
    if (!("name" in back)) throw new Error(JSON.stringify(back));
    const { ranges, category, leads, common, dial } = meterData(back as Meter);
    const before = meterData(meter);
    expect({ ranges, category, leads, common, dial }).toEqual({
      ranges: before.ranges,
      category: before.category,
      leads: before.leads,
      common: before.common,
      dial: before.dial,
    });
  });

  it("may be a needle: ohms a volt, percent of the scale, the middle of the ohms", () => {
    const texts = textsOf({ name: "needle", analogue: true, voltage: { ohmsPerVolt: 20_000, ranges: [{ span: 10 }] } });
    const ohms = [{ ...texts.ranges.resistance[0], span: "1k", ohms: "20", counts: "3" }];
    const back = edited(texts, { ranges: { ...texts.ranges, resistance: ohms } });
    const data = meterData(back as Meter);
    expect(data.ranges.voltage[0]).toMatchObject({ ohms: 200_000, ofSpan: 3 });
    expect(data.ranges.resistance[0]).toMatchObject({ span: 1000, middle: 20, ofSpan: 3 });
  });

  it("is as usual again where a field was emptied, and no needle any more where that was taken back", () => {
    const before: Meter = {
      name: "mine",
      analogue: true,
      common: "GND",
      voltage: { ohmsPerVolt: 5000, ranges: [{ span: 10 }] },
      current: { burdenResistance: 7, ranges: [{ span: 0.2, burdenResistance: 9, fuse: 0.5, socket: "X" }] },
    };
    const texts = textsOf(before);
    const [amps] = texts.ranges.current;
    const emptied = {
      ...texts,
      common: " ",
      ohmsPerVolt: "",
      ranges: { ...texts.ranges, current: [{ ...amps, ohms: "", fuse: "", socket: "", digit: "" }] },
    };
    const usual = meterData({
      analogue: true,
      voltage: { ranges: [{ span: 10 }] },
      current: { ranges: [{ span: 0.2 }] },
    });
    const data = meterData(meterFrom(emptied, before) as Meter);
    expect(data.common).toBe(usual.common);
    expect(data.ranges.voltage[0].ohms).toBe(usual.ranges.voltage[0].ohms);
    const { percent: _, counts: __, ofSpan: ___, ...range } = usual.ranges.current[0];
    expect(data.ranges.current[0]).toMatchObject(range);
    expect(data.ranges.current[0]).not.toHaveProperty("fuse");
    const digital = meterFrom({ ...texts, analogue: false }, before) as Meter;
    expect(digital.voltage).not.toHaveProperty("ohmsPerVolt");
  });

  it("says of every field what is wrong with it, and makes no meter of it", () => {
    const texts = textsOf(SHIPPED_METERS[0].meter);
    const [first, ...rest] = texts.ranges.voltage;
    const voltage = [{ ...first, span: "lots", percent: "5V" }, ...rest];
    const found = edited(texts, { name: "my meter", ranges: { ...texts.ranges, voltage }, leadVolts: "0" });
    expect(Array.isArray(found) && found.map((m) => m.field)).toEqual([
      "name",
      "leadVolts",
      "voltage 1 span",
      "voltage 1 percent",
    ]);
  });

  it("takes a check against a known value", () => {
    expect(checkFrom({ quantity: "voltage", known: "5", plusMinus: "5mV", shown: "4.98 V" })).toEqual({
      quantity: "voltage",
      known: 5,
      plusMinus: 0.005,
      shown: 4.98,
    });
    expect(checkFrom({ quantity: "voltage", known: "5", plusMinus: "", shown: "4.98 A" })).toMatch(/shows/);
  });
});
