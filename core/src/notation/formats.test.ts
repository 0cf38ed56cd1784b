import { readFileSync } from "node:fs";
import { join } from "node:path";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import type { Circuit } from "../circuit/index.ts";
import type { Reading } from "../record/index.ts";
import { anyCircuit } from "../test/arbitrary/circuits.ts";
import {
  caseSchema,
  lostInPartsTable,
  readCase,
  readParts,
  readReadings,
  readTrail,
  recognise,
  writeCase,
  writeParts,
  writeReadings,
} from "./index.ts";

const CASE = {
  format: "clever-hound-case",
  version: 1,
  title: "Vent",
  circuit: "BT1 24V: F1 1A + [A] R1 220 + [B] R2 1k",
  readings: [
    { quantity: "voltage", from: "B", to: "0", value: 7.42, plusMinus: 0.05 },
    { quantity: "current", through: "R1", value: 0.012 },
  ],
};

const text = (change: object) => JSON.stringify({ ...CASE, ...change }, null, 2);
const mistakesOf = (source: string) => readCase(source).mistakes;

describe("the case file", () => {
  it("reads back what it wrote, unknown keys too", () => {
    const source = text({ workshop: { bench: 3 }, readings: [{ ...CASE.readings[0], colour: "red" }] });
    const { file, mistakes } = readCase(source);
    expect(mistakes).toEqual([]);
    expect(JSON.parse(writeCase(file as NonNullable<typeof file>))).toEqual(JSON.parse(source));
  });

  it.each([
    ["{ no json", 1, /not JSON/],
    ["[]", 1, /JSON object/],
    [text({ format: "other" }), 2, /no case file/],
    [text({ version: 2 }), 3, /version 2 .* not known/],
    [text({ circuit: "BT1 24V: R1" }), 5, /circuit, line 1, column 10: R1 has no value/],
    [text({ circuit: "" }), 5, /no parts/],
    [
      text({ readings: [CASE.readings[0], { quantity: "voltage", from: "B", value: "much" }] }),
      17,
      /readings\.1\.value/,
    ],
    [text({ readings: [{ quantity: "smell" }] }), 8, /readings\.0/],
    [text({ priors: { healthy: 2 } }), 0, /priors\.healthy/],
  ])("says where it is wrong: %#", (source, line, words) => {
    const [first] = mistakesOf(source);
    expect(first.message).toMatch(words);
    if (line > 0) expect(first.line).toBe(line);
    expect(readCase(source).file).toBeNull();
  });

  it("has its published schema up to date", () => {
    const published = readFileSync(join(import.meta.dirname, "../../../docs/schema/case.schema.json"), "utf8");
    expect(JSON.parse(published)).toEqual(JSON.parse(JSON.stringify(caseSchema())));
  });

  it("reports every mistake of a circuit, not the first", () => {
    expect(mistakesOf(text({ circuit: "BT1 24V: R1 + R2 4q7 + R3 1k + R3 2k" }))).toHaveLength(3);
  });
});

describe("the tables", () => {
  it("hold any circuit's parts, to the last word", () => {
    fc.assert(
      fc.property(anyCircuit, fc.constantFrom(",", ";"), (circuit, delimiter) => {
        const table = writeParts(circuit);
        const source = delimiter === "," ? table : semicolons(table);
        const { circuit: back, mistakes } = readParts(source);
        expect(mistakes).toEqual([]);
        expect(back?.parts).toEqual(circuit.parts);
        expect(lostInPartsTable(circuit).length).toBe(
          [circuit.title, circuit.notes.join(), circuit.points?.join() ?? ""].filter((text) => text !== "").length,
        );
      }),
      { numRuns: 100 },
    );
  });

  it("hold readings, and keep a formula from running in a spreadsheet", () => {
    const readings: Reading[] = [
      { quantity: "voltage", from: "B", to: "0", value: -7.42, plusMinus: 0.05, note: "=1+cmd|' /C calc'!A0" },
      { quantity: "current", through: "R3", value: 0.0121, state: { switches: { S1: "open" } } },
      { quantity: "resistance", lifted: "R3", value: 470, meter: "bench", range: "2k" },
      { quantity: "observation", part: "DS1", seen: "dark", takenAt: "2026-03-01T10:00:00Z" },
    ];
    const table = writeReadings(readings);
    expect(table).not.toMatch(/[,\n]"?=/);
    expect(readReadings(table)).toEqual({ rows: readings, mistakes: [] });
    for (const note of ["＝1+1", "\n=1+1", " @sum", "'=1", "''", "a\n=1"]) {
      const rows: Reading[] = [{ quantity: "voltage", from: "B", value: 1, note }];
      const written = writeReadings(rows);
      if (note !== "a\n=1") expect(written, note).toMatch(/'\s*[=＝@']/);
    }
  });

  it("hold a diode test apart from volts", () => {
    const rows: Reading[] = [
      { quantity: "voltage", test: "diode", from: "A", to: "B", value: 0.62 },
      { quantity: "voltage", test: "diode", from: "A", value: 1.8, lifted: "LED1" },
      { quantity: "voltage", from: "A", to: "B", value: 0.62 },
    ];
    expect(readReadings(writeReadings(rows))).toEqual({ rows, mistakes: [] });
  });

  it("say row and column of what is wrong, all of it, and then give nothing", () => {
    const source = "designator,kind,from,to,value\nR1,resistor,A,B,1e3\nQ1,,A,B,5\nR2,resistor,A,B,many\nR1,,B,A,2\n";
    const { circuit, mistakes } = readParts(source);
    expect(circuit).toBeNull();
    expect(mistakes.map((m) => [m.line, m.column])).toEqual(
      expect.arrayContaining([
        [3, 1],
        [4, 5],
      ]),
    );
    expect(mistakes.map((m) => m.message).join("\n")).toMatch(/R1 stands twice/);
    expect(readParts("a,b\n1,2\n").mistakes[0].message).toMatch(/no part in/);
    expect(readParts("").mistakes).toHaveLength(1);
  });

  it("understand a decimal comma where the semicolon parts the columns", () => {
    const { circuit } = readParts("designator;from;to;value\nR1;A;0;4,7\n");
    expect((circuit as Circuit).parts[0]).toMatchObject({ resistance: { ohms: 4.7 } });
  });
});

/** The same table as a spreadsheet with a decimal comma would save it. */
function semicolons(table: string): string {
  return table
    .split("\r\n")
    .map((line) =>
      line
        .split(/,(?=(?:[^"]*"[^"]*")*[^"]*$)/)
        .map((cell) => (/^-?\d+\.\d+$/.test(cell) ? cell.replace(".", ",") : cell))
        .join(";"),
    )
    .join("\r\n");
}

describe("recognising a text", () => {
  it("tells the formats apart by what is in them, and reads each back to the same circuit or readings", () => {
    const trail = "title Vent\nBT1 24V: [P] F1 1A + [A] R1 220 + [B] R2 1k";
    const circuit = readTrail(trail).circuit as Circuit;
    const readings = CASE.readings as Reading[];
    const file = readCase(text({})).file;
    if (!file) throw new Error("the case cannot be read");
    expect(recognise(trail)).toMatchObject({ format: "trail", trail, mistakes: [] });
    expect(recognise(writeCase(file))).toMatchObject({ format: "case", trail: CASE.circuit, readings });
    expect(recognise(writeReadings(readings))).toMatchObject({ format: "readings", trail: null });
    const parts = recognise(writeParts(circuit));
    expect(parts.format).toBe("parts");
    expect(readTrail(parts.trail ?? "").circuit?.parts).toEqual(circuit.parts);
    const semicolons = recognise("designator;from;to;value;unit\nBT1;P;0;12;V\nR1;P;0;4,7;ohm");
    expect(readTrail(semicolons.trail ?? "").circuit?.parts[1]).toMatchObject({ resistance: { ohms: 4.7 } });
  });

  it("says what is wrong and takes nothing over", () => {
    for (const wrong of ["BT1 9V: R1 1q", '{"format": "clever-hound-case"', "designator,from,to,value\nR1,A,B,x"]) {
      const found = recognise(wrong);
      expect(found.mistakes.length).toBeGreaterThan(0);
      expect(found.trail).toBeNull();
    }
  });
});
