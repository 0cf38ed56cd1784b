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
    const found = ask("R1 + R2 + R3 = BT1?", ["P 12.00", "A 7.20", "R2 4.90V", "R3 2.40V"]);
    expect(found).toMatchObject({ kind: "answer", answer: { unit: "V", missing: [], isEmpty: false } });
    if (found?.kind !== "answer") throw new Error();
    // 12.00 − 7.20, 4.90 and 2.40.
    expect(found.answer.left).toBeCloseTo(4.8 + 4.9 + 2.4, 9);
    expect(found.answer.right).toBeCloseTo(12, 9);
    expect(found.answer.plusMinus).toBeGreaterThan(0);
    const less = ask("P - A = r1", ["P 12.00", "A 7.20", "R1 4.80V"]);
    expect(less).toMatchObject({ answer: { missing: [] } });
  });

  it("takes nothing for a witness of itself", () => {
    // The supply's volts are made of nothing but what stands on the other side: it is not read.
    const four = ask("R1 + R2 + R3 = BT1?", ["R1 4.80V", "R2 4.90V", "R3 2.40V"]);
    if (four?.kind !== "answer") throw new Error();
    expect(four.answer.missing).toMatchObject([{ name: "BT1", value: expect.closeTo(12, 2) }]);
    expect([four.answer.left, four.answer.right]).toEqual([expect.closeTo(12.1, 9), expect.closeTo(12, 2)]);
    // Two points read against the reference close round any loop.
    expect(ask("R1 + R2 + R3 = BT1?", ["P 12.00", "A 7.20", "B 2.40"])).toMatchObject({
      answer: { isEmpty: true, left: expect.closeTo(12, 9), right: 12, plusMinus: 0 },
    });
  });

  it("of currents where those were read", () => {
    const found = ask("R3 + R4 = R2?", ["R3 2.0mA", "R4 2.1mA", "R2 4.0mA"]);
    expect(found).toMatchObject({ answer: { unit: "A" } });
    if (found?.kind === "answer") expect(found.answer.left - found.answer.right).toBeCloseTo(1e-4, 9);
  });

  it("takes each drop as it was read, not what other points make of it", () => {
    const three = readTrail("BT1 18V: [P] R1 470 2% + [A] R2 330 2% + [B] R3 150 2%").circuit as Circuit;
    const lines = ["R1 7.10V", "R2 6.24V", "R3 2.84V", "P 18.0"];
    const readings = lines.map((line) => {
      const read = readQuick(line, three);
      if (read.kind !== "reading") throw new Error(line);
      return read.reading as NumericReading;
    });
    const of = (text: string) => {
      const found = askedSum(text, buildNetwork(three), readings, meterData());
      if (found?.kind !== "answer") throw new Error(text);
      return found.answer;
    };
    const loop = of("R1+R2+R3=P?");
    expect([loop.left, loop.right]).toEqual([expect.closeTo(16.18, 9), expect.closeTo(18, 9)]);
    expect(loop.missing).toEqual([]);
    // The battery between the same points was read as P; written the other way round it counts the other way.
    expect(of("R1+R2+R3=BT1?").right).toBeCloseTo(18, 9);
    expect(of("R3 = B")).toMatchObject({ left: 2.84, right: 2.84, isEmpty: true });
  });

  it("names what was not read, with what is drawn", () => {
    const found = ask("R1 + R2 = BT1?", ["P 12.00", "R1 4.70V"]);
    if (found?.kind !== "answer") throw new Error();
    // R2 has 4.8 V of 12 V over 1 k, 1 k and half of one; 5 % parts and a 2 % supply move it.
    expect(found.answer.missing).toMatchObject([{ name: "R2", value: expect.closeTo(4.8, 6) }]);
    expect(found.answer.missing[0].plusMinus).toBeGreaterThan(0.1);
    expect([found.answer.left, found.answer.right]).toEqual([expect.closeTo(9.5, 6), 12]);
    expect(found.answer.plusMinus).toBeGreaterThan(found.answer.missing[0].plusMinus);
    const supply = ask("R1 = BT1?", ["R1 4.70V"]);
    if (supply?.kind !== "answer") throw new Error();
    expect(supply.answer.missing).toMatchObject([
      { name: "BT1", value: expect.closeTo(12, 2), plusMinus: expect.closeTo(0.24, 2) },
    ]);
  });

  it("says what is wrong with it, and leaves other lines alone", () => {
    expect(ask("R1 + R9 = BT1?", [])).toMatchObject({ kind: "mistake", message: expect.stringContaining("R9") });
    expect(ask("R1 + = BT1?", [])?.kind).toBe("mistake");
    expect(ask("B 7.42", [])).toBeNull();
    expect(ask("R3 lifted 470R null=0.4", [])).toBeNull();
  });
});
