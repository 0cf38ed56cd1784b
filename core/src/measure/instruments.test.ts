import { expect, it } from "vitest";
import { buildNetwork, type Circuit, IDEAL_INPUT_OHMS, IDEAL_OHMS } from "../circuit/index.ts";
import { readTrail, writePart } from "../notation/index.ts";
import { idealMeter, meterData } from "../record/index.ts";
import { solveNetwork } from "../solve/index.ts";
import { withInstruments } from "./index.ts";

const circuitOf = (trail: string) => readTrail(trail).circuit as Circuit;
const ohmsIn = (circuit: Circuit) =>
  Object.fromEntries(circuit.parts.flatMap((p) => (p.kind === "meter" ? [[p.designator, p.ohms]] : [])));

it("gives a drawn meter the burden or input of the range its own figure is read on; what is written holds", () => {
  // 12 V over 17 Ω: 0.7 A, on the range of 10 A; 5 V over 500 Ω: 10 mA, on that of 20 mA.
  const meter = meterData({
    current: { burdenResistance: 5 },
    voltage: { inputResistance: 1e6 },
  });
  const large = circuitOf("BT1 12V ri=0: [P] AM1 + R1 7 + [B] (R2 10 | VM1)");
  expect(ohmsIn(withInstruments(large, meterData({})))).toEqual({ AM1: 0.02, VM1: 1e7 });
  const small = circuitOf("BT1 5V ri=0: [P] AM1 + R1 500 + AM2 1 + AM3 2 + (R2 1 | VM1)");
  expect(ohmsIn(withInstruments(small, meter))).toEqual({ AM1: 5, AM2: 1, AM3: 2, VM1: 1e6 });
  const none = meterData(idealMeter({}));
  expect(ohmsIn(withInstruments(large, none))).toEqual({ AM1: IDEAL_OHMS, VM1: IDEAL_INPUT_OHMS });
  const once = withInstruments(small, meter);
  expect(withInstruments(once, meter)).toEqual(once);
  expect(withInstruments(circuitOf("BT1 5V: R1 1k"), meter).parts).toHaveLength(2);
  // By other letters that drawings have for it.
  expect(ohmsIn(withInstruments(circuitOf("BT1 5V: R1 500 kind=resistor + (R2 1k | PV1 kind=meter)"), meter)).PV1).toBe(
    1e6,
  );
  // A value that nobody knows yet stops nothing.
  expect(ohmsIn(withInstruments(circuitOf("BT1 5V: AM1 + R1 ?"), meterData({}))).AM1).toBe(1);
});

it("is ideal where that is written, by word or as nothing, and written again as it was", () => {
  const circuit = circuitOf("BT1 12V ideal: [P] AM1 ideal + AM2 0 + AM3 1 + W1 ideal + R1 7 + [B] (R2 10 | VM1 ideal)");
  expect(circuit.parts.map(writePart)).toEqual([
    "BT1 12V ri=0",
    "AM1 ideal",
    "AM2 ideal",
    "AM3 1",
    "W1 ideal",
    "R1 7",
    "R2 10",
    "VM1 ideal",
  ]);
  const solved = solveNetwork(buildNetwork(withInstruments(circuit, meterData({}))));
  // 12 V ÷ (1 Ω + 17 Ω)
  if (solved.kind === "solved") expect(solved.amps[1]).toBeCloseTo(12 / 18, 7);
  for (const wrong of ["BT1 12V: R1 ideal", "BT1 12V: R1 10 + VM1 0"])
    expect(readTrail(wrong).mistakes.map((m) => m.severity)).toContain("mistake");
});
