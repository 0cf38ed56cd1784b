import { readFileSync, writeFileSync } from "node:fs";
import { extname } from "node:path";
import type { Circuit } from "@hound/core/circuit";
import {
  type CaseFile,
  lostInPartsTable,
  readCase,
  readParts,
  readReadings,
  readTrail,
  writeCase,
  writeParts,
  writeReadings,
  writeTrail,
} from "@hound/core/notation";
import type { Reading } from "@hound/core/record";
import { InputError, reportOf, UsageError } from "./failure.ts";

/** What a file holds, whatever its format. */
export interface Contents {
  readonly circuit: Circuit | null;
  /** The trail as written, where there is one. */
  readonly trail: string | null;
  readonly readings: readonly Reading[];
  readonly file: CaseFile | null;
}

/** How each file ending is read and written; `convert` and the other commands go by it. */
const FORMATS: Record<
  string,
  { read: (path: string, text: string) => Contents; write: (contents: Contents) => string }
> = {
  ".trail": { read: fromTrail, write: (c) => c.trail ?? writeTrail(circuitOf(c)) },
  ".json": { read: fromCase, write: toCase },
  ".csv": { read: fromCsv, write: toCsv },
};

export function readFile(path: string): Contents {
  let text: string;
  try {
    text = readFileSync(path, "utf8");
  } catch (error) {
    throw new InputError(`${path}: cannot be read (${(error as NodeJS.ErrnoException).code ?? error})`);
  }
  return formatOf(path).read(path, text);
}

/** Writes contents in the format the ending names; says on `warn` what that format cannot hold. */
export function writeFile(path: string, contents: Contents, warn: (message: string) => void) {
  const format = formatOf(path);
  if (extname(path) === ".csv" && contents.circuit) {
    const lost = lostInPartsTable(contents.circuit);
    if (contents.readings.length > 0) lost.push(`${contents.readings.length} readings`);
    if (lost.length > 0) warn(`${path}: a parts table does not hold ${lost.join(", ")}`);
  }
  if (extname(path) === ".trail" && contents.readings.length > 0) {
    warn(`${path}: a trail does not hold the ${contents.readings.length} readings`);
  }
  const text = format.write(contents);
  try {
    writeFileSync(path, text);
  } catch (error) {
    throw new InputError(`${path}: cannot be written (${(error as NodeJS.ErrnoException).code ?? error})`);
  }
}

function formatOf(path: string) {
  const format = FORMATS[extname(path).toLowerCase()];
  if (!format) throw new UsageError(`${path}: file endings are ${Object.keys(FORMATS).join(", ")}`);
  return format;
}

function fromTrail(path: string, text: string): Contents {
  const trail = readTrail(text);
  const mistakes = trail.mistakes.filter((m) => m.severity === "mistake");
  if (mistakes.length > 0) throw reportOf(path, mistakes);
  if (!trail.circuit) throw new InputError(`${path}:1:1: there are no parts in this trail`);
  return { circuit: trail.circuit, trail: text, readings: [], file: null };
}

function fromCase(path: string, text: string): Contents {
  const { file, trail, mistakes } = readCase(text);
  if (!file || !trail?.circuit) throw reportOf(path, mistakes);
  return { circuit: trail.circuit, trail: file.circuit, readings: file.readings, file };
}

function fromCsv(path: string, text: string): Contents {
  if (/^\ufeff?\s*"?quantity"?\s*[,;]/i.test(text)) {
    const { rows, mistakes } = readReadings(text);
    if (mistakes.length > 0) throw reportOf(path, mistakes);
    return { circuit: null, trail: null, readings: rows, file: null };
  }
  const { circuit, mistakes } = readParts(text);
  if (!circuit) throw reportOf(path, mistakes);
  return { circuit, trail: null, readings: [], file: null };
}

function toCase(contents: Contents): string {
  const circuit = contents.trail ?? writeTrail(circuitOf(contents));
  return writeCase({
    ...contents.file,
    format: "clever-hound-case",
    version: 1,
    title: contents.file?.title ?? contents.circuit?.title ?? "",
    circuit,
    readings: [...contents.readings],
  });
}

function toCsv(contents: Contents): string {
  return contents.circuit ? writeParts(contents.circuit) : writeReadings(contents.readings);
}

function circuitOf(contents: Contents): Circuit {
  if (!contents.circuit) throw new InputError("a readings table holds no circuit");
  return contents.circuit;
}
