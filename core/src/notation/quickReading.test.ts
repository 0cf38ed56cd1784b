import fc from "fast-check";
import { describe, expect, it } from "vitest";
import type { Circuit } from "../circuit/index.ts";
import { type Proposal, readQuick, readTrail, seenOf } from "./index.ts";

const circuit = readTrail(
  "BT1 24V: F1 1A + [A] R1 220 + [B] (R2 1k | R3 470 + [C] DS1 12V 5W) + [D] S1 + [E-5] R5 100".replace("[E-5]", "[E]"),
).circuit as Circuit;

const read = (line: string) => readQuick(line, circuit, { quantity: "voltage", from: "B" });

describe("what is asked for by words", () => {
  it.each([
    ["R1 current", { quantity: "current", through: "R1" }],
    ["R1 mA?", { quantity: "current", through: "R1" }],
    ["current through bt1", { quantity: "current", through: "BT1" }],
    ["R3 ohms", { quantity: "resistance", from: "B", to: "C" }],
    ["B-D ohms?", { quantity: "resistance", from: "B", to: "D" }],
    ["B?", { quantity: "voltage", from: "B" }],
    ["B ?", { quantity: "voltage", from: "B" }],
    ["volts from B to D", { quantity: "voltage", from: "B", to: "D" }],
    ["R3?", { quantity: "voltage", from: "B", to: "C" }],
    ["DS1 look", { quantity: "look", part: "DS1" }],
  ])("%s is proposed", (line, proposal) => {
    expect(read(line)).toMatchObject({ kind: "asked", proposal });
  });

  it("is ohms of the part alone where its lead is lifted, and a current only through a part", () => {
    const now = { standing: { lifted: ["R3"] } };
    expect(readQuick("R3 ohms", circuit, undefined, now)).toMatchObject({
      proposal: { quantity: "resistance", lifted: "R3" },
    });
    expect(read("B current")).toMatchObject({ kind: "mistake", message: expect.stringMatching(/through which/) });
    expect(read("Q9?")).toMatchObject({ kind: "mistake" });
    expect(read("R1 + R2 = BT1?")).toMatchObject({ kind: "mistake" });
  });

  it("reads a bare thousandth as what is proposed, but of ohms", () => {
    expect(read("278m")).toMatchObject({ reading: { quantity: "voltage", from: "B", value: 0.278, step: 0.001 } });
    expect(readQuick("12.4m", circuit, { quantity: "current", through: "R1" })).toMatchObject({
      reading: { through: "R1", value: 0.0124 },
    });
    expect(readQuick("3m", circuit, { quantity: "resistance", from: "B", to: "D" })).toMatchObject({ kind: "mistake" });
    expect(read("3M")).toMatchObject({ kind: "mistake" });
  });
});

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
    // As people type them with one hand: nought, any dash, words for units, two points, input from other keyboards.
    ["0", { quantity: "voltage", from: "B", value: 0 }],
    ["-0", { from: "B", value: 0 }],
    ["0 V", { from: "B", value: 0 }],
    ["B D 0", { from: "B", to: "D", value: 0 }],
    ["B–D 3.1", { from: "B", to: "D", value: 3.1 }],
    ["B — D 3.1", { from: "B", to: "D", value: 3.1 }],
    ["B to D 3.1", { from: "B", to: "D", value: 3.1 }],
    ["23.8 volts", { from: "B", value: 23.8, step: 0.1 }],
    ["- 7.4", { from: "B", value: -7.4 }],
    ["7,42", { from: "B", value: 7.42 }],
    ["７．４２", { from: "B", value: 7.42 }],
    ["7.3...7.5", { from: "B", value: 7.4, wander: 0.1 }],
    ["7.3 … 7.5 V", { from: "B", value: 7.4, wander: 0.1 }],
    ["B = 7.4", { from: "B", value: 7.4 }],
    ["B: 7.4", { from: "B", value: 7.4 }],
    ["R3 4.7 kilohms", { quantity: "resistance", value: 4700 }],
    ["7.42 @20V", { from: "B", value: 7.42, range: "20V" }],
    ["OL @20V", { quantity: "voltage", from: "B", beyond: "over", value: 20 }],
    ["B 7.42 # S2 off, hot", { from: "B", value: 7.42, note: "S2 off, hot" }],
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

  it.each([
    ["S1 swapped", { part: "S1", change: "swapped" }],
    ["R2 now 2k", { part: "R2", change: "now", value: 2000 }],
    ["R2 now 2k2 ohm", { part: "R2", change: "now", value: 2200 }],
    ["BT1 now 12V", { part: "BT1", change: "now", value: 12 }],
    ["C-D now 1k", { from: "C", to: "D", change: "now", value: 1000 }],
    ["C-D restored", { from: "C", to: "D", change: "restored" }],
    ["B metered", { from: "B", change: "metered" }],
    ["R3 metered", { part: "R3", change: "metered" }],
    ["R4 out", null],
    ["R3 out", { part: "R3", change: "out" }],
    ["BT1 off", { part: "BT1", change: "off" }],
    ["BT1 on", { part: "BT1", change: "restored" }],
    ["leads 0.3ohm", { change: "leads", value: 0.3 }],
    ["leads 0.3", { change: "leads", value: 0.3 }],
    ["R2 now", null],
    ["R2 now 2V", null],
    ["R2 now -5", null],
    ["B-D swapped", null],
    ["R3 off", null],
    ["R3 swapped 470", null],
    ["leads", null],
    ["leads 3V", null],
  ])("takes %s as the change that it is, or says what is wrong", (line, change) => {
    const understood = read(line);
    if (change === null) expect(understood.kind).toBe("mistake");
    else expect(understood).toMatchObject({ kind: "change", change });
  });

  it("takes a change and what was seen after it in one line", () => {
    for (const line of ["DS1 swapped, still dark", "DS1 swapped, dark", "DS1 swapped still dark"])
      expect(read(line)).toMatchObject({
        kind: "change",
        change: { part: "DS1", change: "swapped" },
        after: { quantity: "observation", part: "DS1", seen: "dark" },
      });
    expect(read("DS1 still dark")).toMatchObject({ kind: "reading", reading: { seen: "dark" } });
    // Of the one part that can show it, whatever was changed.
    for (const line of ["R2 swapped, still dark", "F1 swapped, still off", "S1 closed, no light"])
      expect(read(line)).toMatchObject({ kind: "change", after: { part: "DS1", seen: "dark" } });
    const two = readTrail("BT1 24V: W1 + [A] (LA1 100 | LA2 100 | K1 100)").circuit as Circuit;
    expect(readQuick("W1 swapped, still dark", two)).toMatchObject({
      kind: "mistake",
      message: expect.stringMatching(/^which one is dark\? LA1, LA2 could/),
    });
    expect(readQuick("W1 swapped, clicks", two)).toMatchObject({ after: { part: "K1", seen: "pulls" } });
    expect(readQuick("W1 swapped, still purple", two).kind).toBe("mistake");
    expect(readQuick("W1 swapped, LA2 still dark", two)).toMatchObject({
      change: { part: "W1", change: "swapped" },
      after: { part: "LA2", seen: "dark" },
    });
    expect(readQuick("W1 swapped, LA2 pulls", two)).toMatchObject({ kind: "mistake" });
  });

  it("reads what one says of a part without a meter, and what the line itself answered", () => {
    const own = readTrail("BT1 24V: F1 1A + S1 + [A] (K1 100 | LA1 24V 2W | R1 10 | HR1 24V 60W)").circuit as Circuit;
    const said = (line: string) => {
      const understood = readQuick(line, own);
      return understood.kind === "reading" ? (understood.reading as { seen?: string }).seen : understood;
    };
    for (const [line, seen] of [
      ["F1 looks intact", "intact"],
      ["F1 ok", "intact"],
      ["F1 not blown", "intact"],
      ["F1 open", "blown"],
      ["LA1 is dark", "dark"],
      ["LA1 off", "dark"],
      ["LA1 doesn't light", "dark"],
      ["LA1 glows dimly", "dim"],
      ["LA1 still on", "lit"],
      ["LA1 alone, off", "dark"],
      ["LA1 ok", "works"],
      ["K1 dead", "silent"],
      ["K1 on", "pulls"],
      ["HR1 no heat", "cold"],
      ["R1 looks burnt", "burnt"],
      ["R1 is scorched.", "burnt"],
    ])
      expect(said(line), line).toBe(seen);
    for (const kind of ["F1", "LA1", "K1", "HR1", "S1"])
      for (const seen of seenOf({ kind: own.parts.find((p) => p.designator === kind)?.kind ?? "wire" })) {
        const understood = readQuick(`${kind} ${seen}`, own);
        expect(understood).toMatchObject({ kind: "reading", reading: { seen } });
        expect(said((understood as { echo: string }).echo)).toBe(seen);
      }
    expect(said("K1 looks wonky")).toMatchObject({
      kind: "mistake",
      instead: ["K1 silent", "K1 pulls", "K1 runs", "K1 cold"],
    });
    expect(said("R1 ok")).toMatchObject({ kind: "mistake", message: expect.stringMatching(/of a resistor one sees/) });
    // A lever and a supply are moved by the same words.
    expect(said("S1 off")).toMatchObject({ kind: "change", change: { part: "S1", change: "open" } });
    expect(said("S1 switched closed")).toMatchObject({ kind: "change", change: { change: "closed" } });
    for (const change of ["out", "lifted", "swapped", "restored"])
      expect(said(`LA1 ${change}`)).toMatchObject({ kind: "change", change: { part: "LA1", change } });
    expect(said("BT1 off")).toMatchObject({ kind: "change", change: { part: "BT1", change: "off" } });
    expect(readQuick("no light", own, { quantity: "look", part: "LA1" })).toMatchObject({ reading: { seen: "dark" } });
  });

  it("knows what can be seen of which kind of part", () => {
    for (const [line, seen] of [
      ["K1 silent", "silent"],
      ["K1 pulls", "pulls"],
      ["HR1 cold", "cold"],
      ["HR1 works", "works"],
      ["S1 works", "works"],
      ["S1 hot", "hot"],
    ]) {
      const own = readTrail("BT1 24V: S1 + [A] (K1 100 | HR1 24V 60W | R1 10)").circuit as Circuit;
      expect(readQuick(line, own)).toMatchObject({ kind: "reading", reading: { seen } });
      expect(readQuick(line.replace(/^\S+/, "R1"), own).kind).toBe(
        seen === "hot" || seen === "cold" ? "reading" : "mistake",
      );
    }
  });

  it("takes the ohms of a part whose lead is lifted for that part's own, with or without the word", () => {
    const standing = { lifted: ["R3"] };
    const typed = (line: string) => readQuick(line, circuit, undefined, { standing });
    for (const line of ["R3 470ohm", "R3 470", "R3 lifted 470"])
      expect(typed(line)).toMatchObject({ reading: { quantity: "resistance", lifted: "R3", value: 470 } });
    for (const line of ["R3 OL", "R3 beep"]) expect(typed(line)).toMatchObject({ reading: { lifted: "R3" } });
    expect(typed("R3 4.1V")).toMatchObject({ reading: { quantity: "voltage", from: "B", to: "C" } });
    expect(typed("R2 1000ohm")).toMatchObject({ reading: { from: "B", to: "D" } });
    expect(readQuick("R3 470ohm", circuit)).toMatchObject({ reading: { from: "B", to: "C" } });
  });

  it("takes the leads off ohms, and only off ohms", () => {
    const now = { standing: { leads: 0.3 } };
    const typed = (line: string) => {
      const understood = readQuick(line, circuit, undefined, now);
      return understood.kind === "reading" ? understood.reading : understood;
    };
    expect(typed("R3 470.3ohm")).toMatchObject({ value: 470, nulled: true });
    expect(typed("R3 lifted 470R null=0.4")).toMatchObject({ value: 469.6, nulled: true });
    expect(typed("B 7.42")).toMatchObject({ value: 7.42 });
    expect(typed("B 7.42")).not.toHaveProperty("nulled");
    expect(typed("R3 0.2ohm")).toMatchObject({ kind: "mistake", message: expect.stringMatching(/nulled too far/) });
  });

  it("has the meter's own limits for OL and the buzzer, and a range's top where one is named", () => {
    const meter = { resistance: { top: 2e6, beepsBelow: 50 } };
    const typed = (line: string) => readQuick(line, circuit, undefined, { meter });
    expect(typed("R3 OL")).toMatchObject({ reading: { quantity: "resistance", value: 2e6, beyond: "over" } });
    expect(typed("B-D beep")).toMatchObject({ reading: { value: 50, beyond: "under" } });
    expect(typed("R3 OL @200ohm")).toMatchObject({ reading: { quantity: "resistance", value: 200, range: "200ohm" } });
    expect(typed("B OL @20V")).toMatchObject({
      reading: { quantity: "voltage", from: "B", value: 20, beyond: "over" },
    });
    expect(typed("R3 OL @200mA")).toMatchObject({ reading: { quantity: "current", through: "R3", value: 0.2 } });
    expect(typed("B OL @200mA")).toMatchObject({ kind: "mistake" });
  });

  it("says nothing of digits that a whole number of volts or amperes does not have", () => {
    for (const line of ["R3 0A", "R3 2A", "B 12", "B 0"]) expect(read(line)).not.toHaveProperty("reading.step");
    expect(read("R3 0.00A")).toMatchObject({ reading: { step: 0.01 } });
    expect(read("R3 12mA")).toMatchObject({ reading: { step: 0.001 } });
    expect(read("B 12.0")).toMatchObject({ reading: { step: 0.1 } });
    expect(read("R2 470ohm")).toMatchObject({ reading: { step: 1 } });
  });

  it("finds the leads of each diode of a bridge, and asks which one where only one of them is meant", () => {
    const rectified = readTrail("BT1 12V: F1 1A + [A] BR1 plus=[P] minus=[M]\n[P] R1 100 + [Q] LED1 [M]").circuit;
    const said = (line: string) => readQuick(line, rectified as Circuit);
    const at = (line: string) => {
      const found = said(line);
      return found.kind === "reading" ? found.reading : found;
    };
    expect(at("BR1.1 0.7V")).toMatchObject({ quantity: "voltage", from: "A", to: "P" });
    expect(at("br1.2 diode OL")).toMatchObject({ test: "diode", from: "0", to: "P" });
    expect(at("BR1.3 lifted diode rev OL")).toMatchObject({ from: "A", to: "M", lifted: "BR1.3" });
    expect(at("BR1.4 80mA")).toMatchObject({ quantity: "current", through: "BR1.4" });
    expect(at("BR1 11.9V")).toMatchObject({ quantity: "voltage", from: "A" });
    expect(said("BR1.4 swapped")).toMatchObject({ kind: "change", change: { part: "BR1", change: "swapped" } });
    for (const line of ["BR1 80mA", "BR1 lifted OL", "BR1 current", "BR1 now 5", "BR1 lifted diode 0.6"])
      expect(said(line)).toMatchObject({ kind: "mistake", message: expect.stringMatching(/BR1\.3 from M to A/) });
    const track = readTrail("BT1 10V: [P] RV1 10k wiper=[W]\n[W] R1 1M [0]").circuit as Circuit;
    expect(readQuick("RV1.top 4V", track)).toMatchObject({ reading: { from: "P", to: "W" } });
    expect(readQuick("RV1.bottom 6V", track)).toMatchObject({ reading: { from: "W" } });
  });

  it("refuses a point against itself", () => {
    for (const line of ["0 0.00", "B-B 1.0"]) expect(read(line)).toMatchObject({ kind: "mistake" });
  });

  it("reads a meter that is drawn in the circuit where it is", () => {
    const own = readTrail("BT1 12V: AM1 + [A] R1 100\n[A] VM1 1M [0]").circuit as Circuit;
    expect(own.parts.find((p) => p.designator === "AM1")).toMatchObject({ kind: "meter", ohms: 1 });
    expect(own.parts.find((p) => p.designator === "VM1")).toMatchObject({ kind: "meter", ohms: 1e6 });
    expect(readQuick("AM1 118mA", own)).toMatchObject({ reading: { through: "AM1", by: "AM1" } });
    expect(readQuick("VM1 11.8V", own)).toMatchObject({ reading: { from: "A", by: "VM1" } });
    expect(readQuick("R1 11.8V", own)).not.toHaveProperty("reading.by");
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

  it("gives a whole number of volts, nought too, no finer step than its range has", () => {
    for (const line of ["0", "0 V", "-0", "7"])
      expect(read(line)).toMatchObject({ reading: { value: Number.parseInt(line, 10) + 0 } });
    for (const line of ["0", "0 V", "7"]) expect(read(line)).not.toHaveProperty("reading.step");
    expect(read("0.00")).toMatchObject({ reading: { value: 0, step: 0.01 } });
    expect(Object.is((read("-0") as { reading: { value: number } }).reading.value, 0)).toBe(true);
  });

  it.each([
    ["12mA", ["R1 12mA", "R2 12mA", "R3 12mA"]],
    ["470 ohm", ["B 470 ohm"]],
    ["B 12 5", ["B 12.5", "B 12"]],
    ["12 5", ["12.5"]],
    ["7.4.2", ["7.42"]],
    ["B 7.3-7.5", ["B 7.3..7.5"]],
    ["OL", ["B OL @200mV", "B OL @2V", "B OL @20V", "B OL @200V", "B OL"]],
  ])("asks what %s means, with an answer that is then understood", (line, instead) => {
    expect(read(line)).toMatchObject({ kind: "mistake", instead });
    for (const answer of instead) expect(read(answer).kind, answer).toBe("reading");
  });

  it("records nothing else than was proposed: another unit is asked about, whatever was proposed", () => {
    const proposals: [Proposal, string, string[]][] = [
      [{ quantity: "current", through: "R3" }, "4V", ["R3 4V"]],
      [{ quantity: "current", through: "R3" }, "470R", ["R3 470R"]],
      [{ quantity: "resistance", from: "B", to: "D" }, "4V", ["B-D 4V"]],
      [{ quantity: "resistance", lifted: "R3" }, "4V", ["R3 4V"]],
    ];
    for (const [proposal, line, instead] of proposals)
      expect(readQuick(line, circuit, proposal), line).toMatchObject({ kind: "mistake", instead });
    const ohms: Proposal = { quantity: "resistance", from: "B", to: "D" };
    expect(readQuick("4k7", circuit, ohms)).toMatchObject({ reading: { quantity: "resistance", value: 4700 } });
    expect(readQuick("470..480", circuit, ohms)).toMatchObject({
      reading: { quantity: "resistance", value: 475, wander: 5 },
    });
    expect(readQuick("470m", circuit, ohms).kind).toBe("mistake");
    expect(readQuick("0", circuit, { quantity: "current", through: "R3" })).toMatchObject({
      reading: { quantity: "current", value: 0 },
    });
  });

  it("takes the unit of a wandering display from where it is written, at its end", () => {
    const amps = { quantity: "current", through: "R1" } as const;
    expect(readQuick("7.3..7.5mA", circuit, amps)).toMatchObject({
      reading: { through: "R1", value: expect.closeTo(0.0074, 12), wander: expect.closeTo(0.0001, 12) },
    });
    expect(readQuick("7.3..7.5V", circuit, amps).kind).toBe("mistake");
  });

  it("knows a node by what it is called where one probes it", () => {
    const named = readTrail("BT1 9V: R1 10 + [C] R2 5\npoint C TB2-4, blue wire").circuit as Circuit;
    for (const line of ["TB2-4 7.42", "tb2-4 7.42V", "C 7.42"])
      expect(readQuick(line, named), line).toMatchObject({ reading: { quantity: "voltage", from: "C", value: 7.42 } });
  });

  it("takes a bare value, or a bare word for what is seen, for what is proposed", () => {
    const circuit = readTrail("BT1 12V: F1 1A + [A] R3 470 + [B] LA1 12V 5W").circuit as Circuit;
    const bare = (line: string, proposal: Proposal) => readQuick(line, circuit, proposal);
    const ohms: Proposal = { quantity: "resistance", from: "A" as never, to: "B" as never };
    expect(bare("470", ohms)).toMatchObject({ reading: { quantity: "resistance", from: "A", to: "B", value: 470 } });
    expect(bare("OL", ohms)).toMatchObject({ reading: { quantity: "resistance", from: "A", beyond: "over" } });
    const lifted: Proposal = { quantity: "resistance", lifted: "R3" };
    expect(bare("466", lifted)).toMatchObject({ reading: { quantity: "resistance", lifted: "R3", value: 466 } });
    const amps: Proposal = { quantity: "current", through: "R3" };
    expect(bare("12.4mA", amps)).toMatchObject({ reading: { quantity: "current", through: "R3", value: 0.0124 } });
    // Of what a bare 12.4 is the display said, and the line asks.
    expect(bare("12.4", amps)).toMatchObject({ kind: "mistake", instead: ["R3 12.4mA", "R3 12.4A"] });
    expect(bare("dark", { quantity: "look", part: "LA1" })).toMatchObject({
      reading: { quantity: "observation", part: "LA1", seen: "dark" },
    });
    expect(bare("lit", { quantity: "look", part: "LA1", alone: true })).toMatchObject({
      reading: { quantity: "observation", part: "LA1", seen: "lit", alone: true },
    });
    expect(bare("pulls", { quantity: "look", part: "LA1" }).kind).toBe("mistake");
    expect(bare("7.4", { quantity: "look", part: "LA1" }).kind).toBe("mistake");
    // Over a range of volts the range is needed.
    expect(bare("OL", { quantity: "voltage", from: "A" as never })).toMatchObject({
      kind: "mistake",
      instead: ["A OL @200mV", "A OL @2V", "A OL @20V", "A OL @200V", "A OL"],
    });
    expect(bare("12", { quantity: "resistance", lifted: "R9" }).kind).toBe("mistake");
  });
});
