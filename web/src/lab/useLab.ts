import type { RankProblem } from "@hound/core/rank";
import { useEffect, useRef, useState } from "react";
import { useSame } from "../desk/useSame.ts";
import type { LabAnswer, LabQuestion, LabRequest } from "./lab.worker.ts";

interface Told {
  readonly answer: LabAnswer | null;
  /** False while a newer question is at work. */
  readonly isCurrent: boolean;
}

/** The answer to a question, worked out off the page's own thread; the one before stays until it is there. */
export function useLab(wanted: LabQuestion | null): Told {
  const question = useSame(wanted);
  const [told, setTold] = useState<{ answer: LabAnswer; of: LabQuestion } | null>(null);
  const worker = useRef<Worker | null>(null);
  const ticket = useRef(0);
  useEffect(
    () => () => {
      worker.current?.terminate();
      worker.current = null;
    },
    [],
  );
  useEffect(() => {
    if (!question) return;
    ticket.current += 1;
    const mine = ticket.current;
    worker.current ??= new Worker(new URL("./lab.worker.ts", import.meta.url), { type: "module" });
    worker.current.onmessage = ({ data }: MessageEvent<{ ticket: number; answer: LabAnswer }>) => {
      if (data.ticket === mine) setTold({ answer: data.answer, of: question });
    };
    worker.current.onerror = (event) => {
      const problem: RankProblem = { kind: "problem", what: "circuit", message: `It failed: ${event.message}` };
      setTold({ answer: problem, of: question });
    };
    const request: LabRequest = { ticket: mine, question };
    worker.current.postMessage(request);
  }, [question]);
  return { answer: told?.answer ?? null, isCurrent: told?.of === question };
}
