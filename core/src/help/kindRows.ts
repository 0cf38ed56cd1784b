import { calledAs, KINDS, type Kind, type Mode, rowOf } from "../circuit/index.ts";
import { MODE_SHARES, RATES } from "../faults/index.ts";
import { seenOf } from "../notation/index.ts";
import type { Seen } from "../record/index.ts";

/** A kind of part as help shows it. */
export interface HelpKind {
  readonly kind: Kind;
  readonly word: string;
  /** Letters that its designators begin with. */
  readonly letters: readonly string[];
  /** What a look at it may find. */
  readonly seen: readonly Seen[];
  /** How often it fails beside a resistor, and of its failures the share of each kind, the most frequent first. */
  readonly rate: number;
  readonly modes: readonly { readonly mode: Mode; readonly share: number }[];
}

/** Every kind of part, in the order of their table. */
export function helpKinds(): HelpKind[] {
  return (Object.keys(KINDS) as Kind[]).map((kind) => {
    const { word } = rowOf(kind);
    const letters = calledAs(kind);
    const modes = (Object.entries(MODE_SHARES[kind]) as [Mode, number][])
      .map(([mode, share]) => ({ mode, share }))
      .sort((a, b) => b.share - a.share);
    return { kind, word, letters, seen: seenOf({ kind }), rate: RATES[kind], modes };
  });
}
