import type { Network } from "@hound/core/circuit";
import { type Supposed, troubleWithSupposed } from "@hound/core/whatif";
import { useCallback, useEffect, useMemo, useState } from "react";
import { tabStore } from "../app/stores.ts";

/** The faults that are supposed, with a way back. */
export interface Supposing {
  readonly supposed: readonly Supposed[];
  /** @param isMoving one of many changes of one move: together they are one step back */
  readonly change: (next: readonly Supposed[], isMoving?: boolean) => void;
  /** Ends a move. */
  readonly settle: () => void;
  readonly undo: (() => void) | null;
  readonly redo: (() => void) | null;
}

interface History {
  readonly past: readonly (readonly Supposed[])[];
  readonly now: readonly Supposed[];
  readonly future: readonly (readonly Supposed[])[];
  readonly isMoving: boolean;
}

const keyOf = (job: string) => `hound:whatif:${job}`;

/** Kept for the tab's life, so that looking elsewhere loses nothing; what the circuit no longer has drops out. */
export function useSupposing(job: string, network: Network | undefined): Supposing {
  const [{ past, now, future }, set] = useState<History>(() => startOf(job));
  useEffect(() => tabStore.set(keyOf(job), JSON.stringify(now)), [job, now]);
  const supposed = useMemo(
    () => (network ? now.filter((fault) => troubleWithSupposed(network, [fault]) === null) : []),
    [now, network],
  );
  const change = useCallback(
    (next: readonly Supposed[], isMoving = false) =>
      set((h) => ({
        past: h.isMoving && isMoving ? h.past : [...h.past, h.now],
        now: next,
        future: [],
        isMoving,
      })),
    [],
  );
  const settle = useCallback(() => set((h) => (h.isMoving ? { ...h, isMoving: false } : h)), []);
  const undo = useCallback(
    () =>
      set((h) => {
        const before = h.past.at(-1);
        if (!before) return h;
        return { past: h.past.slice(0, -1), now: before, future: [h.now, ...h.future], isMoving: false };
      }),
    [],
  );
  const redo = useCallback(
    () =>
      set((h) => {
        const [after, ...rest] = h.future;
        if (!after) return h;
        return { past: [...h.past, h.now], now: after, future: rest, isMoving: false };
      }),
    [],
  );
  return { supposed, change, settle, undo: past.length > 0 ? undo : null, redo: future.length > 0 ? redo : null };
}

/** What another version of the page left is taken as far as it is a fault. */
function isFault(kept: unknown): kept is Supposed {
  if (typeof kept !== "object" || kept === null || !("mode" in kept)) return false;
  return "nodes" in kept
    ? Array.isArray(kept.nodes) && kept.nodes.length === 2
    : "part" in kept && typeof kept.part === "string";
}

function startOf(job: string): History {
  const empty: History = { past: [], now: [], future: [], isMoving: false };
  try {
    const kept: unknown = JSON.parse(tabStore.get(keyOf(job)) ?? "[]");
    return Array.isArray(kept) ? { ...empty, now: kept.filter(isFault) } : empty;
  } catch {
    return empty;
  }
}
