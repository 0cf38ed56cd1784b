import type { Circuit } from "../circuit/index.ts";
import type { Reading } from "../record/index.ts";
import { readCase } from "./case.ts";
import { applyEdits, type Mistake } from "./mistake.ts";
import { readingLines } from "./readingLines.ts";
import { headAt, readParts, readReadings, sheetOf } from "./table/index.ts";
import { readTrail, type Trail, writePart, writeTrail } from "./trail/index.ts";

export const FORMATS = {
  trail: "trail",
  parts: "parts table",
  values: "list of values",
  readings: "readings table",
  lines: "list of readings",
  case: "case file",
} as const;
export type Format = keyof typeof FORMATS;

/** A text in one of the open formats, read as far as it goes. */
export interface Recognised {
  readonly format: Format;
  /** The circuit as a trail; null where the format holds none, or where it could not be read. */
  readonly trail: string | null;
  readonly readings: readonly Reading[];
  /** Mistakes forbid taking it over; questions do not. Of tables, line and column are row and column. */
  readonly mistakes: readonly Mistake[];
  /** Title, complaint and the like, where the format holds them. */
  readonly job?: { readonly title: string; readonly complaint: string };
}

/**
 * Tells the format of a text from what is in it, and reads it.
 * @param now the circuit that is there: a list of values without nodes is for its parts
 */
export function recognise(text: string, now?: Trail): Recognised {
  const format = formatOf(text);
  const mayBeLines = format !== "case" && format !== "readings" && now?.circuit;
  const lines = mayBeLines ? readingLines(text, now.circuit as Circuit) : null;
  return lines ? { format: "lines", trail: null, ...lines } : recogniseAs(format, text, now);
}

function recogniseAs(format: Exclude<Format, "values" | "lines">, text: string, now?: Trail): Recognised {
  switch (format) {
    case "case": {
      const { file, mistakes } = readCase(text);
      const inside = file ? readTrail(file.circuit).mistakes : [];
      return {
        format,
        trail: file?.circuit ?? null,
        readings: file?.readings ?? [],
        mistakes: [...mistakes, ...inside],
        ...(file ? { job: { title: file.title, complaint: file.complaint ?? "" } } : {}),
      };
    }
    case "parts":
      return partsOf(text, now);
    case "readings": {
      const { rows, mistakes } = readReadings(text);
      return { format, trail: null, readings: rows, mistakes };
    }
    default: {
      const { circuit, mistakes } = readTrail(text);
      return { format: "trail", trail: circuit ? text : null, readings: [], mistakes };
    }
  }
}

function partsOf(text: string, now: Trail | undefined): Recognised {
  const { circuit, mistakes, loose } = readParts(text);
  const known = loose.filter((part) => now?.places.has(part.designator));
  if (now?.circuit && known.length > 0) {
    // Values for parts that are there: they stay where they are.
    const edits = known.flatMap((part) => {
      const place = now.places.get(part.designator);
      return place ? [{ from: place.from, to: place.to, insert: writePart(part) }] : [];
    });
    const others = loose.filter((part) => !known.includes(part));
    const asked = others.map((part): Mistake => {
      const message = `${part.designator} is not in this circuit: left out`;
      return { severity: "question", from: 0, to: 1, line: 1, column: 1, message };
    });
    const kept = mistakes.filter((m) => !m.message.startsWith("the list says no nodes"));
    return { format: "values", trail: applyEdits(now.text, edits), readings: [], mistakes: [...kept, ...asked] };
  }
  const trail = circuit ? writeTrail(circuit) : null;
  const after = (trail === null ? [] : readTrail(trail).mistakes)
    .filter((m) => m.severity === "mistake")
    .map((m): Mistake => ({ severity: "mistake", from: 0, to: 1, line: 1, column: 1, message: m.message }));
  return { format: "parts", trail: after.length > 0 ? null : trail, readings: [], mistakes: [...mistakes, ...after] };
}

function formatOf(text: string): Exclude<Format, "values" | "lines"> {
  const body = text.replace(/^\ufeff/, "");
  if (/^\s*\{/.test(body)) return "case";
  const sheet = sheetOf(body);
  const [head] = sheet.rows;
  if (head?.cells.some((c) => /^quantity$/i.test(c)) && head.cells.some((c) => /^value$/i.test(c))) return "readings";
  if (headAt(sheet.rows) >= 0) return "parts";
  // Nodes in brackets, loops and branches make a trail; a list has none of them, or is better read as one.
  const trail = readTrail(body);
  const wrong = trail.mistakes.filter((m) => m.severity === "mistake").length;
  if (wrong === 0 || body.trim() === "") return "trail";
  const isDrawn = /\[\w+\]/.test(body) && /^\s*(?:\[|[A-Za-z]+\d+[^:\n]*:)/m.test(body);
  if (isDrawn && sheet.delimiter === " ") return "trail";
  const list = readParts(body);
  const asList = list.mistakes.filter((m) => m.severity === "mistake").length;
  const rows = body.split("\n").filter((line) => line.trim() !== "").length;
  const isLoop =
    /^\s*[A-Za-z]{1,4}\d*\s[^:\n]*\d\s*[A-Za-z]*\s*:/.test(body) || /[(|)]/.test(body.replace(/\([^()|]*\)/g, ""));
  if (sheet.delimiter !== " ") return asList < wrong ? "parts" : "trail";
  return !isLoop && list.circuit !== null && rows > 0 ? "parts" : "trail";
}
