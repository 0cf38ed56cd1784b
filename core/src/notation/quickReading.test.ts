import fc from "fast-check";
import { describe, expect, it } from "vitest";
import type { Circuit } from "../circuit/index.ts";
import { readQuick, readTrail } from "./index.ts";

const circuit = readTrail(
  "BT1 24V: F1 1A + [A] R1 220 + [B] (R2 1k | R3 470 + [C] DS1 12V 5W) + [D] S1 + [E-5] R5 100".replace("[E-5]", "[E]"),
).circuit as Circuit;

const read = (line: string) => readQuick(line, circuit, { quantity: "voltage", from: "B" });

describe("the quick reading", () => {
  it.each([
    ["7.42", { quantity: "voltage", from: "B", value: 7.42, step: 0.01 }],
    ["B 7.42", { quantity: "voltage", from: "B", value: 7.42 }],
    ["b 7,42V", { quantity: "voltage", from: "B", value: 7.42 }],
    ["B −7.42V", { value: -7.42 }],
    ["B-D 3.1", { quantity: "voltage", from: "B", to: "D", value: 3.1 }],
    ["R3 4.1V", { quantity: "voltage", from: "B", to: "C", value: 4.1 }],
    ["R3 12mA", { quantity: "current", through: "R3", value: 0.012 }],
    ["BT1 0.3A", { quantity: "current", through: "BT1", value: 0.3 }],
    ["B-D 470ohm", { quantity: "resistance", from: "B", to: "D", value: 470 }],
    ["R3 470R", { quantity: "resistance", from: "B", to: "C", value: 470 }],
    ["R3 lifted 470R", { quantity: "resistance", lifted: "R3", value: 470 }],
    ["R3 lifted 470R null=0.4", { lifted: "R3", value: 469.6 }],
    ["R3 OL", { quantity: "resistance", from: "B", to: "C", beyond: "over" }],
    ["B-D ol", { quantity: "resistance", from: "B", to: "D", beyond: "over" }],
    ["B-D beep", { beyond: "under", value: 30 }],
    ["B-D nobeep", { beyond: "over", value: 30 }],
    ["B 7.3..7.5", { value: 7.4, wander: 0.1 }],
    ["B 7.42 @20V", { value: 7.42, range: "20V" }],
    ["B 7.42 @20V/bench", { range: "20V", meter: "bench" }],
    ["DS1 dark", { quantity: "observation", part: "DS1", seen: "dark" }],
    ["DS1 alone lit", { seen: "lit", alone: true }],
    ["F1 blown", { part: "F1", seen: "blown" }],
    ["R3 burnt", { part: "R3", seen: "burnt" }],
  ])("understands %s", (line, expected) => {
    const understood = read(line);
    expect(understood.kind === "reading" ? understood.reading : understood).toMatchObject(expected);
    if (understood.kind === "reading" && "value" in expected && understood.reading.quantity !== "observation")
      expect(understood.reading.value).toBeCloseTo(expected.value as number, 10);
  });

  it.each([
    ["R3 swapped", "swapped"],
    ["S1 open", "open"],
    ["R3 lifted", "lifted"],
    ["R3 restored", "restored"],
  ])("takes %s as a change of the circuit", (line, change) => {
    expect(read(line)).toMatchObject({ kind: "change", change: { change } });
  });

  it("takes a supply's voltage unloaded in a circuit without its load", () => {
    const understood = read("BT1 unloaded 24.6V");
    expect(understood).toMatchObject({ kind: "reading", reading: { from: "+", state: { lifted: ["F1"] } } });
  });

  it.each([
    ["B 7m", /of what/, "B 7mV"],
    ["B 7M", /of what/, "B 7mV"],
    ["R3 12MA", /mega-amperes/, "R3 12mA"],
    ["R3 12", /write the unit/, "R3 12mA"],
    ["R7 5V", /no node or part R7/, "R3 5V"],
    ["B-X 3", /no two nodes/, undefined],
    ["B", /what did B read/, undefined],
    ["B twelve", /not a number/, undefined],
    ["B-D 3mA", /goes through a part/, undefined],
    ["R3 open", /only a switch/, undefined],
    ["B 5W", /volts, amperes or ohms/, undefined],
    ["R3 lifted 5V", /measured in ohms/, undefined],
  ])("asks about %s", (line, words, instead) => {
    const understood = read(line);
    expect(understood).toMatchObject({ kind: "mistake", message: expect.stringMatching(words) });
    if (understood.kind !== "mistake") return;
    expect(understood.column).toBeGreaterThanOrEqual(1);
    if (!instead) return;
    expect(understood.instead).toContain(instead);
    for (const line of understood.instead ?? []) expect(read(line).kind).toBe("reading");
  });

  it("asks for a place when nothing is proposed", () => {
    expect(readQuick("7.42", circuit)).toMatchObject({ kind: "mistake", message: expect.stringMatching(/where/) });
  });

  it("never throws and never gives a number that is none", () => {
    const words = fc.array(
      fc.oneof(fc.constantFrom("B", "R3", "lifted", "-", "..", "@", "null=", "OL", "12", "mA", "V", "k"), fc.string()),
      { maxLength: 5 },
    );
    fc.assert(
      fc.property(words, fc.constantFrom("", " "), (parts, gap) => {
        const understood = read(parts.join(gap));
        if (understood.kind === "reading" && understood.reading.quantity !== "observation")
          expect(Number.isFinite(understood.reading.value)).toBe(true);
      }),
      { numRuns: 500 },
    );
  });
});
