import type { ReadingVerdict } from "@hound/core/rank";
import { useMemo } from "react";
import { placeOf } from "../../words/quantities.ts";
import { useDesk } from "../DeskContext.tsx";
import { healthyAt } from "./healthy.ts";
import { ReadingRow } from "./ReadingRow.tsx";

/** Readings, newest first, each against what a healthy circuit would show. */
export function ReadingList({ verdicts }: { verdicts: readonly ReadingVerdict[] }) {
  const { readings, drawn, meter } = useDesk();
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
  return (
    <ul className="flex flex-col gap-2" aria-label="Readings">
      {readings
        .map((item, index) => ({ item, index, verdict: verdicts.find((v) => v.index === index) }))
        .reverse()
        .map(({ item, index, verdict }) => (
          <ReadingRow
            key={item.id}
            item={item}
            number={index + 1}
            which={ordinalAt(places, index)}
            expected={expected.get(item.id)}
            verdict={verdict}
          />
        ))}
    </ul>
  );
}

const ORDINALS = ["first", "second", "third", "fourth", "fifth", "sixth", "seventh", "eighth", "ninth", "tenth"];

/** Of places that are the same, which one it is, in the order taken. */
function ordinalAt(places: readonly string[], index: number): string {
  const same = places.flatMap((p, i) => (p === places[index] ? [i] : []));
  return same.length < 2 ? "" : (ORDINALS[same.indexOf(index)] ?? `${same.indexOf(index) + 1}th`);
}
