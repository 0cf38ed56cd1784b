import type { Exercise } from "@hound/core/paper";
import { type ReactNode, useEffect, useRef } from "react";
import { Link } from "react-router";
import { newId } from "../app/newId.ts";
import { useRun } from "../desk/OutboxContext.tsx";
import { rightWords } from "../words/paper.ts";
import type { Origin } from "./origin.ts";

interface DoneProps {
  readonly exercise: Exercise;
  readonly origin: Origin;
  readonly onAnother: (() => void) | null;
  readonly share: number;
  /** How much was asked, where that is not one thing a question. */
  readonly asked?: number;
  /** Whether this one is in the list of what was done. */
  readonly isSent: boolean;
  readonly onSent: () => void;
  readonly children?: ReactNode;
}

/** How an exercise went; it goes into the list of what was done, once, also where the server is away for now. */
export function Done({ exercise, origin, onAnother, share, asked, isSent, onSent, children }: DoneProps) {
  const { kind, seed } = exercise;
  const questions = asked ?? exercise.questions.length;
  const run = useRun();
  const isGoing = useRef(isSent);
  useEffect(() => {
    if (isGoing.current) return;
    isGoing.current = true;
    const { set, title, trail } = origin;
    const attempt = { id: newId(), kind, title, seed, trail, share, questions, ...(set ? { set } : {}) };
    // It is kept on this device until the server has it; what is refused waits where all that does.
    run("attempt", attempt, `Exercise “${title}”`).catch(() => {});
    onSent();
  });
  return (
    <>
      <h2 className="text-3xl font-bold">{rightWords(share, questions)} right</h2>
      <p className="flex flex-wrap gap-3">
        {onAnother && (
          <button
            type="button"
            className="rounded-lg bg-copper px-5 py-2.5 text-bench font-bold text-sheet"
            onClick={onAnother}
          >
            Another one
          </button>
        )}
        <Link
          to="/practice"
          className={`rounded-lg px-5 py-2.5 text-bench ${onAnother ? "border border-rule hover:bg-band" : "bg-copper font-bold text-sheet"}`}
        >
          Back to practice
        </Link>
      </p>
      {children}
    </>
  );
}
