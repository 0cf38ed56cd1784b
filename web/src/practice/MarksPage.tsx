import { type Hunt, type MarkedStep, type Marks, TRAPS, type Trap } from "@hound/core/practice";
import type { Job } from "@hound/core/record";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Fragment, useEffect, useState } from "react";
import { Link, Navigate, useParams } from "react-router";
import { huntsApi } from "../api/hunts.ts";
import { jobsApi } from "../api/jobs.ts";
import { Loading } from "../app/Loading.tsx";
import { PaneBoundary, Trouble } from "../app/PageError.tsx";
import { fileName, saveFile } from "../app/saveFile.ts";
import { OpenedDesk } from "../desk/OpenedDesk.tsx";
import { TopBar } from "../frame/TopBar.tsx";
import { measurementWords } from "../words/measurements.ts";
import { actWords, clockWords, endWords, namedWords, truthWords } from "../words/practice.ts";
import { printFixed } from "../words/print.ts";
import { percent, placeOf, valueOfReading } from "../words/quantities.ts";
import type { Marked, MarksAnswer } from "./marks.worker.ts";
import { Replay } from "./Replay.tsx";
import { huntKey, useHunt } from "./useHunt.ts";

/** What a hunt was worth: what was hidden, the way that was gone beside the planner's own, act by act. */
export function MarksPage() {
  const { id = "" } = useParams();
  const { data: hunt, error } = useHunt(id);
  const { data: job } = useQuery({ queryKey: ["hunted", id], queryFn: () => jobsApi.open(id) });
  if (error && !hunt) return <Trouble title="These marks could not be opened" detail={error.message} />;
  if (!hunt || !job) return <Loading what="the marks" />;
  if (hunt.state === "open") return <Navigate to={`/practice/${id}`} replace />;
  return (
    <div className="mx-auto max-w-5xl px-4 pb-24">
      <TopBar title={`Marks: ${hunt.title}`} />
      <main className="flex flex-col gap-4">
        <Summary hunt={hunt} />
        <Worked hunt={hunt} job={job} />
      </main>
    </div>
  );
}

const CARD = "rounded-xl border border-rule bg-sheet px-4 py-3";

function Summary({ hunt }: { hunt: Hunt }) {
  const { truth, namings, now, best } = hunt;
  const last = namings.at(-1);
  return (
    <section aria-label="How it went" className={CARD}>
      <h2 className="text-2xl font-bold">
        {hunt.state === "found" ? "Found: " : "It was: "}
        {truth && truthWords(truth)}
      </h2>
      <p className="text-lg">
        {hunt.title}: {endWords(hunt)}, {clockWords(now.minutes)}
        {best && ` beside ${clockWords(best.minutes)} of the best way`}.
        {hunt.limit !== null && now.minutes > hunt.limit && ` The limit was ${clockWords(hunt.limit)}.`}
        {last && hunt.state === "found" && ` You were sure of it to ${percent(last.sure)}.`}
      </p>
      <p className="mt-2 flex flex-wrap gap-3">
        <Link to="/practice" className="rounded-lg bg-copper px-4 py-2 font-bold text-sheet">
          Another hunt
        </Link>
        <Link to={`/jobs/${hunt.id}/whatif`} className="rounded-lg border border-rule px-4 py-2 hover:bg-band">
          See it in What-if
        </Link>
      </p>
    </section>
  );
}

function Worked({ hunt, job }: { hunt: Hunt; job: Job }) {
  const answer = useMarks(hunt, job);
  const queries = useQueryClient();
  const best = answer && !("kind" in answer) ? answer.best : null;
  const { id, best: kept } = hunt;
  useEffect(() => {
    if (!best || kept) return;
    huntsApi.best(id, { minutes: best.minutes, isRight: best.isRight }).then(
      (next) => {
        queries.setQueryData(huntKey(id), next);
        void queries.invalidateQueries({ queryKey: ["hunts"] });
      },
      () => {},
    );
  }, [best, kept, id, queries]);
  if (!answer)
    return (
      <p role="status" className="p-8 text-lg text-faint">
        Working out what each act was worth, and the best way in the same circuit …
      </p>
    );
  if ("kind" in answer) return <p role="alert">The marks cannot be worked out: {answer.why}.</p>;
  return (
    <>
      <Path marks={answer} namings={hunt.namings} />
      <BestPath best={answer.best} />
      <Mishaps unsafe={answer.unsafe} slips={answer.slips} />
      <PaneBoundary name="The replay">
        <OpenedDesk id={id} what="the board">
          <Replay hunt={hunt} />
        </OpenedDesk>
      </PaneBoundary>
      <p>
        <button
          type="button"
          className="rounded-lg border border-rule px-3 py-1.5 hover:bg-band"
          onClick={() => {
            const file = { format: "clever-hound-hunt", version: 1, trail: job.circuit.trail, meter: job.meter, hunt };
            saveFile(JSON.stringify(file, null, 2), fileName(`hunt ${hunt.title}`, ".json"), "application/json");
          }}
        >
          Save this run as a file
        </button>
      </p>
    </>
  );
}

/** Worked out off the page's own thread. */
function useMarks(hunt: Hunt, job: Job): MarksAnswer | null {
  const [answer, setAnswer] = useState<MarksAnswer | null>(null);
  const { acts } = hunt;
  // biome-ignore lint/correctness/useExhaustiveDependencies: a hunt that is over changes no more, but for its best minutes
  useEffect(() => {
    const worker = new Worker(new URL("./marks.worker.ts", import.meta.url), { type: "module" });
    worker.onmessage = ({ data }: MessageEvent<MarksAnswer>) => setAnswer(data);
    worker.onerror = (event) => setAnswer({ kind: "problem", why: event.message });
    const asked: Marked = { hunt, trail: job.circuit.trail, meter: job.meter, situation: job.situation };
    worker.postMessage(asked);
    return () => worker.terminate();
  }, [acts]);
  return answer;
}

function Path({ marks: { steps, minutes }, namings }: { marks: Marks; namings: Hunt["namings"] }) {
  const wrong = namings.filter((n) => n.took > 0);
  if (steps.length + wrong.length === 0) return <p className="text-faint">Nothing was read.</p>;
  // In the order of the clock; a name was given after what was read at the same minute.
  const rows = [...steps, ...wrong.map((n) => ({ ...n, at: n.minutes }))].sort((a, b) => a.at - b.at);
  return (
    <section aria-label="Your way" className={CARD}>
      <h3 className="text-xl font-bold">Your way: {clockWords(minutes)}</h3>
      <div className="overflow-x-auto">
        <table className="w-full">
          <thead>
            <tr className="text-left text-faint">
              <th className="py-1 pr-3 font-normal">What you did</th>
              <th className="pr-3 font-normal">It took</th>
              <th className="pr-3 font-normal">It told</th>
              <th className="pr-3 font-normal">What leads then</th>
              <th className="font-normal">Better there</th>
            </tr>
          </thead>
          <tbody>
            {rows.map((row, n) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: rows keep their place
              <Fragment key={n}>{"act" in row ? <StepRow step={row} /> : <WrongName naming={row} />}</Fragment>
            ))}
          </tbody>
        </table>
      </div>
      <p className="mt-1 text-sm text-faint">
        A bit halves what is still possible. What tells less than a tenth of one was hardly worth its minutes.
      </p>
    </section>
  );
}

function StepRow({ step }: { step: MarkedStep }) {
  const { bits, after, better } = step;
  const how = better && measurementWords(better.measurement);
  return (
    <tr className="border-t border-rule align-top">
      <th scope="row" className="py-1.5 pr-3 text-left font-bold">
        {actWords(step.act, step.reading)}
        {step.traps.map((t) => (
          <span key={t} className="block text-sm font-normal text-doubt">
            {TRAPS[t]}
          </span>
        ))}
      </th>
      <td className="pr-3 whitespace-nowrap">{clockWords(step.took)}</td>
      <td className="pr-3 whitespace-nowrap">
        {bits === null ? "–" : `${printFixed(Math.abs(bits) < 0.05 ? 0 : bits, 1)} bits`}
      </td>
      <td className="pr-3">
        {namedWords(after.named)} {percent(after.probability)}
        {after.verdict === "settled" && <strong className="block text-sm">settled</strong>}
      </td>
      <td>
        {how && better ? (
          <>
            {how.how} {how.where}
            <span className="block text-sm text-faint">
              {printFixed(better.bits, 1)} bits expected in {clockWords(better.measurement.minutes)}
              {step.expected !== null && `, of yours ${printFixed(step.expected, 1)}`}
            </span>
          </>
        ) : (
          <span className="text-faint">as good as any</span>
        )}
      </td>
    </tr>
  );
}

function WrongName({ naming: { named, sure, took } }: { naming: Hunt["namings"][number] }) {
  return (
    <tr className="border-t border-rule align-top">
      <th scope="row" className="py-1.5 pr-3 text-left font-bold">
        named {namedWords(named)}
      </th>
      <td className="pr-3 whitespace-nowrap">{clockWords(took)}</td>
      <td colSpan={3} className="text-doubt">
        Wrong, and {percent(sure)} sure of it.
      </td>
    </tr>
  );
}

function BestPath({ best }: { best: Marks["best"] }) {
  if (!best) return null;
  return (
    <section aria-label="The best way" className={CARD}>
      <h3 className="text-xl font-bold">What is proposed, in the same circuit: {clockWords(best.minutes)}</h3>
      <ol className="list-decimal pl-6">
        {best.steps.map((step) => {
          const { how, where } = measurementWords(step.measurement);
          return (
            <li key={step.minutes}>
              {how} {where}
              {step.reading && (
                <>
                  : <strong>{`${placeOf(step.reading)} ${valueOfReading(step.reading)}`}</strong>
                </>
              )}
              <span className="text-faint"> at {clockWords(step.minutes)}</span>
            </li>
          );
        })}
      </ol>
      <p>
        Then it names {namedWords(best.named)}
        {best.isRight ? "." : ", and is wrong: chance has its part, for the best way too."}
      </p>
    </section>
  );
}

function Mishaps({ unsafe, slips }: Pick<Marks, "unsafe" | "slips">) {
  const list = (traps: readonly Trap[]) =>
    [...new Set(traps)].map((t) => {
      const times = traps.filter((o) => o === t).length;
      return (
        <li key={t}>
          {times > 1 && `${times} times: `}
          {TRAPS[t]}
        </li>
      );
    });
  return (
    <section aria-label="Unsafe acts and slips" className={CARD}>
      <h3 className="text-xl font-bold">{unsafe.length === 0 ? "Nothing unsafe" : "Unsafe"}</h3>
      {unsafe.length > 0 && <ul className="list-disc pl-6 text-wrong">{list(unsafe)}</ul>}
      {slips.length > 0 && (
        <>
          <h4 className="mt-2 font-bold">Slips</h4>
          <ul className="list-disc pl-6">{list(slips)}</ul>
        </>
      )}
      <p className="mt-2 text-sm text-faint">
        Nobody is hurt here. At a real bench local rules come first, and licensed people where they ask for it.
      </p>
    </section>
  );
}
