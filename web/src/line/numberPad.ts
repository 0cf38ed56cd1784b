import type { Advice } from "@hound/core/coach";
import { UNIT_OF } from "@hound/core/record";
import { writeQuantity } from "@hound/core/units";
import type { KeyboardEvent } from "react";
import type { ReadingLine } from "../session/useReadingLine.ts";
import { inWords } from "../words/print.ts";

/** Over the range that the coach advises; of ohms simply OL. */
export function overRange(advice: Advice | null): string {
  if (!advice || advice.quantity === "resistance") return "OL";
  const span = writeQuantity(advice.range.span, UNIT_OF[advice.quantity] as "V" | "A");
  return inWords(`OL @${span}`);
}

/** @returns true where the key was one of the pad's, and is done */
export function onPadKey(event: KeyboardEvent, line: ReadingLine, advice: Advice | null): boolean {
  const isEmpty = line.typed.trim() === "";
  if (event.altKey && event.key === "Enter") {
    if (line.questions.length === 0) return false;
    line.accept();
    return true;
  }
  switch (event.code) {
    case "NumpadAdd": {
      const [first] = line.steps ?? [];
      if (line.questions.length > 0) line.accept();
      else if (isEmpty && first) line.putOff(first.key, "later");
      else return false;
      return true;
    }
    case "NumpadMultiply":
      if (!isEmpty) return false;
      line.type(overRange(advice));
      return true;
    case "NumpadDivide":
      if (!isEmpty) return false;
      line.nextKind();
      return true;
    default:
      return false;
  }
}
