import { z } from "zod";
import { Configuration } from "../configuration/index.ts";
import {
  Claims,
  Closing,
  Details,
  Meter,
  Priors,
  Reading,
  Repaired,
  RepairWork,
  Situation,
  TEXT_LIMITS,
} from "../record/index.ts";
import { type Mistake, positionAt } from "./mistake.ts";
import { readTrail, type Trail } from "./trail/readTrail.ts";

/** One file with what a diagnosis needs. Unknown keys are kept on saving again. */
export const CaseFile = z.looseObject({
  format: z.literal("clever-hound-case"),
  version: z.literal(1),
  title: z.string().max(TEXT_LIMITS.title).default(""),
  /** What was complained of, and what it turned out to be. */
  complaint: z.string().max(TEXT_LIMITS.complaint).optional(),
  finding: z.string().max(TEXT_LIMITS.complaint).optional(),
  /** Job number, customer, device, serial number and date. */
  details: Details.optional(),
  /** A trail. */
  circuit: z.string(),
  meter: Meter.optional(),
  priors: Priors.optional(),
  /** What the workshop's closed jobs had taught when it was written: with it the case ranks the same elsewhere. */
  habits: Priors.optional(),
  /** Whether something is known to be wrong (left out), or a new build or a repair is checked. */
  situation: Situation.optional(),
  /** A wet place: lower voltages are a shock hazard there. */
  claims: Claims.optional(),
  isWet: z.boolean().optional(),
  /** How the circuit stands now, where that differs from the drawing. */
  standing: Configuration.optional(),
  readings: z.array(Reading).default([]),
  /** Words by which it is found again; the repair under way; how the job ended. */
  tags: z.array(z.string().max(40)).max(20).optional(),
  work: RepairWork.nullable().optional(),
  closing: Closing.nullable().optional(),
  /** What was found and verified, once the job was closed: habits are learnt from it. */
  repair: z.array(Repaired).optional(),
});
export type CaseFile = z.infer<typeof CaseFile>;

export interface ReadCase {
  /** Null where the file has mistakes. */
  readonly file: CaseFile | null;
  readonly trail: Trail | null;
  readonly mistakes: readonly Mistake[];
}

/** Reads a case file; every mistake has line and column, those of its trail point into the file where they can. */
export function readCase(text: string): ReadCase {
  const refuse = (at: number, message: string): ReadCase => ({
    file: null,
    trail: null,
    mistakes: [mistakeAt(text, at, message)],
  });
  let data: unknown;
  try {
    data = JSON.parse(text);
  } catch (error) {
    return refuse(jsonPosition(text, error), `this is not JSON: ${error instanceof Error ? error.message : error}`);
  }
  if (typeof data !== "object" || data === null || Array.isArray(data)) return refuse(0, "a case is a JSON object");
  const { format, version } = data as { format?: unknown; version?: unknown };
  if (format !== "clever-hound-case")
    return refuse(keyAt(text, ["format"]), "the key “format” is not “clever-hound-case”: this is no case file");
  if (version !== 1) {
    return refuse(
      keyAt(text, ["version"]),
      `version ${JSON.stringify(version)} of the case format is not known here; this reads version 1`,
    );
  }
  const parsed = CaseFile.safeParse(data);
  if (!parsed.success) {
    const mistakes = parsed.error.issues.map((issue) => {
      const path = issue.path.map((k) => (typeof k === "symbol" ? String(k) : k));
      return mistakeAt(text, keyAt(text, path), `${path.join(".") || "case"}: ${issue.message}`);
    });
    return { file: null, trail: null, mistakes };
  }
  return checkTrail(text, parsed.data);
}

function checkTrail(text: string, file: CaseFile): ReadCase {
  const trail = readTrail(file.circuit);
  const base = keyAt(text, ["circuit"]);
  const mistakes = trail.mistakes
    .filter((m) => m.severity === "mistake")
    .map((m) => mistakeAt(text, base, `circuit, line ${m.line}, column ${m.column}: ${m.message}`));
  if (mistakes.length === 0 && trail.circuit === null) mistakes.push(mistakeAt(text, base, "the circuit has no parts"));
  return mistakes.length > 0 ? { file: null, trail, mistakes } : { file, trail, mistakes: [] };
}

/** Writes a case; unknown keys it was read with stay. */
export function writeCase(file: CaseFile): string {
  return `${JSON.stringify(file, null, 2)}\n`;
}

/** The JSON Schema (2020-12) of case files. */
export function caseSchema(): object {
  return z.toJSONSchema(CaseFile, { io: "input" });
}

function mistakeAt(text: string, at: number, message: string): Mistake {
  return { severity: "mistake", from: at, to: Math.min(text.length, at + 1), ...positionAt(text, at), message };
}

function jsonPosition(text: string, error: unknown): number {
  const message = error instanceof Error ? error.message : "";
  const position = /position (\d+)/.exec(message);
  return position ? Number(position[1]) : /end of JSON/.test(message) ? text.length : 0;
}

/** Offset of the key a path leads to, found by its names in order; 0 where the file does not have it. */
function keyAt(text: string, path: readonly (string | number)[]): number {
  let at = 0;
  for (const step of path) {
    if (typeof step === "number") {
      at = text.indexOf("{", at);
      for (let k = 0; k < step && at >= 0; k += 1) at = text.indexOf("{", matchingBrace(text, at));
    } else {
      const found = text.indexOf(`"${step}"`, at);
      if (found < 0) return Math.max(0, at);
      at = found;
    }
    if (at < 0) return 0;
  }
  return at;
}

function matchingBrace(text: string, open: number): number {
  let depth = 0;
  let quoted = false;
  for (let at = open; at < text.length; at += 1) {
    const char = text[at];
    if (quoted) {
      if (char === "\\") at += 1;
      else if (char === '"') quoted = false;
    } else if (char === '"') quoted = true;
    else if (char === "{") depth += 1;
    else if (char === "}" && --depth === 0) return at;
  }
  return text.length;
}
