import { createContext, useContext, useSyncExternalStore } from "react";
import type { ErrandBodies } from "../outbox/errandKinds.ts";
import type { ErrandsState } from "../outbox/errands.ts";
import type { Outbox } from "./start.ts";

export const OutboxContext = createContext<Outbox | null>(null);

export function useOutbox(): Outbox {
  const outbox = useContext(OutboxContext);
  if (!outbox) throw new Error("useOutbox outside of an outbox");
  return outbox;
}

export function useErrands(): ErrandsState {
  const { errands } = useOutbox();
  return useSyncExternalStore(errands.subscribe, errands.snapshot);
}

/** Sends something to be done. @returns a promise of the answer, which may take as long as the server is away */
export function useRun(): <K extends keyof ErrandBodies>(
  kind: K,
  body: ErrandBodies[K],
  words: string,
) => Promise<unknown> {
  const { errands } = useOutbox();
  return (kind, body, words) => errands.run(kind, body, words);
}
