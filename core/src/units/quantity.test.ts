import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { parseQuantity, printQuantity, printWithLimits, type Unit, writeQuantity } from "./index.ts";

const UNITS: readonly (Unit | null)[] = ["ohm", "V", "A", "W", null];

describe("values", () => {
  it.each([
    ["4k7", 4700, null],
    ["4.7k", 4700, null],
    ["2R2", 2.2, "ohm"],
    ["0R05", 0.05, "ohm"],
    ["0.05ohm", 0.05, "ohm"],
    ["4.7 kΩ", 4700, "ohm"],
    ["12mA", 0.012, "A"],
    ["0,47", 0.47, null],
    ["1M5", 1_500_000, null],
    ["22u", 22e-6, null],
    ["−9V", -9, "V"],
    ["5%", 5, "%"],
    ["3V3", 3.3, "V"],
    [".5W", 0.5, "W"],
    ["1e-12A", 1e-12, "A"],
    ["23.8 volts", 23.8, "V"],
    ["3 milliamps", 0.003, "A"],
    ["4.7 kilohms", 4700, "ohm"],
    ["1 Meg", 1e6, null],
    ["2 megohm", 2e6, "ohm"],
    ["12 V dc", 12, "V"],
    ["４．７ｋ", 4700, null],
    ["–9 V", -9, "V"],
    ["10 %", 10, "%"],
    // Groups of thousands, where no decimal sign can be meant.
    ["1\u202f234,5", 1234.5, null],
    ["1'000", 1000, null],
    ["1,234.5", 1234.5, null],
    ["1.234,5 V", 1234.5, "V"],
    ["1,234,567", 1_234_567, null],
    ["-12 000", -12_000, null],
    // One sign before three digits is a decimal sign, as a meter shows it.
    ["1,234", 1.234, null],
  ])("reads %s", (text, value, unit) => {
    const read = parseQuantity(text);
    expect(read).toMatchObject({ kind: "quantity", unit });
    expect(read.kind === "quantity" && read.value).toBeCloseTo(value, 15);
  });

  it.each([
    ["3V3V", "V", ""],
    ["2R2ohm", "ohm", ""],
    ["4k7", null, "k"],
    ["4k7ohm", "ohm", "k"],
    ["4.7k", null, "k"],
    ["12 mA", "A", "m"],
    ["12V", "V", ""],
  ])("keeps the unit and the prefix of %s", (text, unit, prefix) => {
    expect(parseQuantity(text)).toMatchObject({ kind: "quantity", unit, prefix });
  });

  it.each(["3V3A", "2R2V", "3V3ohm", "12k%", "5m%", "7q", "4k7x"])("refuses a unit that does not fit: %s", (text) => {
    expect(parseQuantity(text).kind).toBe("mistake");
  });

  it.each([
    [4700, "ohm", "4.7k"],
    [0.012, "A", "12mA"],
    [22e-6, "A", "22uA"],
    [1e-15, "V", "0.001pV"],
    [5, "%", "5%"],
    [0, "W", "0W"],
    [2.5e13, null, "25000G"],
  ] as const)("writes %d %s as %s", (value, unit, text) => {
    expect(writeQuantity(value, unit)).toBe(text);
  });

  it.each(["", "volts", "4k7k", "1.2.3", "12 apples", "5kV%", "--3", "1e999"])("refuses %j and says why", (text) => {
    const read = parseQuantity(text);
    expect(read.kind).toBe("mistake");
    expect(read.kind === "mistake" && read.why.length).toBeGreaterThan(8);
  });

  it("writes every finite number so that it reads back as exactly the same", () => {
    fc.assert(
      fc.property(fc.double({ noNaN: true, noDefaultInfinity: true }), fc.constantFrom(...UNITS), (value, unit) => {
        const read = parseQuantity(writeQuantity(value, unit));
        expect(read.kind === "quantity" && read.value).toBe(value === 0 ? 0 : value);
        if (read.kind === "quantity" && unit !== "ohm") expect(read.unit).toBe(unit);
      }),
    );
  });

  it("prints for people within half a digit, in point and in comma, and reads that too", () => {
    const decimal = fc.constantFrom<"." | ",">(".", ",");
    const value = fc.tuple(fc.integer({ min: 1, max: 9999 }), fc.integer({ min: -11, max: 8 }));
    fc.assert(
      fc.property(value, decimal, fc.integer({ min: 2, max: 6 }), ([digits, power], mark, shown) => {
        const exact = Number(`${digits}e${power}`);
        const text = printQuantity(exact, "V", { digits: shown, decimal: mark });
        const read = parseQuantity(text.replace("\u00a0", " "));
        expect(read.kind === "quantity" && Math.abs(read.value / exact - 1)).toBeLessThan(0.51 * 10 ** (1 - shown));
        expect(text).toMatch(/^[\d.,]+\u00a0[pnµmkMG]?V$/);
      }),
    );
  });

  it.each([
    [Number.NaN, "–\u00a0V"],
    [Number.POSITIVE_INFINITY, "∞\u00a0V"],
    [Number.NEGATIVE_INFINITY, "−∞\u00a0V"],
    [-0.0123, "−12.3\u00a0mV"],
    [0, "0.00\u00a0V"],
    [999.96, "1.00\u00a0kV"],
    [0.00001234, "12.3\u00a0µV"],
  ])("prints %d as %s", (value, text) => {
    expect(printQuantity(value, "V", { digits: 3 })).toBe(text);
  });

  it("prints a percentage to its digits", () => {
    expect(
      [printQuantity(12.345, "%", { digits: 3 }), printQuantity(-12.345, "%")].map((t) => t.replace("\u00a0", " ")),
    ).toEqual(["12.3 %", "−12.345 %"]);
  });

  it("keeps the digits that were typed", () => {
    const step = (text: string) => {
      const read = parseQuantity(text);
      return read.kind === "quantity" ? read.step : Number.NaN;
    };
    expect(step("7.40")).toBeCloseTo(0.01);
    expect(step("7.4")).toBeCloseTo(0.1);
    expect(step("12.30mA")).toBeCloseTo(1e-5);
    expect(step("4k7")).toBeCloseTo(100);
  });
});

describe("a value with its limits", () => {
  it("has as many decimals on both sides of ±, one prefix, and no break before its unit", () => {
    fc.assert(
      fc.property(
        fc.double({ min: -1e7, max: 1e7, noNaN: true }),
        fc.double({ min: 1e-4, max: 1e5, noNaN: true }),
        (value, limit) => {
          const text = printWithLimits(value, limit, "V");
          const [, a, b, rest] = /^−?(\d+(?:\.\d+)?) ±\u00a0(\d+(?:\.\d+)?)\u00a0(.*)$/.exec(text) ?? [];
          expect(b, text).toBeDefined();
          const decimals = (t: string) => t.split(".")[1]?.length ?? 0;
          expect(decimals(a), text).toBe(decimals(b));
          expect(rest).toMatch(/^[pnµmkMG]?V$/);
          // What is printed is what it was, to the last digit that is.
          const read = parseQuantity(`${text.startsWith("−") ? "-" : ""}${a}${rest}`);
          const step = Math.abs(read.kind === "quantity" ? read.step : 0);
          expect(Math.abs((read.kind === "quantity" ? read.value : Number.NaN) - value)).toBeLessThanOrEqual(
            0.51 * step,
          );
          expect(Number(b)).toBeGreaterThan(0);
        },
      ),
    );
  });

  it.each([
    [16.93, 0.4, "16.93 ±\u00a00.40\u00a0V"],
    [0.012_34, 0.000_21, "12.34 ±\u00a00.21\u00a0mV"],
    [17, 123.4, "17 ±\u00a0123\u00a0V"],
    [0, 0.2, "0 ±\u00a0200\u00a0mV"],
    [-4.5, 0.1, "−4.50 ±\u00a00.10\u00a0V"],
    [9.9996, 0.0004, "9.9996 ±\u00a00.0004\u00a0V"],
  ])("prints %d within %d", (value, limit, text) => {
    expect(printWithLimits(value, limit, "V")).toBe(text);
  });
});
