import type { Lines, Mistake } from "../mistake.ts";
import type { Fix } from "./fixes.ts";
import { TRAIL_LIMITS } from "./statementLines.ts";
import type { Span } from "./tree.ts";

/** What is wrong or doubtful in a trail, each with its place; beyond the limit nothing is listed any more, and that is said. */
export class Complaints {
  readonly mistakes: Mistake[] = [];
  /** Mistakes found, those that are not listed among them; questions are not counted. */
  found = 0;

  constructor(private readonly lines: Lines) {}

  add(span: Span, message: string, fix?: Fix, severity: Mistake["severity"] = "mistake"): Mistake | null {
    const { from, to } = span;
    if (severity === "mistake") this.found += 1;
    if (this.found > TRAIL_LIMITS.mistakes || this.mistakes.length > 2 * TRAIL_LIMITS.mistakes) return null;
    const isLast = severity === "mistake" && this.found === TRAIL_LIMITS.mistakes;
    const mistake: Mistake = {
      severity,
      from,
      to,
      ...this.lines.at(from),
      message: isLast ? `${cut(message)}; what else is wrong from here on is not listed` : cut(message),
      ...(fix ? { fix } : {}),
    };
    this.mistakes.push(mistake);
    return mistake;
  }
}

/** A message that quotes what was written quotes no more than one can read. */
function cut(message: string): string {
  return message.length > 240 ? `${message.slice(0, 160)} … ${message.slice(-60)}` : message;
}
