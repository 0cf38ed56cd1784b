import type { RankProblem } from "@hound/core/rank";
import { useDesk } from "../desk/DeskContext.tsx";
import type { Ranked } from "../ranking/useRanking.ts";
import { OUT_OF_DATE, repairRows, suspicionClass } from "../session/suspectRows.ts";
import { percent } from "../words/quantities.ts";

const LEAST_METER = 0.02;

/** The three repairs that lead, always in sight while measuring. */
export function TopSuspects({ ranked }: { ranked: Ranked }) {
  const { drawn, select } = useDesk();
  const { ranking, isCurrent } = ranked;
  if (!drawn || ranking?.kind !== "ranking")
    return ranking?.kind === "problem" ? <RankTrouble problem={ranking} /> : null;
  // A meter that hardly reads false is none of the three.
  const rows = repairRows(ranking, drawn.network)
    .filter((r) => !r.modes[0].suspect.meter || r.probability >= LEAST_METER)
    .slice(0, 3);
  return (
    <ol
      aria-label="Leading suspects"
      aria-busy={!isCurrent}
      className={`flex flex-col gap-1 ${isCurrent ? "" : OUT_OF_DATE}`}
    >
      {rows.map((row) => {
        const look = suspicionClass(row.probability);
        const [mode] = row.modes;
        return (
          <li key={row.key}>
            <button
              type="button"
              className="flex w-full items-baseline gap-3 text-left"
              onClick={() => {
                const [fault] = mode.suspect.faults;
                if (fault && "part" in fault) select({ kind: "branch", name: fault.part });
              }}
            >
              <span className="min-w-0 grow text-xl font-bold break-words">{mode.name}</span>
              <span className={`text-2xl font-bold whitespace-nowrap ${look.text}`}>{percent(row.probability)}</span>
            </button>
          </li>
        );
      })}
    </ol>
  );
}

export function RankTrouble({ problem }: { problem: RankProblem }) {
  const where = problem.index === undefined ? "" : `Reading ${problem.index + 1}: `;
  return (
    <p role="alert" className="rounded-lg border border-wrong bg-wrong-wash p-3">
      {where}
      {problem.message}
    </p>
  );
}
