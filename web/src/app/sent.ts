/** What a pocket sum hands to a job; it travels in the history entry that opens the job. */
export interface Sent {
  /** Parts to be put into the circuit, or what was read at a point that is still to be said. */
  readonly kind: "part" | "reading";
  readonly words: string;
}

/** What a history entry brings along, if it does. */
export function sentIn(state: unknown): Sent | null {
  const { kind, words } = (state ?? {}) as Partial<Record<string, unknown>>;
  return (kind === "part" || kind === "reading") && typeof words === "string" ? { kind, words } : null;
}
