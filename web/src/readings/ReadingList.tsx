import type { ReadingVerdict } from "@hound/core/rank";
import { type Reading, UNIT_OF } from "@hound/core/record";
import { useMemo, useState } from "react";
import { useOnDevice } from "../app/device.ts";
import { useDesk } from "../desk/DeskContext.tsx";
import { healthyAt } from "../session/healthy.ts";
import { placeOf, shown } from "../words/quantities.ts";
import { DOUBTFUL, ReadingRow } from "./ReadingRow.tsx";

/** Rows that are shown until all are asked for: of a job, and of one point in it. */
const SHOWN = 60;
const SHOWN_OF_POINT = 5;

/** As many are always in sight. */
const LAST = 3;

/** Readings, newest first, each against what a healthy circuit would show: the last three, and all when asked for. */
export function ReadingList({ verdicts }: { verdicts: readonly ReadingVerdict[] }) {
  const { readings, drawn, meter, state } = useDesk();
  const [kept, keep] = useOnDevice("readingsShown", "last");
  const isOpen = kept === "all";
  const [order, setOrder] = useOnDevice("readingsBy", "time");
  const [isAll, setIsAll] = useState(false);
  const expected = useMemo(() => {
    const numeric = readings.flatMap(({ id, reading }) =>
      reading.quantity === "observation" ? [] : [{ id, reading }],
    );
    const found = drawn
      ? healthyAt(
          drawn.network,
          numeric.map((n) => n.reading),
          meter,
        )
      : [];
    return new Map(numeric.flatMap(({ id }, i) => (found[i] ? [[id, found[i]] as const] : [])));
  }, [drawn, readings, meter]);
  if (readings.length === 0)
    return (
      <div className="h-36 shrink-0 overflow-y-auto">
        {state.job.complaint && (
          <p dir="auto" className="break-words whitespace-pre-line">
            “{state.job.complaint}”
          </p>
        )}
        <p className="text-faint">No readings yet.</p>
      </div>
    );
  const places = readings.map(({ reading }) => placeOf(reading));
  const ordinals = ordinalsOf(places);
  const verdictAt = new Map(verdicts.map((v) => [v.index, v]));
  const rows = readings.map((item, index) => ({
    // Volts and ohms of two nodes are no spread of each other.
    point: `${item.reading.quantity} ${places[index]}`,
    place: places[index],
    reading: item.reading,
    row: (
      <ReadingRow
        key={item.id}
        item={item}
        number={index + 1}
        which={ordinals[index]}
        expected={expected.get(item.id)}
        verdict={verdictAt.get(index)}
        isBrief={!isOpen}
      />
    ),
  }));
  const byPoint = new Map<string, (typeof rows)[number][]>();
  for (const row of rows) byPoint.set(row.point, [...(byPoint.get(row.point) ?? []), row]);
  const repeated = byPoint.size < rows.length;
  const hidden = isAll ? 0 : Math.max(0, rows.length - SHOWN);
  const doubted = verdicts.filter((v) => v.blunderProbability > DOUBTFUL && v.index < rows.length - LAST).length;
  const summary = (
    <div className="flex h-6 items-center justify-between gap-3 text-faint">
      <span className="min-w-0 truncate">{isOpen ? "All readings" : "Last readings, expected beside"}</span>
      <button
        type="button"
        aria-expanded={isOpen}
        className="shrink-0 underline hover:text-ink"
        onClick={() => keep(isOpen ? "last" : "all")}
      >
        {isOpen ? "the last three" : `${doubted > 0 ? `${doubted} of them mis-taken? ` : ""}all ${rows.length}`}
      </button>
    </div>
  );
  if (!isOpen)
    return (
      <section className="shrink-0">
        {summary}
        <ul className="min-h-30" aria-label="Readings">
          {rows
            .slice(-LAST)
            .reverse()
            .map((r) => r.row)}
        </ul>
      </section>
    );
  return (
    <div className="flex flex-col gap-2">
      {summary}
      {repeated && (
        <label className="flex items-center gap-2 self-end">
          <input
            type="checkbox"
            checked={order === "point"}
            onChange={(e) => setOrder(e.target.checked ? "point" : "time")}
            className="size-5 accent-copper"
          />
          By point
        </label>
      )}
      {repeated && order === "point" ? (
        <ul className="flex flex-col gap-4" aria-label="Readings by point">
          {[...byPoint].map(([point, own]) => (
            <li key={point}>
              <h3 className="mb-1 font-bold">
                {own[0].place} <span className="font-normal text-faint">{spreadWords(own.map((r) => r.reading))}</span>
              </h3>
              <ul className="flex flex-col gap-2">
                {(hidden > 0 ? own.slice(-SHOWN_OF_POINT) : own).map((r) => r.row)}
              </ul>
            </li>
          ))}
        </ul>
      ) : (
        <ul className="flex flex-col gap-2" aria-label="Readings">
          {rows
            .slice(hidden)
            .reverse()
            .map((r) => r.row)}
        </ul>
      )}
      {hidden > 0 && (
        <button
          type="button"
          onClick={() => setIsAll(true)}
          className="self-start rounded-lg border border-rule px-3 py-1.5 hover:bg-band"
        >
          Show all {rows.length} readings
        </button>
      )}
    </div>
  );
}

/** Of several readings of one point: how many, their middle, and how far they lie apart. */
function spreadWords(readings: readonly Reading[]): string {
  const numeric = readings.flatMap((r) => (r.quantity === "observation" || r.beyond ? [] : [r]));
  if (numeric.length < 2) return "";
  const values = numeric.map((r) => r.value);
  const mean = values.reduce((s, v) => s + v, 0) / values.length;
  const unit = UNIT_OF[numeric[0].quantity];
  const apart = Math.max(...values) - Math.min(...values);
  return `${values.length} times, on average ${shown(mean, unit)}, ${shown(Number(apart.toPrecision(3)), unit, 3)} apart`;
}

const ORDINALS = ["first", "second", "third", "fourth", "fifth", "sixth", "seventh", "eighth", "ninth", "tenth"];

/** Of places that are the same, which one each is, in the order taken; "" where there is one. */
function ordinalsOf(places: readonly string[]): readonly string[] {
  const all = new Map<string, number>();
  for (const place of places) all.set(place, (all.get(place) ?? 0) + 1);
  const seen = new Map<string, number>();
  return places.map((place) => {
    const n = seen.get(place) ?? 0;
    seen.set(place, n + 1);
    return all.get(place) === 1 ? "" : (ORDINALS[n] ?? `${n + 1}th`);
  });
}
