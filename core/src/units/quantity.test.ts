import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { parseQuantity, printQuantity, type Unit, writeQuantity } from "./index.ts";

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
  ])("reads %s", (text, value, unit) => {
    const read = parseQuantity(text);
    expect(read).toMatchObject({ kind: "quantity", unit });
    expect(read.kind === "quantity" && read.value).toBeCloseTo(value, 15);
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
