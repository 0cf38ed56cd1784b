import type { BenchNow } from "@hound/core/practice";
import type { Leads } from "../board/leads.ts";

/** Where the leads are held, as the board marks it. */
export function heldOf({ red, black }: BenchNow): Leads {
  const node = (at: string | null) => (at === null || at.endsWith(".end") ? null : at);
  return { red: node(red), black: node(black), part: null };
}
