import { readTrail } from "@hound/core/notation";
import { diff3Merge } from "node-diff3";
import { isSameJunction, leadsOf } from "./junctions.ts";

type Region = { readonly ok: string[] } | { readonly conflict: { a: string[]; o: string[]; b: string[] } };

/**
 * Two versions of a trail that came of one, made one line by line; lines that both put in at one place all stay. Null
 * where both changed the same line, or where the result would have a mistake that neither has.
 * S. Khanna, K. Kunal, B. C. Pierce, A Formal Investigation of Diff3, 2007.
 */
export function mergeTrails(base: string, mine: string, theirs: string): string | null {
  const [a, o, b] = [mine, base, theirs].map((text) => text.split("\n"));
  const regions = diff3Merge(a, o, b, { excludeFalseConflicts: true }) as Region[];
  const lines: string[] = [];
  for (const region of regions) {
    const both = "ok" in region ? region.ok : settle(region.conflict);
    if (both === null) return null;
    lines.push(...both);
  }
  const merged = lines.join("\n");
  const isSound = mistakes(merged) === 0 || mistakes(mine) > 0 || mistakes(theirs) > 0;
  return isSound && !joins(base, mine, theirs) ? merged : null;
}

/** Whether both gave one new name, to two junctions: made one, the trail would join them. */
function joins(base: string, mine: string, theirs: string): boolean {
  const [was, one, other] = [base, mine, theirs].map((text) => {
    const { circuit, unnamed } = readTrail(text);
    return new Map([...(circuit ? leadsOf(circuit) : [])].filter(([name]) => !unnamed.has(name)));
  });
  return [...one].some(([name, leads]) => !was.has(name) && other.has(name) && !isSameJunction(leads, other.get(name)));
}

/** Lines side by side of which one changed this, the other that; lines that were put in; null where both changed one. */
function settle({ a, o, b }: { a: string[]; o: string[]; b: string[] }): string[] | null {
  if (o.length === 0) return [...b, ...a];
  if (a.length !== o.length || b.length !== o.length) return null;
  if (o.some((line, i) => a[i] !== line && b[i] !== line && a[i] !== b[i])) return null;
  return o.map((line, i) => (a[i] === line ? b[i] : a[i]));
}

function mistakes(trail: string): number {
  return readTrail(trail).mistakes.filter((m) => m.severity === "mistake").length;
}
