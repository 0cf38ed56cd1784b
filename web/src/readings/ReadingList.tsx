import type { ReadingVerdict } from "@hound/core/rank";
import { type Reading, UNIT_OF } from "@hound/core/record";
import { useMemo } from "react";
import { useOnDevice } from "../app/device.ts";
import { useDesk } from "../desk/DeskContext.tsx";
import { healthyAt } from "../session/healthy.ts";
import { placeOf, shown } from "../words/quantities.ts";
import { ReadingRow } from "./ReadingRow.tsx";

/** Readings, newest first, each against what a healthy circuit would show. */
export function ReadingList({ verdicts }: { verdicts: readonly ReadingVerdict[] }) {
  const { readings, drawn, meter } = useDesk();
  const [order, setOrder] = useOnDevice("readingsBy", "time");
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
      <p className="py-4 text-faint">No readings yet. The line above says where to start, and what to expect there.</p>
    );
  const places = readings.map(({ reading }) => placeOf(reading));
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
        which={ordinalAt(places, index)}
        expected={expected.get(item.id)}
        verdict={verdicts.find((v) => v.index === index)}
      />
    ),
  }));
  const points = [...new Set(rows.map((r) => r.point))];
  const repeated = points.length < rows.length;
  return (
    <div className="flex flex-col gap-2">
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
          {points.map((point) => {
            const own = rows.filter((r) => r.point === point);
            return (
              <li key={point}>
                <h3 className="mb-1 font-bold">
                  {own[0].place}{" "}
                  <span className="font-normal text-faint">{spreadWords(own.map((r) => r.reading))}</span>
                </h3>
                <ul className="flex flex-col gap-2">{own.map((r) => r.row)}</ul>
              </li>
            );
          })}
        </ul>
      ) : (
        <ul className="flex flex-col gap-2" aria-label="Readings">
          {[...rows].reverse().map((r) => r.row)}
        </ul>
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

/** Of places that are the same, which one it is, in the order taken. */
function ordinalAt(places: readonly string[], index: number): string {
  const same = places.flatMap((p, i) => (p === places[index] ? [i] : []));
  return same.length < 2 ? "" : (ORDINALS[same.indexOf(index)] ?? `${same.indexOf(index) + 1}th`);
}
