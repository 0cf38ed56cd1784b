import { expect, it } from "vitest";
import type { Circuit } from "../circuit/index.ts";
import { readTrail } from "../notation/index.ts";
import type { Reading } from "../record/index.ts";
import { rankingOf, weighToEnd } from "./index.ts";

it("takes what a drawn ammeter shows of a healthy circuit for no fault: it has the burden of the meter in hand", () => {
  const circuit = readTrail("BT1 12V ri=0: [P] AM1 + R1 7 1% + [B] R2 10 1%").circuit as Circuit;
  // 12 V ÷ 17.02 Ω; with 1 Ω in the ammeter it would be 0.667 A.
  const readings: Reading[] = [{ quantity: "current", through: "AM1", by: "AM1", value: 0.705, step: 0.001 }];
  const weighing = weighToEnd({ circuit, readings, situation: "newBuild" });
  if (weighing.kind === "problem") throw new Error(weighing.what);
  const [first] = rankingOf(weighing, 0).suspects;
  expect(first.faults).toEqual([]);
  expect(first.probability).toBeGreaterThan(0.8);
});
