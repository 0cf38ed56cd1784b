import { buildNetwork, type Circuit, type Network, UnknownValueError } from "@hound/core/circuit";
import { type Board, layoutBoard } from "@hound/core/layout";
import type { Job } from "@hound/core/record";
import {
  createContext,
  type ReactNode,
  useContext,
  useEffect,
  useMemo,
  useRef,
  useState,
  useSyncExternalStore,
} from "react";
import { jobsApi } from "../api/jobs.ts";
import { type DeskReading, type DeskState, JobDesk } from "./desk.ts";

/** The last circuit that could be read, with its board. */
export interface Drawn {
  readonly circuit: Circuit;
  readonly network: Network;
  readonly board: Board;
  /** True while the text has mistakes: the picture is the one before them. */
  readonly outdated: boolean;
}

/** What is pointed at: a node or a branch by name. */
export type Selection = { readonly kind: "node" | "branch"; readonly name: string } | null;

interface DeskValue {
  readonly desk: JobDesk;
  readonly state: DeskState;
  readonly readings: readonly DeskReading[];
  readonly drawn: Drawn | null;
  /** Why the circuit of a sound trail is not drawn, such as an unknown value. */
  readonly notDrawn: string | null;
  readonly selection: Selection;
  readonly select: (selection: Selection) => void;
}

const DeskContext = createContext<DeskValue | null>(null);

export function useDesk(): DeskValue {
  const value = useContext(DeskContext);
  if (!value) throw new Error("useDesk outside of a desk");
  return value;
}

export function DeskProvider({ job, children }: { job: Job; children: ReactNode }) {
  const [desk] = useState(() => new JobDesk(job, jobsApi, localStorage));
  const state = useSyncExternalStore(desk.subscribe, desk.snapshot);
  const [selection, select] = useState<Selection>(null);
  const { drawn, notDrawn } = useDrawn(state);
  const { job: stored, pending } = state;
  const readings = useMemo(
    () => JobDesk.readingsOf({ ...desk.snapshot(), job: stored, pending }),
    [desk, stored, pending],
  );
  useEffect(() => {
    const onFocus = () => desk.refresh();
    window.addEventListener("focus", onFocus);
    return () => window.removeEventListener("focus", onFocus);
  }, [desk]);
  const value = useMemo(
    () => ({ desk, state, readings, drawn, notDrawn, selection, select }),
    [desk, state, readings, drawn, notDrawn, selection],
  );
  return <DeskContext value={value}>{children}</DeskContext>;
}

function useDrawn({ trail }: DeskState): { drawn: Drawn | null; notDrawn: string | null } {
  const last = useRef<Drawn | null>(null);
  return useMemo(() => {
    if (!trail.circuit) {
      if (last.current) last.current = { ...last.current, outdated: trail.text.trim() !== "" };
      return { drawn: trail.text.trim() === "" ? null : last.current, notDrawn: null };
    }
    try {
      const network = buildNetwork(trail.circuit);
      last.current = { circuit: trail.circuit, network, board: layoutBoard(network), outdated: false };
      return { drawn: last.current, notDrawn: null };
    } catch (error) {
      if (error instanceof UnknownValueError) return { drawn: last.current, notDrawn: error.message };
      throw error;
    }
  }, [trail]);
}
