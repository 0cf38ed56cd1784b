import { ArrowLeft, CircuitBoard, Copy, Gauge, type LucideIcon } from "lucide-react";
import { useState } from "react";
import { Link, useSearchParams } from "react-router";
import { NoticeArea, NoticeBar, useNotice } from "../app/Notice.tsx";
import type { Sent } from "../app/sent.ts";
import { useKept } from "../desk/useKept.ts";
import { TopBar } from "../frame/TopBar.tsx";
import { inWords } from "../words/print.ts";
import { SendDialog, useSending } from "./SendDialog.tsx";
import { POCKET_SUMS } from "./sums.ts";
import type { Result, Sum } from "./working.ts";

/** All pocket sums on one page: fill in, read off, copy or send to a job (the one that the page was opened from). */
export function SumsPage() {
  const [search] = useSearchParams();
  const job = search.get("job");
  const [asking, setAsking] = useState<Sent | null>(null);
  const sendTo = useSending();
  const send = (sent: Sent) => (job ? sendTo(job, sent) : setAsking(sent));
  return (
    <NoticeArea>
      <div className="mx-auto max-w-6xl px-4 pb-24">
        <TopBar title="Pocket sums" />
        <main>
          {job && (
            <Link
              to={`/jobs/${job}/circuit`}
              className="mb-3 inline-flex items-center gap-2 rounded-lg text-copper underline"
            >
              <ArrowLeft size={20} aria-hidden /> Back to the job
            </Link>
          )}
          <p className="mb-4 text-faint">
            Type values as in a trail: 4k7, 12mA, 0,47. Tolerances are two standard deviations and give each result its
            window.
          </p>
          <div className="grid items-start gap-4 md:grid-cols-2 xl:grid-cols-3">
            {POCKET_SUMS.map((sum) => (
              <Card key={sum.id} sum={sum} onSend={send} />
            ))}
          </div>
        </main>
        {asking && <SendDialog sent={asking} onClose={() => setAsking(null)} />}
      </div>
      <NoticeBar className="fixed inset-x-0 bottom-0 z-40" />
    </NoticeArea>
  );
}

function Card({ sum, onSend }: { sum: Sum; onSend: (sent: Sent) => void }) {
  const { value: fields, set: setFields } = useKept<Readonly<Record<string, string>>>(`sum ${sum.id}`, {});
  const worked = sum.work(fields);
  return (
    <section aria-label={sum.title} className="rounded-xl border border-rule bg-sheet p-4">
      <h2 className="text-xl font-bold">{sum.title}</h2>
      <p className="text-sm text-faint">{sum.about}</p>
      <div className="mt-3 grid grid-cols-2 gap-3">
        {sum.fields.map(({ key, label, hint, lines }) => {
          const isWrong = worked?.kind === "wrong" && worked.field === key;
          const Field = lines ? "textarea" : "input";
          const id = `${sum.id} ${key}`.replaceAll(" ", "-");
          return (
            <label key={key} htmlFor={id} className={`text-sm ${sum.fields.length === 1 || lines ? "col-span-2" : ""}`}>
              {label}
              <Field
                id={id}
                value={fields[key] ?? ""}
                {...(lines ? { rows: 3 } : {})}
                placeholder={hint}
                autoComplete="off"
                aria-invalid={isWrong}
                aria-describedby={isWrong ? `${id}-wrong` : undefined}
                onChange={(e) => setFields({ ...fields, [key]: e.target.value })}
                className={`mt-0.5 w-full rounded-lg border bg-paper px-3 py-2 font-mono text-lg placeholder:text-faint/70 ${isWrong ? "border-wrong" : "border-rule"}`}
              />
              {isWrong && (
                <span id={`${id}-wrong`} role="alert" className="text-wrong">
                  {inWords(worked.why)}
                </span>
              )}
            </label>
          );
        })}
      </div>
      {worked?.kind === "results" && (
        <dl className="mt-3 border-t border-rule pt-2" aria-label={`Result of ${sum.title}`}>
          {worked.list.map((result) => (
            <Line key={result.label + result.text} result={result} onSend={onSend} />
          ))}
        </dl>
      )}
    </section>
  );
}

/** One result, with what can be done with it. */
function Line({ result, onSend }: { result: Result; onSend: (sent: Sent) => void }) {
  const { label, text, copy, part, reading, tone } = result;
  const notice = useNotice();
  const take = async (words: string) => {
    await navigator.clipboard.writeText(words);
    notice({ text: `Copied ${words}` });
  };
  return (
    <div className="flex items-center gap-1 py-0.5">
      <dt className="shrink-0 text-faint">{label}</dt>
      <dd className={`grow text-right text-lg font-bold break-words ${tone === "wrong" ? "text-wrong" : ""}`}>
        {text}
      </dd>
      {copy !== undefined && <Act icon={Copy} does={`Copy ${copy}`} run={() => take(copy)} />}
      {part !== undefined && (
        <Act icon={CircuitBoard} does={`Send ${part} to a circuit`} run={() => onSend({ kind: "part", words: part })} />
      )}
      {reading !== undefined && (
        <Act
          icon={Gauge}
          does={`Use ${reading} as a reading`}
          run={() => onSend({ kind: "reading", words: reading })}
        />
      )}
    </div>
  );
}

function Act({ icon: Icon, does, run }: { icon: LucideIcon; does: string; run: () => void }) {
  return (
    <button
      type="button"
      aria-label={does}
      title={does}
      onClick={run}
      className="shrink-0 rounded-lg p-1.5 text-faint hover:bg-band hover:text-ink"
    >
      <Icon size={18} aria-hidden />
    </button>
  );
}
