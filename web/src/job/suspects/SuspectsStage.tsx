import type { Ranking, RankProblem } from "@hound/core/rank";
import type { NumericReading } from "@hound/core/record";
import { percent, placeOf, shown, UNIT_OF, valueOfReading, withLimits } from "../../words/quantities.ts";
import { useDesk } from "../DeskContext.tsx";
import { DeviationBar } from "../readings/DeviationBar.tsx";
import { type SuspectRow, suspectRows, suspicionClass } from "./suspectRows.ts";
import { RankTrouble } from "./TopSuspects.tsx";

/** Rows below this are folded away. */
const MENTIONED = 0.001;

/** Stage Suspects: the ranking, each with what it says of every reading. */
export function SuspectsStage({ ranking }: { ranking: Ranking | RankProblem | null }) {
  const { drawn, readings } = useDesk();
  if (ranking?.kind === "problem") return <RankTrouble problem={ranking} />;
  if (!drawn || !ranking) return <p className="text-faint">Suspects appear as soon as there is a circuit.</p>;
  const rows = suspectRows(ranking, drawn.network);
  const shown = rows.filter((r) => r.probability >= MENTIONED);
  const rest = rows.slice(shown.length);
  const numeric = readings.map((r) => r.reading).filter((r) => r.quantity !== "observation");
  return (
    <section aria-label="Suspects">
      <h2 className="flex flex-wrap items-baseline justify-between gap-x-3 text-2xl font-bold">
        Suspects
        <span className="text-base font-normal text-faint">
          {numeric.length === 0
            ? "before any reading: how often what fails"
            : `after ${numeric.length} reading${numeric.length === 1 ? "" : "s"}`}
        </span>
      </h2>
      <ol className="mt-3 flex flex-col gap-2">
        {shown.map((row) => (
          <SuspectItem key={row.key} row={row} readings={numeric} ranking={ranking} />
        ))}
      </ol>
      {rest.length > 0 && (
        <p className="mt-3 text-faint">
          {rest.length} more below 0.1 %, together {percent(rest.reduce((sum, r) => sum + r.probability, 0))}.
        </p>
      )}
    </section>
  );
}

interface SuspectProps {
  readonly row: SuspectRow;
  readonly readings: readonly NumericReading[];
  readonly ranking: Ranking;
}

function SuspectItem({ row, readings, ranking }: SuspectProps) {
  const { select } = useDesk();
  const look = suspicionClass(row.probability);
  const [fault] = row.suspect.faults;
  return (
    <li className="rounded-lg border border-rule bg-sheet">
      <details
        onToggle={(e) =>
          e.currentTarget.open && fault && "part" in fault && select({ kind: "branch", name: fault.part })
        }
      >
        <summary className="list-none px-3 py-2">
          <span className="flex items-baseline gap-3">
            <span className="min-w-0 grow text-lg font-bold break-words">{row.name}</span>
            <span className={`text-xl font-bold whitespace-nowrap ${look.text}`}>{percent(row.probability)}</span>
          </span>
          <span className="mt-1.5 block h-2 rounded-full bg-band">
            <span
              className={`block h-2 rounded-full ${look.fill}`}
              style={{ width: `${Math.max(0.8, row.probability * 100)}%` }}
            />
          </span>
          {row.estimate && <span className="mt-1 block text-faint">{row.estimate}</span>}
        </summary>
        <Overloads row={row} />
        <Comparison row={row} readings={readings} ranking={ranking} />
      </details>
    </li>
  );
}

/** What this suspect would do to its neighbours: cause and consequence are replaced together. */
function Overloads({ row }: { row: SuspectRow }) {
  const { overloads } = row.suspect;
  if (overloads.length === 0) return null;
  return (
    <p className="px-3 pb-2 text-doubt">
      It would run{" "}
      {overloads
        .slice(0, 4)
        .map(({ part, of, value, rating }) => {
          const unit = of === "current" ? "A" : "W";
          return `${part} at ${shown(value, unit, 2)}, ${(value / rating).toFixed(1)} times its rating`;
        })
        .join("; ")}
      .
    </p>
  );
}

/** Measured beside predicted, reading by reading. */
function Comparison({ row, readings, ranking }: SuspectProps) {
  if (readings.length === 0) return <p className="px-3 pb-3 text-faint">No reading speaks for or against it yet.</p>;
  const { predictions } = row.suspect;
  return (
    <section className="overflow-x-auto px-3 pb-3" tabIndex={0} aria-label={`Readings against ${row.name}`}>
      <table className="w-full text-left">
        <thead className="text-sm text-faint">
          <tr>
            <th className="py-1 pr-3 font-normal">reading</th>
            <th className="py-1 pr-3 font-normal">measured</th>
            <th className="py-1 pr-3 font-normal">this suspect says</th>
            <th className="py-1 font-normal">healthy</th>
          </tr>
        </thead>
        <tbody>
          {readings.map((reading, i) => {
            const unit = UNIT_OF[reading.quantity];
            const said = predictions[i];
            const healthy = ranking.healthy[i];
            return (
              <tr key={`${placeOf(reading)} ${reading.takenAt ?? i}`} className="border-t border-rule align-top">
                <td className="py-1.5 pr-3">{placeOf(reading)}</td>
                <td className="py-1.5 pr-3 font-bold whitespace-nowrap">{valueOfReading(reading)}</td>
                <td className="py-1.5 pr-3 whitespace-nowrap">
                  {said ? withLimits(said.value, said.plusMinus, unit) : "–"}
                  {said && (
                    <span className="block">
                      <DeviationBar measured={reading.value} expected={said.value} limit={said.plusMinus} />
                    </span>
                  )}
                </td>
                <td className="py-1.5 whitespace-nowrap text-faint">
                  {healthy ? withLimits(healthy.value, healthy.plusMinus, unit) : "–"}
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </section>
  );
}
