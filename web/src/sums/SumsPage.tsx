import { Copy } from "lucide-react";
import { useState } from "react";
import { NoticeArea, useNotice } from "../app/Notice.tsx";
import { TopBar } from "../app/TopBar.tsx";
import { POCKET_SUMS } from "./sums.ts";
import type { Sum } from "./working.ts";

/** All pocket sums on one page: fill in, read off. */
export function SumsPage() {
  return (
    <NoticeArea>
      <div className="mx-auto max-w-6xl px-4 pb-24">
        <TopBar title="Pocket sums" />
        <p className="mb-4 text-faint">
          Type values as in a trail: 4k7, 12mA, 0,47. Tolerances are two standard deviations and give each result its
          window.
        </p>
        <main className="grid items-start gap-4 md:grid-cols-2 xl:grid-cols-3">
          {POCKET_SUMS.map((sum) => (
            <Card key={sum.id} sum={sum} />
          ))}
        </main>
      </div>
    </NoticeArea>
  );
}

function Card({ sum }: { sum: Sum }) {
  const [fields, setFields] = useState<Readonly<Record<string, string>>>({});
  const notice = useNotice();
  const worked = sum.work(fields);
  const copy = async (text: string) => {
    await navigator.clipboard.writeText(text);
    notice({ text: `Copied ${text}` });
  };
  return (
    <section aria-label={sum.title} className="rounded-xl border border-rule bg-sheet p-4">
      <h2 className="text-xl font-bold">{sum.title}</h2>
      <p className="text-sm text-faint">{sum.about}</p>
      <div className="mt-3 grid grid-cols-2 gap-3">
        {sum.fields.map(({ key, label, hint }) => {
          const isWrong = worked?.kind === "wrong" && worked.field === key;
          return (
            <label key={key} className={`text-sm ${sum.fields.length === 1 ? "col-span-2" : ""}`}>
              {label}
              <input
                value={fields[key] ?? ""}
                placeholder={hint}
                autoComplete="off"
                aria-invalid={isWrong}
                onChange={(e) => setFields({ ...fields, [key]: e.target.value })}
                className={`mt-0.5 w-full rounded-lg border bg-paper px-3 py-2 font-mono text-lg placeholder:text-faint/70 ${isWrong ? "border-wrong" : "border-rule"}`}
              />
              {isWrong && (
                <span role="alert" className="text-wrong">
                  {worked.why}
                </span>
              )}
            </label>
          );
        })}
      </div>
      {worked?.kind === "results" && (
        <dl className="mt-3 border-t border-rule pt-2" aria-label={`Result of ${sum.title}`}>
          {worked.list.map(({ label, text, copy: words, tone }) => (
            <div key={label + text} className="flex items-baseline gap-2 py-0.5">
              <dt className="shrink-0 text-faint">{label}</dt>
              <dd className={`grow text-right text-lg font-bold break-words ${tone === "wrong" ? "text-wrong" : ""}`}>
                {text}
              </dd>
              {words !== undefined && (
                <button
                  type="button"
                  aria-label={`Copy ${words}`}
                  title="Copy for a trail or a reading"
                  onClick={() => copy(words)}
                  className="rounded p-1 text-faint hover:bg-band"
                >
                  <Copy size={16} aria-hidden />
                </button>
              )}
            </div>
          ))}
        </dl>
      )}
    </section>
  );
}
