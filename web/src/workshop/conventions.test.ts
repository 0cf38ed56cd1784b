import { Conventions } from "@hound/core/record";
import { expect, it } from "vitest";
import { EXAMPLES } from "./conventionExamples.ts";

const usual = Conventions.parse({});
const plain = (text: string) => text.replaceAll("\u00a0", " ");

it("each convention's example changes with the choice, and its figures are right", () => {
  for (const sums of ["reciprocals", "product", "conductances"] as const)
    expect(plain(EXAMPLES.sums(sums, usual))).toMatch(/150 Ω$/); // 220·470/690 = 149.9
  // 24/370 A through 150 Ω: 9.7297 V; with 64.9 mA carried on 9.735 V.
  expect(plain(EXAMPLES.rounding("exact", usual))).toBe("64.9 mA × 150 = 9.730 V");
  expect(plain(EXAMPLES.rounding("paper", usual))).toBe("64.9 mA × 150 = 9.735 V");
  // 6 V · 10/(10 + 0.5).
  expect(plain(EXAMPLES.meters("real", usual))).toMatch(/shows 5\.71 V$/);
  expect(plain(EXAMPLES.supplies("real", usual))).toBe("24 V, 0.3 Ω, 2 A: 23.4 V");
  expect(plain(EXAMPLES.wires("real", usual))).toMatch(/160 mV$/);
  const comma = { ...usual, decimal: "comma" as const };
  expect(plain(EXAMPLES.decimal("comma", comma))).toBe("4,7 kΩ");
  expect(plain(EXAMPLES.supplies("ideal", comma))).toBe("24 V, 0,3 Ω, 2 A: 24,0 V");
  expect(EXAMPLES.arrows("conventional", usual)).not.toBe(EXAMPLES.arrows("electron", usual));
});
