import { type Act, type Hunt, type Told, type Trap, UNSAFE } from "@hound/core/practice";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { ApiError } from "../api/client.ts";
import { huntsApi } from "../api/hunts.ts";

export const huntKey = (id: string) => ["hunt", id] as const;

/** A hunt as the server has it. */
export function useHunt(id: string) {
  return useQuery({ queryKey: huntKey(id), queryFn: () => huntsApi.open(id) });
}

/** What the last act brought that has to be said. */
export interface Said {
  readonly traps: readonly Trap[];
  readonly refused: string | null;
  /** Why nothing was done at all: the server is away. */
  readonly trouble: string | null;
}
const SILENT: Said = { traps: [], refused: null, trouble: null };

export interface HuntActs {
  readonly said: Said;
  readonly act: (act: Act) => void;
}

/**
 * Acts at the stand-in bench, one after the other in the order they were asked for: each goes out when the one before
 * was answered. @param onRead told when something was written down, or the circuit was changed
 */
export function useHuntActs(id: string, onRead: () => void): HuntActs {
  const queries = useQueryClient();
  const [said, setSaid] = useState(SILENT);
  const chain = useRef(Promise.resolve());
  const act = (what: Act) => {
    chain.current = chain.current.then(async () => {
      const hunt = queries.getQueryData<Hunt>(huntKey(id));
      if (!hunt) return;
      try {
        const { told } = await huntsApi.act(id, hunt.acts.length, what);
        if (told.refused === null) queries.setQueryData(huntKey(id), withAct(hunt, what, told));
        setSaid({ traps: told.traps, refused: told.refused, trouble: null });
        if (told.reading || CHANGES.has(what.act)) onRead();
      } catch (error) {
        const isAway = error instanceof ApiError && error.status === 0;
        const why = error instanceof Error ? error.message : String(error);
        setSaid({
          ...SILENT,
          trouble: isAway ? "The stand-in bench is on the server, and the server does not answer" : why,
        });
        // Another page may have gone on with it.
        if (!isAway) await queries.invalidateQueries({ queryKey: huntKey(id) });
      }
    });
  };
  return { said, act };
}

/** Acts after which the circuit stands otherwise. */
const CHANGES: ReadonlySet<Act["act"]> = new Set(["power", "free", "join", "lever", "swap"]);

function withAct(hunt: Hunt, act: Act, { refused: _, ...told }: Told): Hunt {
  return { ...hunt, now: told.now, display: told.display, acts: [...hunt.acts, { act, ...told }] };
}

/** Traps in the order in which they are said: what can hurt first. */
export function inOrder(traps: readonly Trap[]): Trap[] {
  return [...traps].sort((a, b) => Number(UNSAFE.has(b)) - Number(UNSAFE.has(a)));
}
