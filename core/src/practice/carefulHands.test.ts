import { describe, expect, it } from "vitest";
import type { Circuit } from "../circuit/index.ts";
import { readTrail } from "../notation/index.ts";
import { meterData, type NumericReading, SHIPPED_METERS } from "../record/index.ts";
import { CarefulHands, worldOf } from "./index.ts";

const { meter } = SHIPPED_METERS[0];

function handsAt(trail: string, hidden: Parameters<typeof worldOf>[1] = []) {
  const world = worldOf(readTrail(trail).circuit as Circuit, hidden, 3, "complaint");
  if (typeof world === "string") throw new Error(world);
  return { world, hands: new CarefulHands(world, meterData(meter)) };
}

const ohms = (from: string, to: string) => ({ quantity: "resistance", from, to, value: 0 }) as NumericReading;
const tested = (from: string, to: string, lifted?: string) =>
  ({ quantity: "voltage", test: "diode", from, to, value: 0, ...(lifted ? { lifted } : {}) }) as NumericReading;

describe("careful hands", () => {
  it("read ohms on the range that shows them, however coarse the one they begin on", () => {
    const { hands } = handsAt(
      "BT1 12V: [P] R1 100 0% + [B] (R2 820 0% | R3 1k 0%)\n[B] R5 47 0% [X]\n[X] R4 4M7 0% [Y]",
    );
    // 820 beside 1000, as the supply is out; then tens of ohms, and megohms.
    const shown = (from: string, to: string) => hands.read(ohms(from, to));
    expect(shown("B", "0")?.value).toBeCloseTo(450.5, -1);
    expect(shown("B", "X")?.value).toBeCloseTo(47, 0);
    expect((shown("X", "Y")?.value ?? 0) / 4.7e6).toBeCloseTo(1, 1);
  });

  it("test a diode either way, in circuit and with a lead off, and put the circuit back", () => {
    const { hands } = handsAt("BT1 12V: [P] R1 470 0% + [A] (LED1 red 0% | K1 330 0%)");
    // A milliampere through 330 ohms; alone a red one drops less than at ten of them; backwards it blocks.
    expect(hands.read(tested("A", "0"))).toMatchObject({ value: expect.closeTo(0.33, 2), test: "diode", from: "A" });
    expect(hands.read(tested("A", "0", "LED1"))).toMatchObject({ value: expect.closeTo(1.75, 1), lifted: "LED1" });
    expect(hands.read(tested("0", "A", "LED1"))).toMatchObject({ beyond: "over", from: "0", lifted: "LED1" });
    const volts = hands.read({ quantity: "voltage", from: "A", value: 0 } as NumericReading);
    expect(volts?.value).toBeCloseTo(1.95, 1);
    expect(hands.done.flatMap(({ told }) => told.traps)).not.toContain("liveOhms");
  });
});
