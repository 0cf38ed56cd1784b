import { MODES, type NodeName } from "@hound/core/circuit";
import { readTrail } from "@hound/core/notation";
import { SLIPS, type SuspectFault } from "@hound/core/rank";
import type { NumericReading, Reading, Repaired } from "@hound/core/record";
import { afterEach, describe, expect, it } from "vitest";
import { bitsWords } from "./bits.ts";
import { benchLeadWords } from "./coach.ts";
import { estimateOf, falseMeterWords, type KindOf, nameOfSuspect, slipQuestion } from "./faults.ts";
import { minutesWords } from "./measurements.ts";
import { count, inWords, print, printCount, printFixed, printNumber, setDecimal } from "./print.ts";
import { percent, placeOf, shown, valueOfReading, withLimits } from "./quantities.ts";
import { foundWords } from "./repair.ts";
import { standingWords } from "./standing.ts";

const circuit = readTrail("BT1 12V: F1 1A + [A] R1 100 + [B] J1 + [C] LA1 12V 5W").circuit;
const kindOf: KindOf = (part) => circuit?.parts.find((p) => p.designator === part)?.kind;
const name = (...faults: SuspectFault[]) => nameOfSuspect({ faults }, kindOf);

afterEach(() => setDecimal("."));

describe("a lead's place", () => {
  it("is called plus or minus where one supply says so, and by its name where two might mean either", () => {
    const read = (trail: string) => readTrail(trail).circuit ?? null;
    const at = (node: string) => ({ node: node as NodeName });
    const one = read("BT1 12V: R1 100 + [B] R2 100");
    expect(benchLeadWords(at("+"), one)).toBe("plus");
    expect(benchLeadWords(at("0"), one)).toBe("0 (minus)");
    expect(benchLeadWords(at("B"), one)).toBe("B");
    const two = read("BT1 12V: [P] R1 100 + [M] BT2 6V + R2 100");
    expect(benchLeadWords(at("P"), two)).toBe("P");
    expect(benchLeadWords({ freed: "R1", from: "B" as NodeName }, one)).toBe("R1’s free end at B");
  });
});

describe("a suspect's name", () => {
  it("says for every mode what is wrong with which part, and for no two modes the same", () => {
    const modes = MODES.filter((m) => m !== "bridged" && m !== "misplaced");
    for (const part of ["R1", "BT1", "J1"]) {
      const names = modes.map((mode) => name({ part, mode }));
      for (const words of names) expect(words).toMatch(new RegExp(`^${part} `));
      expect(new Set(names).size, part).toBe(names.length);
    }
  });

  it("owns up to the joints that nobody typed, and speaks of each kind as one does", () => {
    expect(name({ part: "R1", mode: "open" })).toBe("R1 open, or a joint beside it");
    expect(name({ part: "F1", mode: "open" })).toBe("F1 blown, or a joint beside it open");
    expect(name({ part: "R1", mode: "high" })).toBe("R1 has climbed");
    expect(name({ part: "J1", mode: "high" })).toBe("J1 makes poor contact");
    expect(name({ part: "BT1", mode: "low" })).toBe("BT1 gives too little");
  });

  it("leaves the joints out where there is little room", () => {
    const brief = (...faults: SuspectFault[]) => nameOfSuspect({ faults }, kindOf, true);
    expect(brief({ part: "R1", mode: "open" })).toBe("R1 open");
    expect(brief({ part: "F1", mode: "open" }, { part: "R1", mode: "high" })).toBe("F1 blown, and R1 has climbed");
  });

  it("joins two faults, and tells a fuse that blew from one that happens to be open", () => {
    const faults: SuspectFault[] = [
      { part: "R1", mode: "short" },
      { part: "F1", mode: "open" },
    ];
    expect(name(...faults)).toBe("R1 shorted, and F1 blown, or a joint beside it open");
    expect(nameOfSuspect({ faults, consequence: true }, kindOf)).toBe("R1 shorted, which blew F1");
    const burnt: SuspectFault[] = [faults[0], { part: "LA1", mode: "open" }];
    expect(nameOfSuspect({ faults: burnt, consequence: true }, kindOf)).toBe("R1 shorted, which burnt LA1");
  });

  it("has an estimate in the part's own unit: volts of a low supply, ohms inside a weak one", () => {
    const of = (part: string, mode: "low" | "weak" | "high") =>
      estimateOf({ part, mode, value: 7.5, low: 7.1, high: 7.9 }, kindOf);
    expect(of("BT1", "low")).toBe("about 7.50\u00a0V (7.10\u00a0V to 7.90\u00a0V)");
    expect(of("BT1", "weak")).toMatch(/Ω/);
    expect(of("R1", "high")).toMatch(/Ω/);
    expect(estimateOf({ part: "R1", mode: "open" }, kindOf)).toBeNull();
  });

  it("says how far a meter reads false, and which way", () => {
    const of = (value: number, meter = "") =>
      falseMeterWords({ quantity: "voltage", meter, value, low: value, high: value }).replaceAll("\u00a0", " ");
    expect(of(0.981)).toBe("the meter’s volts about 1.9 % low");
    expect(of(1.12, "bench")).toBe("bench’s volts about 12 % high");
  });

  it("says bits to a tenth, from ten on without", () => {
    const of = (bits: number) => bitsWords(bits).replaceAll("\u00a0", " ");
    expect([9.94, 9.96, -12.3, 1.04, 0.049].map(of)).toEqual([
      "9.9 bits for",
      "10 bits for",
      "12 bits against",
      "1.0 bit for",
      "says nothing",
    ]);
  });

  it("has a question for every slip, none of them an accusation", () => {
    for (const slip of [...SLIPS, "look"] as const) expect(slipQuestion({ slip })).not.toMatch(/wrong|mistake|you/i);
  });
});

describe("a reading in words", () => {
  const volts = (more: Partial<NumericReading>): Reading =>
    ({ quantity: "voltage", from: "B", value: 7.4, ...more }) as Reading;

  it("names its place as the quick line does", () => {
    expect(placeOf(volts({}))).toBe("B");
    expect(placeOf(volts({ to: "C" } as Partial<NumericReading>))).toBe("B–C");
    expect(placeOf({ quantity: "current", through: "R1", value: 1 })).toBe("through R1");
    expect(placeOf({ quantity: "resistance", lifted: "R1", value: 1 } as Reading)).toBe("R1 lifted");
  });

  it("keeps the digits that were typed, and says what lies beyond a range", () => {
    expect(valueOfReading(volts({ step: 0.01 }))).toBe("7.40\u00a0V");
    expect(valueOfReading(volts({ step: 0.1 }))).toBe("7.4\u00a0V");
    expect(valueOfReading(volts({ beyond: "over", value: 20 }))).toMatch(/^above 20/);
    expect(valueOfReading(volts({ beyond: "under", value: 0.001 }))).toMatch(/^below 1/);
  });

  it("rounds at the second digit of its limits, with one prefix and one sign for both", () => {
    expect(withLimits(16.93, 0.4, "V")).toBe("16.93 ±\u00a00.40\u00a0V");
    expect(withLimits(16.93, 0.4, "V", true)).toBe("16.93\u00a0V");
    expect(withLimits(0.012_34, 0.000_21, "A")).toBe("12.34 ±\u00a00.21\u00a0mA");
    expect(withLimits(-4.5, 0.1, "V")).toMatch(/^−4\.5/);
    expect(withLimits(1e-9, 0.02, "V")).toMatch(/^0 ±\u00a020\u00a0mV/);
    expect(withLimits(1e30, 1, "ohm")).toBe("OL");
    setDecimal(",");
    expect(withLimits(16.93, 0.4, "V")).toBe("16,93 ±\u00a00,40\u00a0V");
    expect(printNumber(-0.25)).toBe("−0,25");
    expect(print(4700, "ohm")).toBe("4,7\u00a0kΩ");
  });

  it("shows no dust of the arithmetic as if it were measured", () => {
    expect(shown(3e-12, "V")).toBe("0\u00a0V");
    expect(shown(-3e-16, "A")).toBe("0\u00a0A");
    expect(shown(2e-9, "A")).toMatch(/nA$/);
  });

  it("never says that something is certain, or out of the question", () => {
    for (const p of [0, 1e-9, 0.0009]) expect(percent(p)).toBe("< 0.1\u00a0%");
    for (const p of [1, 0.999_99]) expect(percent(p)).toBe("> 99.9\u00a0%");
    expect([percent(0.042), percent(0.42)]).toEqual(["4.2\u00a0%", "42\u00a0%"]);
  });
});

describe("how the circuit stands, in words", () => {
  it("says each thing that is not as drawn once, and nothing of the rest", () => {
    expect(standingWords({})).toEqual([]);
    expect(
      standingWords({ switches: { S1: "open" }, lifted: ["R1"], swapped: ["F1"], off: ["BT1"], meters: [] }),
    ).toEqual(["known-good F1", "a lead of R1 lifted", "BT1 off", "S1 open"]);
    // A value is of its kind: volts of a supply, ohms of anything else.
    expect(standingWords({ values: { BT1: 5, R1: 1000 } })).toEqual(["BT1 now 5.00\u00a0V", "R1 now 1.00\u00a0kΩ"]);
  });
});

describe("the decimal sign agreed on", () => {
  it("is in every kind of number, and what is told by others", () => {
    setDecimal(",");
    expect(percent(0.0421)).toBe("4,2\u00a0%");
    expect(bitsWords(2.34)).toBe("2,3\u00a0bits for");
    expect(minutesWords(1.5)).toBe("1,5\u00a0min");
    expect(inWords("7.42 V from B to 0; line 1, column 9")).toBe("7,42 V from B to 0; line 1, column 9");
    expect(printFixed(-0.05, 2)).toBe("−0,05");
  });

  it("is never the sign between thousands", () => {
    expect(printCount(10_000)).toBe("10\u00a0000");
    expect(printCount(1_234_567)).toBe("1\u00a0234\u00a0567");
    expect(count(1, "reading")).toBe("1 reading");
    for (const n of [999, 1000, 123_456]) expect(printCount(n)).not.toMatch(/[.,]/);
  });
});

it("what is written up is named as the suspect was, a lead on the wrong node with its nodes", () => {
  const found = (fault: Repaired) => foundWords([fault], kindOf);
  expect(found({ part: "R1", mode: "misplaced", value: 100, belongs: "A", at: "B" })).toBe(
    "a lead of R1 on B instead of A",
  );
  expect(found({ part: "R1", mode: "open" })).toBe("R1 open");
  expect(found({ nodes: ["A", "D"], mode: "bridged" })).toBe("A bridged to D");
});
