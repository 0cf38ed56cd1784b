import type { Asked } from "@hound/core/claims";
import { madeBy, type Step } from "@hound/core/reduce";
import { claimName } from "../words/claims.ts";
import { LookAgain, OwnCell } from "./OwnCell.tsx";
import { headOf } from "./steps.tsx";
import { useClaims } from "./useClaims.ts";
import type { Expected } from "./useExpected.ts";

/** The reduction worked out by oneself: each step with its reason, and cells where its figures would stand. */
export function MineInSteps({ expected }: { expected: Expected }) {
  const { reduction, back } = expected;
  const own = useClaims(expected);
  const cells = (names: readonly string[], of: readonly Asked[]) =>
    names.flatMap((name) => {
      const place = own.places.find((p) => p.name === name);
      return of.flatMap((one) => (place?.truth[one] === undefined ? [] : [{ place, of: one }]));
    });
  const steps = [
    ...reduction.steps.map((step) => ({
      key: keyOf(step),
      head: headOf(step),
      why: step.why,
      cells: cells(namesIn(step), ["ohms"]),
    })),
    ...(back
      ? [
          {
            key: "supply",
            head: "The supply sees one resistance",
            why: "what it drives through all of it is the whole current",
            cells: cells(["Total"], ["ohms", "amps"]),
          },
        ]
      : []),
    ...(back?.steps ?? []).map(({ step, why, parts }) => ({
      key: `back ${keyOf(step)}`,
      head: `Back: ${namesIn(step).join(", ")}`,
      why,
      cells: cells(
        parts.map((p) => p.item.name),
        ["volts", "amps"],
      ),
    })),
  ];
  return (
    <>
      <p>
        Type what each step makes: it is marked at once. The figures and the folded board are out of sight meanwhile.
      </p>
      <ol className="flex list-decimal flex-col gap-2 pl-6" aria-label="Own steps">
        {steps.map(({ key, head, why, cells: own_ }) => (
          <li key={key} className="border-t border-rule pt-2">
            <p>
              <b>{head}</b>: {why}.
            </p>
            <p className="mt-1 flex flex-wrap gap-x-4 gap-y-2">
              {own_.map(({ place, of }) => (
                <span key={`${of} ${place.name}`} className="flex items-start gap-1.5">
                  <span className="pt-1">{claimName({ place: place.name, of })}</span>
                  <OwnCell own={own} place={place} of={of} />
                </span>
              ))}
            </p>
          </li>
        ))}
      </ol>
      <LookAgain own={own} />
    </>
  );
}

const namesIn = (step: Step) => madeBy(step).map((item) => item.name);
const keyOf = (step: Step) => namesIn(step)[0];
