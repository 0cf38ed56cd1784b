import type { Circuit, Part } from "../circuit/index.ts";
import { writePart } from "./trail/index.ts";

/** What became of one part between two circuits, as one would write the part. */
export type Difference =
  | { readonly kind: "added" | "removed"; readonly designator: string; readonly words: string; readonly ends: string }
  | {
      readonly kind: "changed";
      readonly designator: string;
      readonly before: string;
      readonly after: string;
      /** Nodes before and after, where they changed. */
      readonly moved: { readonly before: string; readonly after: string } | null;
    };

/** Two circuits compared part by part, by designator, in the order of the later one; what was removed comes last. */
export function differences(before: Circuit, after: Circuit): Difference[] {
  const old = new Map(before.parts.map((p) => [p.designator, p]));
  const now = new Set(after.parts.map((p) => p.designator));
  return [
    ...after.parts.flatMap((part): Difference[] => {
      const was = old.get(part.designator);
      if (!was) return [{ kind: "added", designator: part.designator, words: writePart(part), ends: endsOf(part) }];
      const [a, b] = [writePart(was), writePart(part)];
      const moved = endsOf(was) === endsOf(part) ? null : { before: endsOf(was), after: endsOf(part) };
      return a === b && !moved ? [] : [{ kind: "changed", designator: part.designator, before: a, after: b, moved }];
    }),
    ...before.parts
      .filter((p) => !now.has(p.designator))
      .map((p): Difference => ({ kind: "removed", designator: p.designator, words: writePart(p), ends: endsOf(p) })),
  ];
}

function endsOf(part: Part): string {
  return `${part.from} to ${part.to}`;
}
