import type { Mistake } from "@hound/core/notation";

/** The input is wrong: the message names file, line and column. Exit status 1. */
export class InputError extends Error {}

/** What a person asked for makes no sense. Exit status 2. */
export class UsageError extends Error {}

/** All mistakes of a file, one a line, as `file:line:column: message`. */
export function reportOf(file: string, mistakes: readonly Mistake[]): InputError {
  const lines = mistakes.map((m) => `${file}:${m.line}:${m.column}: ${m.message}${m.fix ? ` (${m.fix.label}?)` : ""}`);
  return new InputError(lines.join("\n"));
}
