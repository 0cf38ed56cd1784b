import type { RankInput, Ranking } from "@hound/core/rank";
import { situationOf } from "@hound/core/record";
import { useMemo, useState } from "react";
import { useConventions } from "../desk/conventions.ts";
import { type Drawn, useDesk } from "../desk/DeskContext.tsx";
import { useSame } from "../desk/useSame.ts";
import { useHabits } from "../ranking/useHabits.ts";
import { type Ranked, useRanking } from "../ranking/useRanking.ts";
import { headlineOf } from "../readings/WhereItStands.tsx";
import { Cautions } from "../session/cautions.tsx";
import { keyOf, type RepairRow, repairRows } from "../session/suspectRows.ts";
import { bitsWords, SAYS } from "../words/bits.ts";
import { percent, placeOf, valueOfReading } from "../words/quantities.ts";
import { standingWords } from "../words/standing.ts";
import { ReadingsTaken } from "./MeasuredSheet.tsx";
import { SheetBoard } from "./SheetBoard.tsx";
import { type SheetProps, useReady } from "./sheetProps.ts";

/** Suspects that stand on a sheet, and the least they must have. */
const SHOWN = { most: 5, least: 0.005 } as const;

/** The whole job on paper: what was complained of, board and readings, leading suspects with reasons, the finding. */
export function JobSheet({ drawn, width, onReady }: SheetProps) {
  const { state } = useDesk();
  const { complaint, finding, standing } = state.job;
  const ranked = useSheetRanking(drawn);
  const { ranking } = ranked;
  const isProblem = ranking?.kind === "problem";
  useReady(isProblem || (ranked.isCurrent && ranked.judgement !== null), onReady);
  const stands = standingWords(standing);
  return (
    <>
      <section className="break-inside-avoid">
        <h2 className="text-[13pt] font-bold">Complaint</h2>
        <p dir="auto" className="break-words whitespace-pre-line">
          {complaint || "None was written down."}
        </p>
      </section>
      <SheetBoard
        drawn={drawn}
        width={width}
        withReadings
        ranking={ranking?.kind === "ranking" && ranked.isCurrent ? ranking : null}
      />
      {stands.length > 0 && <p>How it stands now: {stands.join(", ")}.</p>}
      <ReadingsTaken />
      <section>
        <h2 className="text-[13pt] font-bold">Leading suspects</h2>
        {ranked.judgement && ranking?.kind === "ranking" && (
          <p>Where it stands: {headlineOf(ranked.judgement.verdict, repairRows(ranking, drawn.network))}.</p>
        )}
        {isProblem && <p>They cannot be ranked: {ranking.message}.</p>}
        {ranking === null || !ranked.isCurrent ? (
          <p>Working them out …</p>
        ) : (
          ranking.kind === "ranking" && <Suspects drawn={drawn} ranking={ranking} ranked={ranked} />
        )}
      </section>
      <section className="break-inside-avoid">
        <h2 className="text-[13pt] font-bold">What it was</h2>
        {finding ? (
          <p dir="auto" className="break-words whitespace-pre-line">
            {finding}
          </p>
        ) : (
          <Lines />
        )}
      </section>
      <p className="break-inside-avoid text-[9.5pt]">A ranking weighs what was read; it proves nothing.</p>
      <Cautions place="print" className="break-inside-avoid text-[9.5pt]" />
    </>
  );
}

function useSheetRanking(drawn: Drawn): Ranked {
  const { state, readings, meter } = useDesk();
  const { attack } = useConventions();
  const { job } = state;
  const { priors: habits } = useHabits(drawn.circuit);
  const situation = situationOf(job, readings);
  const wanted = useMemo(
    (): RankInput => ({
      circuit: drawn.circuit,
      readings: readings.map((r) => ({ ...r.reading, takenAt: undefined })),
      meter,
      priors: job.priors,
      ...(habits ? { habits } : {}),
      situation,
      standing: job.standing,
    }),
    [drawn, readings, meter, job.priors, habits, situation, job.standing],
  );
  const [onJudged] = useState(() => () => {});
  return useRanking(useSame(wanted), true, job.standing, attack, onJudged);
}

function Suspects({ drawn, ranking, ranked }: { drawn: Drawn; ranking: Ranking; ranked: Ranked }) {
  const rows = repairRows(ranking, drawn.network)
    .filter((row, i) => i === 0 || row.probability >= SHOWN.least)
    .slice(0, SHOWN.most);
  return (
    <ol className="text-[10.5pt]">
      {rows.map((row) => (
        <li key={row.key} className="flex gap-3 break-inside-avoid border-b border-rule py-1.5">
          <span className="w-20 shrink-0 text-right font-bold">{percent(row.probability)}</span>
          <div>
            <p className="font-bold">
              {row.modes[0].name}
              {row.modes[0].estimate && <span className="font-normal">, {row.modes[0].estimate}</span>}
            </p>
            <Reasons row={row} ranked={ranked} />
          </div>
        </li>
      ))}
    </ol>
  );
}

/** The readings that say most for and against it, beside “nothing wrong”. */
function Reasons({ row, ranked }: { row: RepairRow; ranked: Ranked }) {
  const { readings } = useDesk();
  const [mode] = row.modes;
  const found = ranked.insight?.explanations.find((e) => e.faults.length > 0 && keyOf(e.faults) === mode.key);
  if (!found) return null;
  const says = found.bits
    .filter((b) => Math.abs(b.bits) >= SAYS)
    .sort((a, b) => Math.abs(b.bits) - Math.abs(a.bits))
    .slice(0, 4)
    .flatMap(({ index, bits }) => {
      const reading = readings[index]?.reading;
      return reading ? [`${placeOf(reading)} ${valueOfReading(reading)}: ${bitsWords(bits)}`] : [];
    });
  return says.length === 0 ? null : <p>{says.join(" · ")}</p>;
}

/** Room to write by hand. */
function Lines() {
  return (
    <div aria-hidden className="flex flex-col">
      {["found", "replaced", "proved"].map((word) => (
        <span key={word} className="h-9 border-b border-ink pt-4 text-[9.5pt] text-faint">
          {word}
        </span>
      ))}
    </div>
  );
}
