import { TIMED_STAGES, type TimedStage } from "@hound/core/record";
import { useEffect } from "react";
import { jobsApi } from "../api/jobs.ts";

/** Nothing pressed for so long is no work any more; less than this is not worth telling. Milliseconds. */
const IDLE = 120_000;
const LEAST = 3_000;
const TOLD_EVERY = 60_000;
const SIGNS = ["pointerdown", "keydown", "wheel"] as const;

/**
 * Counts the minutes that somebody works in a stage, while the page is in sight and something is done now and then. It
 * is a help for the write-up, not a record: what the server does not take is let go.
 */
export function useStageMinutes(id: string, stage: string) {
  useEffect(() => {
    if (!TIMED_STAGES.includes(stage as TimedStage)) return;
    let since = performance.now();
    let last = since;
    let spent = 0;
    const count = () => {
      const now = performance.now();
      if (document.visibilityState === "visible") spent += Math.max(0, Math.min(now, last + IDLE) - since);
      since = now;
    };
    const tell = () => {
      count();
      if (spent < LEAST) return;
      const minutes = spent / 60_000;
      spent = 0;
      jobsApi.spend(id, stage, minutes).catch(() => {});
    };
    const onSign = () => {
      count();
      last = performance.now();
    };
    const timer = setInterval(tell, TOLD_EVERY);
    for (const sign of SIGNS) window.addEventListener(sign, onSign, { passive: true });
    document.addEventListener("visibilitychange", count);
    return () => {
      clearInterval(timer);
      for (const sign of SIGNS) window.removeEventListener(sign, onSign);
      document.removeEventListener("visibilitychange", count);
      tell();
    };
  }, [id, stage]);
}
