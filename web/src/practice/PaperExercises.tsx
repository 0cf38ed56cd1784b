import { type Attempt, PAPER_KINDS, type PaperKind } from "@hound/core/paper";
import { useState } from "react";
import { Link } from "react-router";
import { CircuitChoice } from "../paper/CircuitChoice.tsx";
import { DRAWN } from "../paper/circuitOf.ts";
import { percent } from "../words/quantities.ts";

/** Exercises on paper, in the order one learns by, of a circuit that is drawn or of one's own. */
export function PaperExercises({ attempts }: { attempts: readonly Attempt[] }) {
  const [circuit, setCircuit] = useState(DRAWN);
  const of = circuit === DRAWN ? "" : `?${new URLSearchParams({ of: circuit })}`;
  return (
    <section aria-label="On paper" className="flex flex-col gap-3">
      <h2 className="text-2xl font-bold">On paper</h2>
      <p>
        What one works out without a meter, each answer marked at once with the reason. What is drawn needs no server.
      </p>
      <div className="max-w-md">
        <CircuitChoice label="Circuit of these exercises" value={circuit} isOpen onPick={setCircuit} />
      </div>
      <ul className="grid gap-2 sm:grid-cols-2">
        {(Object.keys(PAPER_KINDS) as PaperKind[]).map((kind) => {
          const { name, about } = PAPER_KINDS[kind];
          return (
            <li key={kind}>
              <Link
                to={`/practice/paper/${kind}${of}`}
                className="flex h-full flex-col gap-1 rounded-xl border-2 border-rule bg-sheet px-4 py-3 hover:border-copper"
              >
                <span className="text-lg font-bold">{name}</span>
                <span className="grow text-faint">{about}</span>
                <DoneSoFar own={attempts.filter((a) => a.kind === kind)} />
              </Link>
            </li>
          );
        })}
      </ul>
    </section>
  );
}

/** Answers of the last few that count for how one gets on. */
const LAST = 5;

function DoneSoFar({ own }: { own: readonly Attempt[] }) {
  if (own.length === 0) return null;
  const last = [...own].sort((a, b) => b.createdAt.localeCompare(a.createdAt)).slice(0, LAST);
  const share = last.reduce((sum, a) => sum + a.share, 0) / last.length;
  return (
    <span className="text-sm">
      {own.length} done, {percent(share)} right{own.length > LAST && ` of the last ${LAST}`}
    </span>
  );
}
