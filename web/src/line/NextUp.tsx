import type { Suggestion } from "@hound/core/plan";
import { SEEN, UNIT_OF } from "@hound/core/record";
import { Ban, Hourglass, type LucideIcon } from "lucide-react";
import { useDesk } from "../desk/DeskContext.tsx";
import { DoingCautions } from "../session/cautions.tsx";
import type { NextStep } from "../session/proposal.ts";
import { kindsIn, nameOfSuspect } from "../words/faults.ts";
import { doingOf, measurementWords, minutesWords } from "../words/measurements.ts";
import { calledWords } from "../words/points.ts";
import { withLimits } from "../words/quantities.ts";

interface NextUpProps {
  /** The best first; null while they are being worked out. */
  readonly steps: readonly NextStep[] | null;
  /** True where the readings cannot be ranked, so that nothing can be worked out. */
  readonly isStopped: boolean;
  /** Where the job stands already: further readings are for who wants them. */
  readonly isSettled: boolean;
  /** Where suspects are looked at, only what comes next. */
  readonly isBrief: boolean;
  readonly healthy: string | null;
  readonly onChoose: (key: string) => void;
  readonly onPutOff: (key: string, how: "never" | "later") => void;
  /** Words for the reading line, of what is logged and not read. */
  readonly onTake: (words: string) => void;
}

/** What to measure next: the best in large, two more to choose from, and what can be put off. */
export function NextUp({ steps, isStopped, isSettled, isBrief, healthy, onChoose, onPutOff, onTake }: NextUpProps) {
  if (isStopped)
    return (
      <p className="px-4 pt-3 text-lg text-faint">What to read next cannot be worked out: see what is wrong below.</p>
    );
  if (!steps) return <p className="px-4 pt-3 text-lg text-faint">Working out what to read next …</p>;
  const [first, ...others] = steps;
  if (!first)
    return (
      <p className="px-4 pt-3 text-lg text-faint">
        {isSettled ? "Nothing more has to be read." : "No measurement on offer tells any more."}
      </p>
    );
  const { how, where } = measurementWords(first.measurement);
  const { measurement } = first;
  return (
    <div className="px-4 pt-3">
      <div className="flex items-start gap-2">
        <p className="min-w-0 grow text-lg">
          <span className="text-faint">
            {isSettled ? "At leisure" : "Next"}: {how}{" "}
          </span>
          <strong className="text-2xl text-copper">{where}</strong>
          <Called measurement={first.measurement} />
          {healthy && <span className="text-faint"> · healthy {healthy}</span>}
        </p>
        <Aside label="Not now" icon={Hourglass} onClick={() => onPutOff(first.key, "later")} />
        <Aside label="Cannot reach that" icon={Ban} onClick={() => onPutOff(first.key, "never")} />
      </div>
      {(isBrief || !("reading" in measurement)) && (
        <p>
          <DoingCautions doing={doingOf(measurement)} />
        </p>
      )}
      {"part" in measurement && measurement.kind === "swap" && (
        <button
          type="button"
          className="mt-1 rounded-lg border border-rule px-3 py-1 hover:bg-band"
          onClick={() => onTake(`${measurement.part} swapped`)}
        >
          It is in: {measurement.part} swapped
        </button>
      )}
      {first.why && !isBrief && <Foretold why={first.why} isSettled={isSettled} />}
      {others.length > 0 && !isBrief && (
        <ul aria-label="Or" className="mt-1.5 flex flex-wrap gap-x-2 gap-y-1">
          {others.map(({ key, measurement: other }) => {
            const words = measurementWords(other);
            return (
              <li key={key}>
                <button
                  type="button"
                  className="rounded-lg border border-rule px-2.5 py-1 text-faint hover:bg-band hover:text-ink"
                  onClick={() => onChoose(key)}
                >
                  or {words.how} <strong className="text-ink">{words.where}</strong> · {minutesWords(other.minutes)}
                </button>
              </li>
            );
          })}
        </ul>
      )}
    </div>
  );
}

/** What the points are called where one probes them. */
function Called({ measurement }: { measurement: NextStep["measurement"] }) {
  const { drawn } = useDesk();
  if (!drawn || !("reading" in measurement) || measurement.reading.quantity === "current") return null;
  const { from, to } = measurement.reading;
  const words = [from, to].flatMap((n) => (n === undefined ? [] : calledWords(drawn.written, n) || []));
  return words.length === 0 ? null : <span dir="auto"> ({words.join("; ")})</span>;
}

function Aside({ label, icon: Icon, onClick }: { label: string; icon: LucideIcon; onClick: () => void }) {
  return (
    <button
      type="button"
      className="shrink-0 rounded-lg p-1.5 text-faint hover:bg-band hover:text-ink"
      aria-label={label}
      title={label}
      onClick={onClick}
    >
      <Icon size={18} aria-hidden />
    </button>
  );
}

/** What the leading suspects say would be read or seen here, and what it is worth. */
function Foretold({ why, isSettled }: { why: Suggestion; isSettled: boolean }) {
  const { drawn } = useDesk();
  const kindOf = kindsIn(drawn?.network);
  const { measurement } = why;
  const unit = "reading" in measurement ? UNIT_OF[measurement.reading.quantity] : null;
  const nameOf = (faults: (typeof why.predictions)[number]["faults"]) =>
    faults.length === 0 ? "nothing wrong" : nameOfSuspect({ faults }, kindOf);
  const said =
    unit === null
      ? (why.looks ?? []).map(({ faults, seen }) => ({ name: nameOf(faults), value: SEEN[seen] }))
      : why.predictions.map(({ faults, prediction }) => ({
          name: nameOf(faults),
          value: withLimits(prediction.value, prediction.plusMinus, unit),
        }));
  return (
    <div className="mt-1 text-faint">
      <ul aria-label="What one would read there">
        {said.slice(0, 3).map(({ name, value }) => (
          <li key={name} className="flex justify-between gap-3">
            <span className="min-w-0 truncate">{name}</span>
            <span className="whitespace-nowrap">{value}</span>
          </li>
        ))}
      </ul>
      <p>
        {minutesWords(why.measurement.minutes)}
        {!isSettled && why.settles > 0.005 && `, ${Math.round(why.settles * 100)} in 100 that it settles the job`}
      </p>
    </div>
  );
}
