import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { AutoHold, MeterLines, meterName, type Sample, sampleIn, USUAL_HOLD } from "./index.ts";

describe("the lines of a meter", () => {
  it("are the same however the text is cut, and whatever ends them", () => {
    const text = "1.00 V\r\n2.00 V\n\n3.00 V\r4.0";
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 0, max: text.length }), { maxLength: 8 }), (cuts) => {
        const lines = new MeterLines(() => 0);
        const ends = [...cuts.sort((a, b) => a - b), text.length];
        const told = ends.flatMap((end, i) => lines.take(text.slice(i === 0 ? 0 : ends[i - 1], end)));
        expect([...told, ...lines.take(" V\n")]).toEqual(["1.00 V", "2.00 V", "3.00 V", "4.0 V"]);
      }),
    );
  });

  it("are no more than a meter can send: neither longer, nor faster, nor by name", () => {
    let now = 0;
    const lines = new MeterLines(() => now);
    expect(lines.take(`${"1".repeat(1000)}\n`)).toHaveLength(1);
    expect(() => new MeterLines(() => 0).take("1".repeat(1001))).toThrow(/more than 1000 characters/);
    for (let second = 0; second < 5; second += 1, now += 1001) expect(lines.take("1\n".repeat(400))).toHaveLength(400);
    expect(() => lines.take("1\n".repeat(501))).toThrow(/more than 500 lines/);
    expect(meterName(`A\u0007\u202eB${"C".repeat(500)}`)).toMatch(/^A BC{117}…$/);
  });
});

describe("a meter's line", () => {
  it.each([
    ["7.42 V", { value: 7.42, isOver: false, step: 0.01, quantity: "voltage" }],
    ["-12,3 mA", { value: -0.0123, isOver: false, step: 0.0001, quantity: "current" }],
    ["4.700 kΩ", { value: 4700, isOver: false, step: 1, quantity: "resistance" }],
    ["7.42 V DC", { value: 7.42, isOver: false, step: 0.01, quantity: "voltage" }],
    ["+7.4213E+00", { value: 7.4213, isOver: false, step: 0.0001, quantity: null }],
    ["1.20E-3 A, 12:00:01", { value: 0.0012, isOver: false, step: 1e-5, quantity: "current" }],
    ["0.000", { value: 0, isOver: false, step: 0.001, quantity: null }],
  ])("%s", (line, wanted) => {
    const found = sampleIn(line);
    expect(found).toEqual({
      ...wanted,
      value: expect.closeTo(wanted.value, 12),
      step: expect.closeTo(wanted.step, 12),
    });
  });

  it("over range is told in words or by SCPI's overload, and what is no reading is none", () => {
    for (const line of ["OL", "9.9E+37", "+9.90000000E+37", "OVLD"]) expect(sampleIn(line)?.isOver).toBe(true);
    expect(sampleIn("OL ohm")).toMatchObject({ isOver: true, quantity: "resistance" });
    expect(sampleIn("-9.9E37")?.value).toBe(Number.NEGATIVE_INFINITY);
    for (const line of ["", "hello", "7.42 W", "*IDN?", "V", "7.4.2"]) expect(sampleIn(line), line).toBeNull();
  });
});

const sample = (value: number): Sample => ({ value, isOver: false, step: 0.01, quantity: "voltage" });

/** What is held of a run of values, ten a second. */
function heldOf(values: readonly (number | "OL" | "moved")[], hold = new AutoHold()) {
  const found: number[] = [];
  for (const [i, v] of values.entries()) {
    if (v === "moved") {
      hold.moved();
      continue;
    }
    const taken = hold.take(
      v === "OL" ? { ...sample(0), value: Number.POSITIVE_INFINITY, isOver: true } : sample(v),
      i * 100,
    );
    if (taken) found.push(taken.value);
  }
  return found;
}
const times = <T>(n: number, value: T) => Array.from({ length: n }, () => value);

describe("auto-hold", () => {
  it("holds a steady value once, its middle, and the next only after a change", () => {
    expect(heldOf([...times(6, 7.42), 7.43, 7.43])).toEqual([7.42]);
    expect(heldOf(times(40, 7.42))).toEqual([7.42]);
    expect(heldOf([...times(10, 7.42), ...times(10, 3.1)])).toEqual([7.42, 3.1]);
    // A drift of a few counts is the same reading.
    expect(heldOf([...times(10, 7.42), ...times(10, 7.45)])).toEqual([7.42]);
  });

  it("takes the same value again once the probes were said to be elsewhere", () => {
    expect(heldOf([...times(10, 7.42), "moved", ...times(10, 7.42)])).toEqual([7.42, 7.42]);
  });

  it("does not hold what wanders or settles", () => {
    expect(heldOf(Array.from({ length: 60 }, (_, i) => 5 + (i % 2) * 0.05))).toEqual([]);
    expect(heldOf(Array.from({ length: 30 }, (_, i) => i * 0.02))).toEqual([]);
  });

  it("waits longer where next to nothing is shown, as of probes in the air", () => {
    const wait = USUAL_HOLD.millisOfNothing / 100;
    expect(heldOf(times(wait - 2, 0.01))).toEqual([]);
    expect(heldOf(times(wait + 2, 0))).toEqual([0]);
    expect(heldOf(times(wait - 2, "OL"))).toEqual([]);
    expect(heldOf(times(wait + 2, "OL"))).toEqual([Number.POSITIVE_INFINITY]);
  });

  it("never holds a value that was not there for the whole time, whatever comes", () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 0, max: 30 }), { maxLength: 80 }), (digits) => {
        const hold = new AutoHold();
        digits.forEach((d, i) => {
          const held = hold.take(sample(d / 10), i * 100);
          if (!held) return;
          const wait = Math.abs(held.value) <= 0.05 ? USUAL_HOLD.millisOfNothing : USUAL_HOLD.millis;
          const since = digits.slice(i - Math.floor(wait / 100), i + 1);
          expect(since.length).toBeGreaterThanOrEqual(wait / 100);
          expect(new Set(since).size).toBe(1);
        });
      }),
    );
  });
});
