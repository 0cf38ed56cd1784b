import { describe, expect, it } from "vitest";
import { buildNetwork, type Circuit } from "../circuit/index.ts";
import { readQuick, readTrail } from "../notation/index.ts";
import { meterData, type NumericReading } from "../record/index.ts";
import { askedSum } from "./index.ts";

const circuit = readTrail("BT1 12V ri=0: [P] R1 1k + [A] R2 1k + [B] (R3 1k | R4 1k)").circuit as Circuit;
const network = buildNetwork(circuit);
const ask = (text: string, lines: readonly string[]) =>
  askedSum(
    text,
    network,
    lines.map((line) => {
      const read = readQuick(line, circuit);
      if (read.kind !== "reading") throw new Error(line);
      return read.reading as NumericReading;
    }),
    meterData(),
  );

describe("a sum asked by hand", () => {
  it("is answered from what was read: across parts, or between nodes that were", () => {
    const found = ask("R1 + R2 + R3 = BT1?", ["P 12.00", "A 7.20", "R2 4.90V"]);
    expect(found).toMatchObject({ kind: "answer", answer: { unit: "V", missing: [] } });
    if (found?.kind !== "answer") throw new Error();
    // 12.00 − 7.20, 4.90, and what is left of A.
    expect(found.answer.left).toBeCloseTo(4.8 + 4.9 + (7.2 - 4.9), 9);
    expect(found.answer.right).toBeCloseTo(12, 9);
    expect(found.answer.plusMinus).toBeGreaterThan(0);
    const less = ask("P - A = r1", ["P 12.00", "A 7.20", "R1 4.80V"]);
    expect(less).toMatchObject({ answer: { missing: [] } });
  });

  it("of currents where those were read", () => {
    const found = ask("R3 + R4 = R2?", ["R3 2.0mA", "R4 2.1mA", "R2 4.0mA"]);
    expect(found).toMatchObject({ answer: { unit: "A" } });
    if (found?.kind === "answer") expect(found.answer.left - found.answer.right).toBeCloseTo(1e-4, 9);
  });

  it("of what it should be where something was not read, and says what", () => {
    const found = ask("R1 + R2 = BT1?", ["P 12.00"]);
    expect(found).toMatchObject({ answer: { plusMinus: null, missing: ["R1", "R2"] } });
    // 4.8 V each of 12 V over 1 k, 1 k and half of one.
    if (found?.kind === "answer") expect([found.answer.left, found.answer.right]).toEqual([expect.closeTo(9.6, 9), 12]);
  });

  it("says what is wrong with it, and leaves other lines alone", () => {
    expect(ask("R1 + R9 = BT1?", [])).toMatchObject({ kind: "mistake", message: expect.stringContaining("R9") });
    expect(ask("R1 + = BT1?", [])?.kind).toBe("mistake");
    expect(ask("B 7.42", [])).toBeNull();
    expect(ask("R3 lifted 470R null=0.4", [])).toBeNull();
  });
});
