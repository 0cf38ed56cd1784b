import { readTrail, type Trail } from "@hound/core/notation";

let last: Trail | null = null;

/** A trail, read: the desk, the editor's colours, marks, folds and completion all ask for the same text on every key. */
export function readOnce(text: string): Trail {
  if (last?.text !== text) last = readTrail(text);
  return last;
}
