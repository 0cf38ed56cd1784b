import { KINDS, type Kind } from "@hound/core/circuit";
import type { Rate, Statistics } from "@hound/core/record";
import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { workshopApi } from "../api/workshop.ts";
import { Loading } from "../app/Loading.tsx";
import { TopBar } from "../frame/TopBar.tsx";
import { modeWords } from "../words/faults.ts";
import { printFixed } from "../words/print.ts";
import { Calibration } from "./Calibration.tsx";

/** What fails here, over all closed jobs: by circuit, by kind of part, and how good the ranking's word was. */
export function FailuresPage() {
  const { data, error } = useQuery({ queryKey: ["statistics"], queryFn: workshopApi.statistics });
  return (
    <div className="mx-auto max-w-4xl px-4 pb-24">
      <TopBar title="What fails here" />
      <main className="flex flex-col gap-4">
        <h2 className="text-2xl font-bold">What fails here</h2>
        {error && <p role="alert">{error.message}.</p>}
        {!data && !error && <Loading what="the figures" />}
        {data && data.closed === 0 && (
          <div className="rounded-xl border border-dashed border-rule p-8 text-center">
            <p className="text-xl font-bold">No closed job yet</p>
            <p className="mt-2 text-faint">Close jobs in their last stage, Repair: what was found is counted here.</p>
          </div>
        )}
        {data && data.closed > 0 && <Figures data={data} />}
      </main>
    </div>
  );
}

/** Of which jobs the middle one's minutes are told. */
function minutesOfWhat(counted: number): string {
  if (counted === 0) return "No job says how long it took.";
  if (counted === 1) return "One job says how long it took.";
  return `The usual job; ${counted} say how long they took.`;
}

const CARD = "rounded-xl border border-rule bg-sheet px-4 py-3";

function Figures({ data }: { data: Statistics }) {
  const { outcomes, closed, minutes, firstRight, circuits, moreCircuits, kinds, calibration } = data;
  const facts = [
    {
      name: "jobs closed",
      value: String(closed),
      more: `${outcomes.found} with a fault found, ${outcomes.nothing} with none, ${outcomes.givenUp} given up.`,
    },
    {
      name: "minutes to the fault",
      value: minutes.median === null ? "–" : printFixed(minutes.median, 0),
      more: minutesOfWhat(minutes.counted),
    },
    {
      name: "times the first suspect was it",
      value: firstRight.of === 0 ? "–" : `${firstRight.times} of ${firstRight.of}`,
      more:
        firstRight.of === 0
          ? "No repair was chosen from the suspects yet."
          : `In the long run in ${between(firstRight)} of jobs.`,
    },
  ];
  return (
    <>
      <dl className="grid gap-3 sm:grid-cols-3">
        {facts.map(({ name, value, more }) => (
          <div key={name} className={CARD}>
            <dt className="text-faint">{name}</dt>
            <dd className="text-3xl font-bold">{value}</dd>
            <dd className="text-sm text-faint">{more}</dd>
          </div>
        ))}
      </dl>
      <section aria-label="By circuit" className={CARD}>
        <h3 className="text-xl font-bold">By circuit</h3>
        <p className="text-faint">
          In how many jobs it was the fault; the bar, and the figures behind it: in the long run.
        </p>
        {circuits.length === 0 && <p className="text-faint">Nothing was found yet.</p>}
        <ul>
          {circuits.map(({ circuit, name, jobs, minutes: mean, parts }) => (
            <li key={circuit} className="border-t border-rule py-2 first:border-0">
              <p className="flex flex-wrap items-baseline gap-x-3">
                <Link
                  to={`/jobs?circuit=${circuit}`}
                  dir="auto"
                  className="text-lg font-bold underline decoration-rule underline-offset-4"
                >
                  {name}
                </Link>
                <span className="text-faint">
                  {jobs} job{jobs === 1 ? "" : "s"}
                  {mean === null ? "" : ` · ${printFixed(mean, 0)} minutes on average`}
                </span>
              </p>
              <ul>
                {parts.map(({ part, mode, rate }) => (
                  <li key={`${part} ${mode}`} className="flex flex-wrap items-center gap-x-3">
                    <Link
                      to={`/jobs?circuit=${circuit}&part=${encodeURIComponent(part)}`}
                      className="w-44 underline decoration-rule underline-offset-4"
                    >
                      {part} {modeWords(mode)}
                    </Link>
                    <RateBar rate={rate} />
                  </li>
                ))}
              </ul>
            </li>
          ))}
        </ul>
        {moreCircuits > 0 && <p className="text-faint">and {moreCircuits} more circuits</p>}
      </section>
      <section aria-label="By kind of part" className={CARD}>
        <h3 className="text-xl font-bold">By kind of part</h3>
        <ul>
          {kinds.map(({ kind, rate, modes }) => (
            <li key={kind} className="border-t border-rule py-1.5 first:border-0">
              <div className="flex flex-wrap items-center gap-x-3">
                <span className="w-44 font-bold">{wordOf(kind)}</span>
                <RateBar rate={rate} />
              </div>
              <p className="text-faint">
                {modes.map((m) => `${modeWords(m.mode)} ${m.rate.times} of ${m.rate.of}`).join(" · ")}
              </p>
            </li>
          ))}
        </ul>
      </section>
      <section aria-label="What was said, and what was so" className={CARD}>
        <h3 className="text-xl font-bold">What was said, and what was so</h3>
        <Calibration classes={calibration} />
      </section>
    </>
  );
}

/** A count of so many, with the interval in which the rate lies. */
function RateBar({ rate }: { rate: Rate }) {
  const { times, of, low, high } = rate;
  return (
    <span className="flex min-w-0 grow items-center gap-3">
      <span className="w-20 shrink-0 text-right font-bold tabular-nums">
        {times} of {of}
      </span>
      <span className="relative h-3 w-40 shrink rounded-full bg-band" aria-hidden>
        <span
          className="absolute h-3 rounded-full bg-rule"
          style={{ left: `${100 * low}%`, width: `${100 * (high - low)}%` }}
        />
        <span
          className="absolute -top-0.5 h-4 w-1 rounded bg-ink"
          style={{ left: `calc(${(100 * times) / Math.max(1, of)}% - 2px)` }}
        />
      </span>
      <span className="text-faint tabular-nums">{between(rate)}</span>
    </span>
  );
}

function between({ low, high }: Rate): string {
  return `${printFixed(100 * low, 0)} to ${printFixed(100 * high, 0)}\u00a0%`;
}

function wordOf(kind: Kind | "bridge"): string {
  const word = kind === "bridge" ? "bridge" : KINDS[kind].word;
  return word.charAt(0).toUpperCase() + word.slice(1);
}
