import { buildNetwork, type Circuit, idealCircuit, type Network } from "@hound/core/circuit";
import { type Board, layoutBoard } from "@hound/core/layout";
import { withInstruments } from "@hound/core/measure";
import type { Edited } from "@hound/core/notation";
import { type Settled, settleUnknowns } from "@hound/core/rank";
import { idealMeter, type Meter, meterData } from "@hound/core/record";
import { type Oddity, oddities } from "@hound/core/reduce";
import {
  createContext,
  type ReactNode,
  useCallback,
  useContext,
  useDeferredValue,
  useEffect,
  useMemo,
  useRef,
  useState,
  useSyncExternalStore,
} from "react";
import { flushSync } from "react-dom";
import { useOnDevice } from "../app/device.ts";
import { useNotice } from "../app/Notice.tsx";
import { TrailDocument } from "../trail/trailDocument.ts";
import { useConventions } from "./conventions.ts";
import type { JobDesk } from "./desk.ts";
import { type DeskReading, readingsOf } from "./ops.ts";
import { Pointing, type Selected, useSelected } from "./pointing.ts";
import type { DeskState } from "./savedJob.ts";

/** The last circuit that could be read, with its board. */
export interface Drawn {
  /** As written. */
  readonly written: Circuit;
  /** With what the conventions take for granted: ideal supplies or contacts. Every view and the ranking work on this one. */
  readonly circuit: Circuit;
  /** With estimates in place of values that the circuit leaves open. */
  readonly network: Network;
  readonly settled: Settled | null;
  readonly board: Board;
  /** True while the text has mistakes: the picture is the one before them. */
  readonly outdated: boolean;
}

const oddIn = new WeakMap<Network, readonly Oddity[]>();

/** What is odd about a circuit; parts whose values are estimates are not judged by them. Worked out once. */
export function odditiesOf({ network, settled }: Pick<Drawn, "network" | "settled">): readonly Oddity[] {
  const known = oddIn.get(network);
  if (known) return known;
  const found = oddities(network, new Set(settled?.estimates.map((e) => e.designator)));
  oddIn.set(network, found);
  return found;
}

interface DeskValue {
  readonly desk: JobDesk;
  readonly state: DeskState;
  readonly readings: readonly DeskReading[];
  readonly drawn: Drawn | null;
  /** The job's meter, or one that loads nothing where that is the convention. */
  readonly meter: Meter;
  /** What is selected and pointed at: it changes more often than all the rest, and tells by itself who asks. */
  readonly pointing: Pointing;
  readonly select: Pointing["select"];
  readonly hover: Pointing["hover"];
  /** The trail and its history: one undo for text, board and table. */
  readonly trailDocument: TrailDocument;
  /** Who has the job open, this page among them, by the names that were chosen; "" where none was. */
  readonly here: readonly string[];
  /** Makes an edit of the circuit. @returns why not, or null */
  readonly edit: (edited: Edited) => string | null;
  /** Hands over a table that was pasted somewhere else. */
  readonly sendTable: (text: string) => void;
  /** Listens for one. @returns what ends it */
  readonly onTable: (listener: (text: string) => void) => () => void;
}

const DeskContext = createContext<DeskValue | null>(null);

export function useDesk(): DeskValue {
  const value = useContext(DeskContext);
  if (!value) throw new Error("useDesk outside of a desk");
  return value;
}

/** What is selected on the desk. */
export function useSelection(): Selected {
  return useSelected(useDesk().pointing);
}

const EVENTS = ["pointerdown", "keydown", "drop"] as const;

interface DeskProviderProps {
  readonly desk: JobDesk;
  /** Whether others may have its job open, too; a circuit on paper is nobody else's. */
  readonly isShared?: boolean;
  readonly children: ReactNode;
}

export function DeskProvider({ desk, isShared = true, children }: DeskProviderProps) {
  const [tables] = useState(tableExchange);
  const [trailDocument] = useState(
    () =>
      new TrailDocument(
        desk.snapshot().text,
        async () => {
          const { trailEngine } = await import("../trail/trailEngine.ts");
          return (text, onChange) => trailEngine(text, tables.sendTable, onChange);
        },
        (text) => desk.setText(text, true),
      ),
  );
  const latest = useSyncExternalStore(desk.subscribe, desk.snapshot);
  // Keys come first: while the trail is typed, all that hangs on it follows together when there is time.
  const calm = useDeferredValue(latest);
  const state = latest.typing ? calm : latest;
  useEffect(() => {
    const catchUp = (event: Event) => {
      const trail = (event.target as Element | null)?.closest?.(".cm-editor, [data-trail]") ?? null;
      if (trail === null && desk.snapshot().typing) flushSync(() => desk.catchUp());
    };
    // Before anything is pressed elsewhere, what it acts on is the text as it stands.
    for (const kind of EVENTS) window.addEventListener(kind, catchUp, { capture: true });
    return () => {
      for (const kind of EVENTS) window.removeEventListener(kind, catchUp, { capture: true });
    };
  }, [desk]);
  const [pointing] = useState(() => new Pointing());
  const { job: stored, pending, merges } = state;
  const readings = useMemo(() => readingsOf({ job: stored, pending }), [stored, pending]);
  const { meters, supplies, wires } = useConventions();
  const meter = useMemo(() => (meters === "ideal" ? idealMeter(stored.meter) : stored.meter), [meters, stored.meter]);
  const drawn = useDrawn(state, readings, meter, supplies === "ideal", wires === "ideal");
  useEffect(
    // What names a junction that was read stays: without its name another could be taken for it.
    () => trailDocument.replace(latest.text, !desk.isNaming(latest.text)),
    [trailDocument, latest.text, desk],
  );
  useEffect(() => {
    const onFocus = () => isShared && desk.refresh();
    window.addEventListener("focus", onFocus);
    return () => window.removeEventListener("focus", onFocus);
  }, [desk, isShared]);
  const [who] = useOnDevice("who", "");
  const [here, setHere] = useState<readonly string[]>([]);
  useEffect(
    () => (isShared ? followChanges(stored.id, desk, who, setHere) : undefined),
    [desk, stored.id, who, isShared],
  );
  const notice = useNotice();
  useEffect(() => {
    if (merges > 0) notice({ text: "The circuit was changed elsewhere too: both changes are in the trail now." });
  }, [merges, notice]);
  const edit = useCallback(
    (edited: Edited) => {
      if (edited.kind === "refused") return edited.why;
      desk.edit(edited);
      return null;
    },
    [desk],
  );
  const value = useMemo(() => {
    const { select, hover } = pointing;
    const shown = { desk, state, readings, drawn, meter, pointing, select, hover };
    return { ...shown, trailDocument, edit, here, ...tables };
  }, [desk, state, readings, drawn, meter, pointing, trailDocument, edit, here, tables]);
  return <DeskContext value={value}>{children}</DeskContext>;
}

/** From where a table is pasted to where it is looked at. */
function tableExchange(): Pick<DeskValue, "sendTable" | "onTable"> {
  const listeners = new Set<(text: string) => void>();
  return {
    sendTable: (text) => {
      for (const listener of listeners) listener(text);
    },
    onTable: (listener) => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
  };
}

/**
 * Hears of what other devices change, while the page is in sight; a browser has few connections to spare. A connection
 * that comes about again tells that the server is back.
 */
function followChanges(id: string, desk: JobDesk, who: string, onHere: (names: readonly string[]) => void): () => void {
  let source: EventSource | null = null;
  const follow = () => {
    if (document.visibilityState === "hidden") {
      source?.close();
      source = null;
    } else if (!source) {
      source = new EventSource(`/api/jobs/${id}/events?${new URLSearchParams({ who })}`);
      source.addEventListener("here", (event) => onHere(namesIn(event.data)));
      source.addEventListener("changed", () => desk.refresh());
      source.addEventListener("at", (event) => desk.refresh(event.data));
      source.addEventListener("open", () => desk.nudge());
    }
  };
  follow();
  document.addEventListener("visibilitychange", follow);
  return () => {
    onHere([]);
    document.removeEventListener("visibilitychange", follow);
    source?.close();
  };
}

function namesIn(data: string): string[] {
  try {
    const names: unknown = JSON.parse(data);
    return Array.isArray(names) ? names.map(String) : [];
  } catch {
    return [];
  }
}

/** A circuit as every view works with it: with what the conventions take for ideal, and drawn meters as the one in hand. */
export function asWorkedWith(
  written: Circuit,
  ideal: { readonly supplies: boolean; readonly contacts: boolean },
  meter: Meter,
): Circuit {
  return withInstruments(idealCircuit(written, ideal), meterData(meter));
}

function useDrawn(
  { trail }: DeskState,
  readings: readonly DeskReading[],
  meter: Meter,
  supplies: boolean,
  contacts: boolean,
): Drawn | null {
  const last = useRef<Drawn | null>(null);
  const { circuit: written } = trail;
  const circuit = useMemo(
    () => written && asWorkedWith(written, { supplies, contacts }, meter),
    [written, supplies, contacts, meter],
  );
  const settled = useMemo(() => {
    const taken = readings.map((r) => r.reading);
    return circuit ? settleUnknowns(circuit, taken, meterData(meter)) : null;
  }, [circuit, readings, meter]);
  return useMemo(() => {
    if (circuit && written) {
      const network = buildNetwork(settled?.narrowed ?? circuit);
      last.current = { written, circuit, network, settled, board: layoutBoard(network), outdated: false };
      return last.current;
    }
    const isEmpty = trail.text.trim() === "";
    if (last.current) last.current = { ...last.current, outdated: !isEmpty };
    return isEmpty ? null : last.current;
  }, [circuit, written, trail, settled]);
}
