import Papa from "papaparse";
import { type Circuit, nodesOf } from "../circuit/index.ts";
import type { Reading } from "../record/index.ts";
import type { Mistake } from "./mistake.ts";
import { readQuick } from "./quickReading.ts";

/** Share of the rows that have to be readings for a text to be a list of them. */
const MOSTLY = 0.6;

/** Parts no cells. */
const NONE = "\u001f";

/**
 * Readings as somebody keeps them in a spreadsheet or on a page, one a row: a point and a value, in one cell or in several;
 * what stands behind is a note. Rows without a figure are headings.
 * @returns null where it is no such list
 */
export function readingLines(text: string, circuit: Circuit): { readings: Reading[]; mistakes: Mistake[] } | null {
  const readings: Reading[] = [];
  const mistakes: Mistake[] = [];
  const heads: string[] = [];
  const source = text.replace(/^\ufeff/, "");
  // A comma parts cells only where nothing else does: it may be the decimal sign, or stand in a note.
  const isSpaced = source.split("\n").some((row) => /^\s*\S+\s+\S/.test(row.split(",")[0]));
  const delimiter = ["\t", ";"].find((d) => source.includes(d)) ?? (isSpaced ? NONE : ",");
  const rows = Papa.parse<string[]>(source, { delimiter })
    .data.map((cells, i) => ({ said: cells.map((c) => c.trim()).filter((c) => c !== ""), number: i + 1 }))
    .filter(({ said }) => said.some((c) => /\d|OL|beep/i.test(c)));
  for (const { said, number } of rows) {
    const found = readingIn(said, circuit);
    if (found) {
      readings.push(found);
      heads.push(said[0].split(/\s/)[0]);
    } else {
      const message = `“${said.join(" ")}” is no reading of this circuit`;
      mistakes.push({ severity: "mistake", from: 0, to: 1, line: number, column: 1, message });
    }
  }
  // Values of parts are written alike: some row has to name a node, or amperes.
  const nodes = new Set<string>(nodesOf(circuit).map((n) => n.toLowerCase()));
  const isRead = readings.some((r, i) => r.quantity === "current" || nodes.has(heads[i].toLowerCase()));
  return isRead && readings.length >= MOSTLY * rows.length ? { readings, mistakes } : null;
}

/** As many cells as make a reading, the longest first; the others are its note. */
function readingIn(cells: readonly string[], circuit: Circuit): Reading | null {
  for (let count = cells.length; count > 0; count -= 1) {
    const read = readQuick(cells.slice(0, count).join(" "), circuit);
    if (read.kind !== "reading") continue;
    const note = [read.reading.note, ...cells.slice(count)].filter(Boolean).join(" ");
    return note === "" ? read.reading : { ...read.reading, note };
  }
  return null;
}
