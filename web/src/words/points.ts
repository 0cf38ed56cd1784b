import { type Circuit, pointAt } from "@hound/core/circuit";

/** What a node is called where one probes it, and how it is found: “TB2-4, blue wire”; "" where nobody said. */
export function calledWords(circuit: Circuit, node: string): string {
  const point = pointAt(circuit, node);
  return point ? [point.called, point.note].filter(Boolean).join(", ") : "";
}
