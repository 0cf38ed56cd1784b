import type { Network } from "@hound/core/circuit";
import { type BenchNow, freedEnd } from "@hound/core/practice";
import type { Leads } from "../board/leads.ts";

/** Where the leads are held, as the board marks it; of parts with a lead off the one that is probed, else the last one. */
export function heldOf({ red, black, freed }: BenchNow, { branches, nodes }: Network): Leads {
  const node = (at: string | null) => (at === null || at.endsWith(".end") ? null : at);
  const both = { red: node(red), black: node(black) };
  const one = freed.find((f) => [red, black].includes(freedEnd(f.part))) ?? freed.at(-1);
  if (!one) return { ...both, part: null };
  const which = red === freedEnd(one.part) ? "red" : black === freedEnd(one.part) ? "black" : null;
  const branch = branches.find((b) => b.name === one.part);
  const isFirstEnd = branch !== undefined && nodes[branch.from] === one.at;
  return { ...both, part: one.part, ...(which ? { freed: { which, isFirstEnd } } : {}) };
}
