import type { Progress } from "@hound/core/record";
import { useEffect, useRef, useState } from "react";
import { workApi } from "../api/work.ts";
import { newId } from "../app/newId.ts";

/** Milliseconds between two looks at how far it is. */
const LOOK_EVERY = 400;
/** Looks that find nothing before it is taken for done: the first may come before the work does. */
const MOST_MISSES = 5;

export interface Work {
  /** Under which the server knows it; another one each time. */
  readonly id: string;
  readonly isRunning: boolean;
  /** How far the server is; null where it has not said. */
  readonly progress: Progress | null;
  /** Looks after a download that the browser has begun. */
  readonly watch: () => void;
  /** The same until an answer is there. @returns the answer */
  readonly during: <T>(run: (id: string, signal: AbortSignal) => Promise<T>) => Promise<T>;
  readonly stop: () => void;
}

/** A long piece of work of the server's: how far it is, and the way to stop it. */
export function useWork(): Work {
  const [id, setId] = useState(newId);
  const [isRunning, setRunning] = useState(false);
  const [progress, setProgress] = useState<Progress | null>(null);
  const sending = useRef<AbortController | null>(null);
  useEffect(() => {
    if (!isRunning) return;
    let misses = 0;
    const end = () => {
      // What is sent ends with its answer.
      if (sending.current) return;
      setRunning(false);
      setProgress(null);
      setId(newId());
    };
    const look = () =>
      workApi.progress(id).then(
        (now) => {
          misses = 0;
          setProgress(now);
        },
        () => {
          misses += 1;
          if (misses >= MOST_MISSES) end();
        },
      );
    const timer = setInterval(look, LOOK_EVERY);
    return () => clearInterval(timer);
  }, [id, isRunning]);
  const during = async <T>(run: (id: string, signal: AbortSignal) => Promise<T>): Promise<T> => {
    const controller = new AbortController();
    sending.current = controller;
    setRunning(true);
    try {
      return await run(id, controller.signal);
    } finally {
      sending.current = null;
      setRunning(false);
      setProgress(null);
      setId(newId());
    }
  };
  const stop = () => {
    sending.current?.abort();
    workApi.stop(id).catch(() => {});
  };
  return { id, isRunning, progress, watch: () => setRunning(true), during, stop };
}
