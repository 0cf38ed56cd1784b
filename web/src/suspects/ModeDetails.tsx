import type { Judgement } from "@hound/core/judgement";
import { deviationOf } from "@hound/core/measure";
import type { Measurement } from "@hound/core/plan";
import type { Explanation, RankInput, Ranking } from "@hound/core/rank";
import { type NumericReading, UNIT_OF } from "@hound/core/record";
import type { Supposed } from "@hound/core/whatif";
import { useMemo } from "react";
import { DeviationBar } from "../app/DeviationBar.tsx";
import { supposedOf } from "../board/imagined.ts";
import { useDesk } from "../desk/DeskContext.tsx";
import type { Insight } from "../ranking/messages.ts";
import { DoingCautions } from "../session/cautions.tsx";
import { alikeOf, keyOf, type SuspectRow } from "../session/suspectRows.ts";
import { bitsWords, SAYS } from "../words/bits.ts";
import { doingOf, measurementWords } from "../words/measurements.ts";
import { printFixed } from "../words/print.ts";
import { placeOf, shown, valueOfReading, withLimits } from "../words/quantities.ts";
import { Distribution } from "./Distribution.tsx";
import { DotLegend, DotPlot } from "./DotPlot.tsx";
import { OpinionForm } from "./Opinions.tsx";
import { Proof } from "./Proof.tsx";

/** Suspects below this are folded away. */
export const MENTIONED = 0.001;

/** What the stage knows beside the ranking. */
export interface SuspectBench {
  readonly input: RankInput | null;
  readonly judgement: Judgement | null;
  /** Shows faults on the board, or none. */
  readonly onChoose: (faults: readonly Supposed[] | null) => void;
  /** Opens faults in stage What-if. */
  readonly onSuppose: (faults: readonly Supposed[]) => void;
}

export interface ItemProps {
  /** Every suspect there is. */
  readonly rows: readonly SuspectRow[];
  readonly readings: readonly { readonly reading: NumericReading; readonly place: number }[];
  readonly ranking: Ranking;
  readonly insight: Insight | null;
  readonly bench: SuspectBench;
}

export type SuspectProps = ItemProps & { readonly row: SuspectRow };

/** Why one suspect stands where it stands, and what can be done about it. */
export function ModeDetails(props: SuspectProps) {
  const { row, readings, ranking, insight, bench } = props;
  const { suspect } = row;
  const { drawn } = useDesk();
  const supposed = useMemo(() => supposedOf(suspect.faults), [suspect]);
  const explanation = insight?.explanations.find((e) => e.faults.length > 0 && keyOf(e.faults) === row.key);
  const which = suspect.faults.findIndex((f) => "part" in f && f.value !== undefined);
  const valued = suspect.faults[which];
  if (!drawn) return null;
  const { network } = drawn;
  const [fault] = suspect.faults;
  const branch = fault && "part" in fault ? network.branches.find((b) => b.name === fault.part) : undefined;
  return (
    <div className="flex flex-col gap-2 px-3 pb-3">
      {suspect.faults.length > 0 && (
        <Proof judgement={bench.judgement} repair={ranking.repairs[suspect.repair]?.repair ?? []} />
      )}
      <Overloads row={row} />
      <Alike {...props} />
      {readings.length > 0 && suspect.predictions.length > 0 && (
        <>
          <DotPlot readings={readings} says={suspect.predictions} healthy={ranking.healthy} explanation={explanation} />
          <DotLegend />
        </>
      )}
      {supposed && bench.input && valued && "part" in valued && readings.length > 0 && (
        <Distribution
          input={bench.input}
          supposed={supposed}
          which={which}
          middle={[valued.low ?? 0, valued.high ?? 0]}
        />
      )}
      <Comparison {...props} />
      {supposed && supposed.length > 0 && (
        <button
          type="button"
          onClick={() => bench.onSuppose(supposed)}
          className="self-start rounded-lg border border-suspect px-3 py-1.5 font-bold text-suspect hover:bg-band"
        >
          See it in What-if
        </button>
      )}
      {branch && (
        <OpinionForm
          part={branch.part.designator}
          kind={branch.kind}
          probability={ranking.repairs[suspect.repair]?.probability ?? 0}
        />
      )}
    </div>
  );
}

/** What this suspect would do to its neighbours: cause and consequence are replaced together. */
function Overloads({ row }: { row: SuspectRow }) {
  const { overloads } = row.suspect;
  if (overloads.length === 0) return null;
  return (
    <p className="text-doubt">
      It would run{" "}
      {overloads
        .slice(0, 4)
        .map(({ part, of, value, rating }) => {
          const unit = of === "current" ? "A" : "W";
          return `${part} at ${shown(value, unit, 2)}, ${printFixed(value / rating, 1)} times its rating`;
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
    <p>
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
      <DoingCautions doing={doingOf(measurement)} />
    </>
  );
}

/** Measured beside predicted, reading by reading, with its weight as evidence. */
function Comparison({ row, readings, ranking, insight }: SuspectProps) {
  const explanation = insight?.explanations.find((e) => e.faults.length > 0 && keyOf(e.faults) === row.key);
  if (readings.length === 0) return <p className="text-faint">No reading speaks for or against it yet.</p>;
  const { predictions } = row.suspect;
  return (
    <section className="overflow-x-auto" tabIndex={0} aria-label={`Readings against ${row.name}`}>
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
