import { type Hunt, standingOf, TRAPS } from "@hound/core/practice";
import { useMemo, useState } from "react";
import { PlainBoard } from "../board/PlainBoard.tsx";
import { useDesk } from "../desk/DeskContext.tsx";
import { actWords, clockWords, displayWords } from "../words/practice.ts";
import { heldOf } from "./held.ts";

/** Act by act once more, with the leads on the board. */
export function Replay({ hunt: { acts } }: { hunt: Hunt }) {
  const { drawn } = useDesk();
  const [at, setAt] = useState(0);
  const act = acts[at];
  const held = useMemo(() => (act && drawn ? heldOf(act.now, drawn.network) : null), [act, drawn]);
  if (!act || !drawn) return null;
  return (
    <section aria-label="Replay" className="rounded-xl border border-rule bg-sheet px-4 py-3">
      <h3 className="text-xl font-bold">Act by act</h3>
      <div className="flex flex-wrap items-center gap-3">
        <input
          type="range"
          aria-label="Act"
          min={0}
          max={acts.length - 1}
          value={at}
          className="min-w-40 grow accent-copper"
          onChange={(e) => setAt(Number(e.target.value))}
        />
        <span className="text-faint">
          {at + 1} of {acts.length}, {clockWords(act.now.minutes)}
        </span>
      </div>
      <p className="text-bench">
        {actWords(act.act, act.reading)}
        <strong className="ml-3 tabular-nums">{displayWords(act.display)}</strong>
      </p>
      {act.traps.map((t) => (
        <p key={t} className="text-doubt">
          {TRAPS[t]}
        </p>
      ))}
      <div className="mt-2 h-80 border-t border-rule">
        <PlainBoard standing={standingOf(act.now, drawn.network)} held={held} />
      </div>
    </section>
  );
}
