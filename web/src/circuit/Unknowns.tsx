import type { Settled } from "@hound/core/rank";
import { placeOf, shown } from "../words/quantities.ts";

/** Values that the trail leaves open, as the readings give them. */
export function Unknowns({ settled }: { settled: Settled }) {
  const { estimates, wanted } = settled;
  return (
    <section aria-label="Unknown values" className="shrink-0 rounded-lg border border-rule bg-sheet px-3 py-2">
      <h2 className="font-bold">Left unknown</h2>
      <ul>
        {estimates.map(({ designator, unit, value, low, high, isSettled }) => (
          <li key={designator}>
            <b>{designator}</b>{" "}
            {isSettled
              ? `is about ${shown(value, unit, 3)} (${shown(low, unit, 3)} to ${shown(high, unit, 3)}), if nothing else is wrong`
              : "cannot be told from the readings yet"}
          </li>
        ))}
      </ul>
      {wanted.length > 0 && (
        <p className="mt-1 text-faint">
          Most would be learnt from{" "}
          {wanted
            .map((r) => (r.quantity === "current" ? `the current ${placeOf(r)}` : `the voltage at ${placeOf(r)}`))
            .join(", or ")}
          .
        </p>
      )}
    </section>
  );
}
