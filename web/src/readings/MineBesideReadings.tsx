import type { Asked } from "@hound/core/claims";
import { useState } from "react";
import { useConventions } from "../desk/conventions.ts";
import type { Drawn } from "../desk/DeskContext.tsx";
import { Between } from "../expected/MineBeside.tsx";
import { LookAgain, OwnCell } from "../expected/OwnCell.tsx";
import { useClaims } from "../expected/useClaims.ts";
import { useExpected } from "../expected/useExpected.ts";
import { claimName } from "../words/claims.ts";

/** What somebody expects to read, worked out by hand: marked at once, and no reading. */
export function MineBesideReadings({ drawn }: { drawn: Drawn }) {
  const conventions = useConventions();
  const expected = useExpected(drawn.network, conventions);
  const own = useClaims(expected);
  const [picked, setPicked] = useState("");
  const choices = own.places.flatMap((place) => {
    const asked: readonly Asked[] =
      place.kind === "node" ? ["volts"] : place.kind === "composite" ? [] : ["volts", "amps"];
    return asked.flatMap((of) => (place.truth[of] === undefined ? [] : [{ key: `${of} ${place.name}`, place, of }]));
  });
  const one = choices.find((c) => c.key === picked) ?? choices.find((c) => c.place.kind === "node") ?? choices[0];
  if (!one) return <p className="text-faint">There is nothing to work out in this circuit.</p>;
  return (
    <div className="flex flex-col gap-2">
      <p className="text-faint">What a healthy circuit should read, by your own sums. These figures are no readings.</p>
      <p className="flex flex-wrap items-start gap-2">
        <select
          aria-label="Own figure of"
          value={one.key}
          onChange={(e) => setPicked(e.target.value)}
          className="rounded border border-rule bg-sheet px-1.5 py-0.5"
        >
          {choices.map(({ key, place, of }) => (
            <option key={key} value={key}>
              {claimName({ place: place.name, of })}
            </option>
          ))}
        </select>
        <OwnCell key={one.key} own={own} place={one.place} of={one.of} />
      </p>
      <Between expected={expected} own={own} />
      <LookAgain own={own} />
    </div>
  );
}
