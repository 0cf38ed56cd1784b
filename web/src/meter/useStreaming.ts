import { isOver, type Meter, MeterLinkState, meterData, meterOf, type NumericReading } from "@hound/core/record";
import { readingAt } from "@hound/core/stream";
import { useEffect, useMemo, useRef, useState } from "react";
import { metersApi } from "../api/meters.ts";
import { useNotice } from "../app/Notice.tsx";
import { newId } from "../app/newId.ts";
import { tabStore } from "../app/stores.ts";
import { useDesk } from "../desk/DeskContext.tsx";
import type { ReadingLine } from "../session/useReadingLine.ts";
import { beep } from "./beep.ts";
import { MeterFeed } from "./feed.ts";
import { SerialMeter, serialHere } from "./serial.ts";

/** A meter that sends its readings by itself: whether this page listens to one, and what it shows. */
export interface Streaming {
  readonly source: "none" | "server" | "serial";
  readonly name: string;
  /** What the simulated meter says of what it stands on; empty where that is what it should. */
  readonly note: string;
  /** Why nothing comes. */
  readonly why: string;
  /** The server does not try any more. */
  readonly isOff: boolean;
  readonly isOpen: boolean;
  readonly feed: MeterFeed;
  /** True where the server has a meter to listen to. */
  readonly hasServer: boolean;
  readonly hasSerial: boolean;
  readonly listen: (source: "none" | "server") => void;
  readonly listenSerial: (baudRate: number) => void;
  /** Records what is shown just now, steady or not. */
  readonly recordNow: () => void;
}

const KEY = "hound:listens";

interface SerialState {
  readonly name: string;
  readonly why: string;
}

/**
 * Takes what a meter holds into the proposal's place. The server keeps a held reading until this page has it; its id is the
 * reading's, so that what is told twice is recorded once.
 */
export function useStreaming(line: ReadingLine, isHere: boolean, onListens: (listens: boolean) => void): Streaming {
  const { state, readings, meter } = useDesk();
  const notice = useNotice();
  const { id } = state.job;
  const [source, setSource] = useState<Streaming["source"]>(() => (tabStore.get(KEY) === id ? "server" : "none"));
  const [link, setLink] = useState<MeterLinkState | null>(null);
  const [serial, setSerial] = useState<SerialState>({ name: "", why: "" });
  const [feed] = useState(() => new MeterFeed());
  const port = useRef<SerialMeter | null>(null);
  const latest = useRef(line);
  useEffect(() => {
    latest.current = line;
  });
  const isListening = isHere && source === "server";
  useEffect(() => onListens(source !== "none"), [source, onListens]);
  useEffect(() => {
    if (!isHere) return;
    const events = new EventSource(`/api/meter-link/events${isListening ? "?live=yes" : ""}`);
    events.onmessage = ({ data }) => {
      const told = MeterLinkState.parse(JSON.parse(data));
      if (isListening) feed.put(told);
      const still = { ...told, shows: null, steady: 0 };
      setLink((before) => (before && JSON.stringify(before) === JSON.stringify(still) ? before : still));
    };
    events.onerror = () => {
      if (isListening) feed.put(null);
      setLink((before) => before && { ...before, state: "waiting", why: "the server does not answer" });
    };
    return () => events.close();
  }, [isHere, isListening, feed]);
  const seen = useRef(new Set<string>());
  const heldHere = useMemo(
    () => (isListening ? link?.held.filter((h) => h.probes.job === id) : undefined),
    [isListening, link, id],
  );
  useEffect(() => {
    for (const held of heldHere ?? []) {
      const stored = readings.find((r) => r.id === held.id);
      if (!stored && !seen.current.has(held.id)) {
        latest.current.take(held.reading, held.id);
        beep();
      } else if (!stored?.unsent) {
        // It is stored, or was taken back: the server need not keep it any longer.
        metersApi.taken(held.id).catch(() => {});
      }
      seen.current.add(held.id);
    }
  }, [heldHere, readings]);
  const { point } = line;
  const isFree = line.typed === "" && (point?.quantity !== "current" || line.current?.next === "read");
  const wanted = isFree && point ? withTop(point, meter) : null;
  const mark = wanted ? JSON.stringify([wanted, line.ranked.asked]) : "";
  const isWaiting = isListening && link?.state === "open" && heldHere?.length === 0;
  const isPut = link?.probes?.mark === mark && link.probes.job === id;
  // biome-ignore lint/correctness/useExhaustiveDependencies: the mark stands for the point
  useEffect(() => {
    if (!isWaiting || isPut || !wanted) return;
    metersApi.putProbes({ job: id, reading: wanted, mark }).catch(() => {});
  }, [isWaiting, isPut, mark, id]);
  useEffect(() => {
    // Another point, though it may read the same.
    if (mark !== "") port.current?.moved();
  }, [mark]);
  useEffect(
    () => () => {
      void port.current?.close();
    },
    [],
  );
  const listen = (next: "none" | "server") => {
    tabStore.set(KEY, next === "server" ? id : "");
    void port.current?.close();
    port.current = null;
    feed.put(null);
    if (next === "none" && source === "server") metersApi.putProbes(null).catch(() => {});
    setSource(next);
  };
  // Where a job is settled, or over, listening ends by itself; who goes on from there begins again.
  const { judgement, isCurrent, isTyped } = line.ranked;
  const isKnown = isOver(state.job.state) || (judgement !== null && isCurrent && !isTyped);
  const isDone = isOver(state.job.state) || judgement?.verdict.kind === "settled";
  const wasDone = useRef(true);
  useEffect(() => {
    if (!isKnown) return;
    if (isDone && !wasDone.current && source !== "none") {
      listen("none");
      notice({ text: "Settled: the meter is not listened to any more." });
    }
    wasDone.current = isDone;
  });
  const listenSerial = async (baudRate: number) => {
    const own = await serialHere()
      ?.requestPort()
      .catch(() => null);
    if (!own) return;
    listen("none");
    const streamer = new SerialMeter(own, {
      wanted: () => latest.current.point?.quantity ?? "voltage",
      onName: (name) => setSerial((s) => ({ ...s, name, why: "" })),
      onSample: ({ value, isOver, quantity, step = 0 }, steady) =>
        feed.put({ shows: { value: isOver ? null : value, isOver, quantity, step }, steady }),
      onHeld: (held) => {
        const { point: at, typed } = latest.current;
        const reading = at && typed === "" ? readingAt(withTop(at, meter), held) : null;
        if (!reading) return;
        latest.current.take(reading, newId());
        beep();
      },
      onClosed: (why) => {
        if (port.current !== streamer) return;
        port.current = null;
        feed.put(null);
        setSerial({ name: "", why });
        setSource("none");
      },
    });
    try {
      await streamer.open(baudRate);
      port.current = streamer;
      setSource("serial");
    } catch {
      setSerial((s) => ({ ...s, why: "the port could not be opened" }));
    }
  };
  const recordNow = () => {
    const { shows } = feed.now();
    if (!shows || !point || shows.quantity !== point.quantity) return;
    const held = { value: shows.value ?? Number.POSITIVE_INFINITY, isOver: shows.isOver, step: shows.step };
    const reading = readingAt(withTop(point, meter), held);
    if (reading) latest.current.take(reading);
  };
  return {
    source,
    name: (source === "serial" ? serial.name : link?.name) ?? "",
    note: (source === "server" && link?.note) || "",
    why: (source === "serial" ? serial.why : link?.why) ?? "",
    isOpen: source === "serial" || (source === "server" && link?.state === "open"),
    isOff: source === "server" && link?.state === "off",
    feed,
    hasServer: link?.settings.isOn ?? false,
    hasSerial: serialHere() !== null,
    listen,
    listenSerial,
    recordNow,
  };
}

/** A point on ohms with what over range means there: more than the meter's top. */
function withTop(point: NumericReading, meter: Meter): NumericReading {
  return point.quantity === "resistance" ? { ...point, value: meterOf(point, meterData(meter)).topOhms } : point;
}
