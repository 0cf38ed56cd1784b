import type { RankInput } from "@hound/core/rank";
import type { ReactNode } from "react";
import { Fold } from "../app/Fold.tsx";
import { supposedOf } from "../board/imagined.ts";
import { useDesk } from "../desk/DeskContext.tsx";
import type { Ranked } from "../ranking/useRanking.ts";
import { OUT_OF_DATE, type RepairRow, repairRows, suspicionClass } from "../session/suspectRows.ts";
import { printFixed } from "../words/print.ts";
import { percent } from "../words/quantities.ts";
import { type ItemProps, MENTIONED, ModeDetails, type SuspectBench } from "./ModeDetails.tsx";
import { Moved } from "./Moved.tsx";
import { OpinionList } from "./Opinions.tsx";
import { RankTrouble } from "./RankTrouble.tsx";
import { CompareTwo, WhyNot } from "./WhyNot.tsx";

/** Stage Suspects: the ranking by repair; each mode with what it says of every reading and every reading of it. */
export function SuspectsStage({ ranked, bench }: { ranked: Ranked; bench: SuspectBench }) {
  const { drawn, readings } = useDesk();
  const { ranking, insight, counts, isCurrent } = ranked;
  if (ranking?.kind === "problem") return <RankTrouble problem={ranking} />;
  if (!drawn || !ranking) return <p className="text-faint">Suspects appear as soon as there is a circuit.</p>;
  const rows = repairRows(ranking, drawn.network);
  const all = rows.flatMap((r) => [...r.modes, ...r.beside]);
  // That nothing is wrong is always among them.
  const isNothing = ({ modes: [{ suspect }] }: RepairRow) => suspect.faults.length === 0 && !suspect.meter;
  const shown = rows.filter((r) => r.probability >= MENTIONED || isNothing(r));
  const rest = {
    count: ranking.repairs.length - new Set(shown.map((r) => r.modes[0].suspect.repair)).size,
    share: Math.max(0, 1 - shown.reduce((sum, r) => sum + r.probability, 0)),
  };
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
          <RepairItem
            key={row.key}
            row={row}
            rows={all}
            readings={numeric}
            ranking={ranking}
            insight={insight}
            bench={bench}
          />
        ))}
      </ol>
      {rest.count > 0 && (
        <p className="mt-3 text-faint">
          {rest.count} more below {printFixed(0.1, 1)}
          {"\u00a0"}%, together {percent(rest.share)}.
        </p>
      )}
      {bench.input && (
        <div className="mt-3 flex flex-col gap-2">
          <OpinionList />
          <WhyNot input={bench.input} ranking={ranking} network={drawn.network} />
          <Question title="Compare two" input={bench.input}>
            {(input) => <CompareTwo input={input} ranking={ranking} network={drawn.network} />}
          </Question>
          <Question title="How it moved" input={bench.input}>
            {(input) => <Moved input={input} />}
          </Question>
        </div>
      )}
    </section>
  );
}

/** One repair; unfolded, the ways in which it may be wrong. */
function RepairItem({ row, ...shared }: ItemProps & { row: RepairRow }) {
  const { select } = useDesk();
  const look = suspicionClass(row.probability);
  const [mode] = row.modes;
  const [fault] = mode.suspect.faults;
  const listed = row.modes.filter((m) => m === mode || m.probability >= MENTIONED);
  return (
    <li className="rounded-lg border border-rule bg-sheet">
      <Fold
        onToggle={(isOpen) => {
          if (isOpen && fault && "part" in fault) select({ kind: "branch", name: fault.part });
          shared.bench.onChoose(isOpen ? supposedOf(mode.suspect.faults) : null);
        }}
        summaryClass="list-none px-3 py-2"
        summary={
          <>
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
          </>
        }
      >
        {() => (
          <>
            {listed.length === 1 ? (
              <ModeDetails row={mode} {...shared} />
            ) : (
              <ul className="flex flex-col gap-1 px-3 pb-3">
                {listed.map((m) => (
                  <li key={m.key} className="rounded-lg border border-rule">
                    <Fold
                      isOpenAtFirst={m === mode}
                      onToggle={(isOpen) => isOpen && shared.bench.onChoose(supposedOf(m.suspect.faults))}
                      summaryClass="flex list-none items-baseline gap-3 px-3 py-1.5"
                      summary={
                        <>
                          <span className="min-w-0 grow font-bold">{m.name}</span>
                          <span className="whitespace-nowrap">{percent(m.probability)}</span>
                        </>
                      }
                    >
                      {() => <ModeDetails row={m} {...shared} />}
                    </Fold>
                  </li>
                ))}
              </ul>
            )}
            {row.besideShare >= MENTIONED && (
              <p className="px-3 pb-3 text-faint">
                {`Besides ${row.name} something more may be wrong that nothing read speaks for: ${few(row.seconds)}; together ${percent(row.besideShare)} of it.`}
              </p>
            )}
          </>
        )}
      </Fold>
    </li>
  );
}

interface QuestionProps {
  readonly title: string;
  readonly input: RankInput;
  readonly children: (input: RankInput) => ReactNode;
}

/** A question to the ranking, asked when it is opened. */
function Question({ title, input, children }: QuestionProps) {
  return (
    <div className="rounded-lg border border-rule bg-sheet px-3 py-2">
      <Fold summary={title} summaryClass="text-lg font-bold">
        {() => children(input)}
      </Fold>
    </div>
  );
}

function few(names: readonly string[]): string {
  return names.length > 4 ? `${names.slice(0, 3).join("; ")} and ${names.length - 3} more` : names.join("; ");
}
