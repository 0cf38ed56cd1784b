import { applyEdits, type TextEdit } from "../mistake.ts";
import { readTrail, type Trail } from "../trail/index.ts";
import type { Edited } from "./rewrite.ts";

/**
 * An edit of the circuit after which unnamed nodes still go by the numbers they had: where one would get another, its name
 * is written down. A node that was named or taken out by the edit itself is left to it.
 */
export function keepNumbers(before: Trail, edited: Edited): Edited {
  if (edited.kind === "refused" || before.unnamed.size === 0) return edited;
  const after = readTrail(edited.text);
  const nameAt = new Map([...after.unnamed].map(([name, offset]) => [offset, name]));
  const moved = offsetsIn(before.text, edited.text);
  const edits: TextEdit[] = [];
  for (const [name, offset] of before.unnamed) {
    if (edited.nodes.has(name) || name.startsWith("+")) continue;
    const at = moved(offset);
    const now = at === null ? undefined : nameAt.get(at);
    if (at !== null && now !== undefined && now !== name) edits.push({ from: at, to: at, insert: ` [${name}]` });
  }
  return edits.length === 0 ? edited : { ...edited, text: applyEdits(edited.text, edits) };
}

/** Where an offset of one text is in another that differs in one stretch; null within that stretch. */
function offsetsIn(before: string, after: string): (offset: number) => number | null {
  let from = 0;
  while (from < before.length && before[from] === after[from]) from += 1;
  const most = Math.min(before.length, after.length) - from;
  let tail = 0;
  while (tail < most && before[before.length - 1 - tail] === after[after.length - 1 - tail]) tail += 1;
  return (offset) => {
    if (offset <= from) return offset;
    return offset >= before.length - tail ? offset + after.length - before.length : null;
  };
}
