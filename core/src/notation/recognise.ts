import type { Reading } from "../record/index.ts";
import { readCase } from "./case.ts";
import { readParts, readReadings } from "./csv.ts";
import type { Mistake } from "./mistake.ts";
import { readTrail, writeTrail } from "./trail/index.ts";

export const FORMATS = {
  trail: "trail",
  parts: "parts table (CSV)",
  readings: "readings table (CSV)",
  case: "case file",
} as const;
export type Format = keyof typeof FORMATS;

/** A text in one of the open formats, read as far as it goes. */
export interface Recognised {
  readonly format: Format;
  /** The circuit as a trail; null where the format holds none, or where it could not be read. */
  readonly trail: string | null;
  readonly readings: readonly Reading[];
  /** Mistakes forbid taking it over; questions do not. */
  readonly mistakes: readonly Mistake[];
}

/** Tells the format of a text from what is in it, and reads it. */
export function recognise(text: string): Recognised {
  const format = formatOf(text);
  switch (format) {
    case "case": {
      const { file, mistakes } = readCase(text);
      const inside = file ? readTrail(file.circuit).mistakes : [];
      return {
        format,
        trail: file?.circuit ?? null,
        readings: file?.readings ?? [],
        mistakes: [...mistakes, ...inside],
      };
    }
    case "parts": {
      const { circuit, mistakes } = readParts(text);
      return { format, trail: circuit ? writeTrail(circuit) : null, readings: [], mistakes };
    }
    case "readings": {
      const { rows, mistakes } = readReadings(text);
      return { format, trail: null, readings: rows, mistakes };
    }
    case "trail": {
      const { circuit, mistakes } = readTrail(text);
      return { format, trail: circuit ? text : null, readings: [], mistakes };
    }
    default:
      return format satisfies never;
  }
}

function formatOf(text: string): Format {
  if (/^\s*\{/.test(text)) return "case";
  const head = text.trimStart().split("\n", 1)[0].toLowerCase();
  if (/(^|[,;])\s*"?designator/.test(head)) return "parts";
  if (/(^|[,;])\s*"?quantity/.test(head)) return "readings";
  return "trail";
}
