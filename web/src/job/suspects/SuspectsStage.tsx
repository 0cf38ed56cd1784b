import { deviationOf } from "@hound/core/measure";
import type { Measurement } from "@hound/core/plan";
import type { Explanation, Ranking } from "@hound/core/rank";
import type { NumericReading } from "@hound/core/record";
import { bitsWords, SAYS } from "../../words/bits.ts";
import { measurementWords, precaution } from "../../words/measurements.ts";
import { percent, placeOf, shown, UNIT_OF, valueOfReading, withLimits } from "../../words/quantities.ts";
import { useDesk } from "../DeskContext.tsx";
import type { Insight } from "../ranking/messages.ts";
import type { Ranked } from "../ranking/useRanking.ts";
import { DeviationBar } from "../readings/DeviationBar.tsx";
import {
  alikeOf,
  keyOf,
  OUT_OF_DATE,
  type RepairRow,
  repairRows,
  type SuspectRow,
  suspicionClass,
} from "./suspectRows.ts";
import { RankTrouble } from "./TopSuspects.tsx";

/** Rows below this are folded away. */
const MENTIONED = 0.001;

/** Stage Suspects: the ranking by repair; each mode with what it says of every reading and every reading of it. */
export function SuspectsStage({ ranked }: { ranked: Ranked }) {
  const { drawn, readings } = useDesk();
  const { ranking, insight, counts, isCurrent } = ranked;
  if (ranking?.kind === "problem") return <RankTrouble problem={ranking} />;
  if (!drawn || !ranking) return <p className="text-faint">Suspects appear as soon as there is a circuit.</p>;
  const rows = repairRows(ranking, drawn.network);
  const all = rows.flatMap((r) => [...r.modes, ...r.beside]);
  // That nothing is wrong is always among them.
  const shown = rows.filter((r) => r.probability >= MENTIONED || r.modes[0].suspect.faults.length === 0);
  const rest = rows.filter((r) => !shown.includes(r));
  const numeric = readings.flatMap(({ reading }, place) =>
    reading.quantity === "observation" ? [] : [{ reading, place }],
  );
  return (
    <section aria-label="Suspects" aria-busy={!isCurrent}>
      <h2 className="flex flex-wrap items-baseline justify-between gap-x-3 text-2xl font-bold">
        Suspects
        <span className="text-base font-normal text-faint">
          {counts === 0
            ? "before any reading: how often what fails"
            : `after ${counts} reading${counts === 1 ? "" : "s"}`}
        </span>
      </h2>
      <ol className={`mt-3 flex flex-col gap-2 ${isCurrent ? "" : OUT_OF_DATE}`}>
        {shown.map((row) => (
          <RepairItem key={row.key} row={row} rows={all} readings={numeric} ranking={ranking} insight={insight} />
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

interface ItemProps {
  /** Every suspect there is. */
  readonly rows: readonly SuspectRow[];
  readonly readings: readonly { readonly reading: NumericReading; readonly place: number }[];
  readonly ranking: Ranking;
  readonly insight: Insight | null;
}

type SuspectProps = ItemProps & { readonly row: SuspectRow };

/** One repair; unfolded, the ways in which it may be wrong. */
function RepairItem({ row, ...shared }: ItemProps & { row: RepairRow }) {
  const { select } = useDesk();
  const look = suspicionClass(row.probability);
  const [mode] = row.modes;
  const [fault] = mode.suspect.faults;
  const listed = row.modes.filter((m) => m === mode || m.probability >= MENTIONED);
  const beside = row.beside.reduce((s, b) => s + b.probability, 0);
  return (
    <li className="rounded-lg border border-rule bg-sheet">
      <details
        onToggle={(e) =>
          e.target === e.currentTarget &&
          e.currentTarget.open &&
          fault &&
          "part" in fault &&
          select({ kind: "branch", name: fault.part })
        }
      >
        <summary className="list-none px-3 py-2">
          <span className="flex items-baseline gap-3">
            <span className="min-w-0 grow text-lg font-bold break-words">{mode.name}</span>
            <span className={`text-xl font-bold whitespace-nowrap ${look.text}`}>{percent(row.probability)}</span>
          </span>
          <span className="mt-1.5 block h-2 rounded-full bg-band">
            <span
              className={`block h-2 rounded-full ${look.fill}`}
              style={{ width: `${Math.max(0.8, row.probability * 100)}%` }}
            />
          </span>
          {mode.estimate && <span className="mt-1 block text-faint">{mode.estimate}</span>}
          {listed.length > 1 && (
            <span className="block text-faint">
              {row.name} in all; or{" "}
              {listed
                .slice(1, 4)
                .map((m) => `${m.name} ${percent(m.probability)}`)
                .join("; ")}
            </span>
          )}
        </summary>
        {listed.length === 1 ? (
          <ModeDetails row={mode} {...shared} />
        ) : (
          <ul className="flex flex-col gap-1 px-3 pb-3">
            {listed.map((m) => (
              <li key={m.key} className="rounded-lg border border-rule">
                <details open={m === mode}>
                  <summary className="flex list-none items-baseline gap-3 px-3 py-1.5">
                    <span className="min-w-0 grow font-bold">{m.name}</span>
                    <span className="whitespace-nowrap">{percent(m.probability)}</span>
                  </summary>
                  <ModeDetails row={m} {...shared} />
                </details>
              </li>
            ))}
          </ul>
        )}
        {beside >= MENTIONED && (
          <p className="px-3 pb-3 text-faint">
            Besides {row.name} something more may be wrong that nothing read speaks for: {few(row.seconds)}; together{" "}
            {percent(beside)} of it.
          </p>
        )}
      </details>
    </li>
  );
}

function few(names: readonly string[]): string {
  return names.length > 4 ? `${names.slice(0, 3).join("; ")} and ${names.length - 3} more` : names.join("; ");
}

function ModeDetails(props: SuspectProps) {
  return (
    <>
      <Overloads row={props.row} />
      <Alike {...props} />
      <Comparison {...props} />
    </>
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

/** Suspects that no reading without dismantling tells from this one, and how to split them. */
function Alike({ row, rows, insight }: SuspectProps) {
  const group = insight?.groups.find((g) => g.members.some((faults) => keyOf(faults) === row.key));
  const keys = new Set(group?.members.map(keyOf));
  const members = rows.filter((r) => keys.has(r.key) && r.probability >= MENTIONED);
  const { others, besides } = alikeOf(row, members, rows);
  if (!group || others.length + besides.length === 0) return null;
  return (
    <p className="px-3 pb-2">
      {others.length > 0 && `No reading without dismantling tells it from: ${others.join("; ")}. `}
      {besides.length > 0 && `No reading would show these beside it: ${besides.join("; ")}. `}
      {group.split && <Split measurement={group.split} />}
    </p>
  );
}

/** What tells them apart, and what comes before it. */
function Split({ measurement }: { measurement: Measurement }) {
  const { how, where } = measurementWords(measurement);
  return (
    <>
      <strong>
        To split them: {how} {where}.
      </strong>{" "}
      {precaution(measurement)}
    </>
  );
}

/** Measured beside predicted, reading by reading, with its weight as evidence. */
function Comparison({ row, readings, ranking, insight }: SuspectProps) {
  const explanation = insight?.explanations.find((e) => e.faults.length > 0 && keyOf(e.faults) === row.key);
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
          {readings.map(({ reading, place }, i) => {
            const unit = UNIT_OF[reading.quantity];
            const said = predictions[i];
            const healthy = ranking.healthy[i];
            return (
              <tr key={`${placeOf(reading)} ${reading.takenAt ?? i}`} className="border-t border-rule align-top">
                <td className="py-1.5 pr-3">{placeOf(reading)}</td>
                <td className="py-1.5 pr-3 whitespace-nowrap">
                  <span className="font-bold">{valueOfReading(reading)}</span>
                  <span className="block text-sm text-faint">
                    {bitsWords(explanation?.bits.find((b) => b.index === place)?.bits)}
                  </span>
                </td>
                <td className="py-1.5 pr-3 whitespace-nowrap">
                  {said ? withLimits(said.value, said.plusMinus, unit) : "–"}
                  {said && (
                    <span className="block">
                      <DeviationBar limits={deviationOf(reading, said, null).limits} />
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
      {explanation && <Total explanation={explanation} />}
    </section>
  );
}

/** The sum of what the readings say. */
function Total({ explanation: { total, rest } }: { explanation: Explanation }) {
  const others = bitsWords(rest);
  return (
    <p className="border-t border-rule pt-2 text-sm text-faint">
      Beside “nothing wrong”, together <strong className="text-ink">{bitsWords(total)}</strong>
      {Math.abs(rest) >= SAYS && <> (of which {others} from what was seen and from how tolerances bend)</>}. Each bit
      doubles or halves the odds; readings that repeat each other share what they say.
    </p>
  );
}
