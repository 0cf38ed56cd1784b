import { EXAMPLE_CIRCUIT } from "@hound/core/help";
import { useRef } from "react";
import { useKept } from "../desk/useKept.ts";
import type { LINE_TOPICS, LineTopic } from "./topics.ts";
import { understood } from "./understood.ts";

/** A topic of lines that can be typed: a field to try them in, and every one with an example that a click puts there. */
export function Lines({ topic }: { topic: (typeof LINE_TOPICS)[LineTopic] }) {
  const { language, groups, lead } = topic;
  const { value: typed, set: setTyped } = useKept(`help ${language}`, "");
  const field = useRef<HTMLTextAreaElement>(null);
  const answer = understood(language, typed);
  const tryLine = (line: string) => {
    setTyped(line);
    field.current?.focus();
  };
  return (
    <>
      <p>{lead}</p>
      <div className="sticky top-0 z-10 rounded-xl border border-rule bg-sheet px-4 py-3">
        <label className="flex flex-wrap items-center gap-x-3 gap-y-1">
          <span>Try it here; nothing is recorded</span>
          <textarea
            ref={field}
            value={typed}
            rows={language === "trail" ? 2 : 1}
            spellCheck={false}
            onChange={(e) => setTyped(e.target.value)}
            className="min-w-64 grow resize-y rounded-lg border border-field bg-paper px-3 py-2 font-mono text-xl"
          />
        </label>
        <p role="status" className={`mt-1 min-h-7 ${answer.isMistake ? "text-wrong" : "font-bold"}`}>
          {answer.words}
        </p>
      </div>
      {language !== "trail" && (
        <p className="text-faint">
          The examples are about this circuit:{" "}
          <span className="font-mono break-words">{EXAMPLE_CIRCUIT.split("\n").slice(1).join(" · ")}</span>
        </p>
      )}
      <div className="gap-x-10 lg:columns-2">
        {groups.map(({ title, phrases }) => (
          <section key={title} aria-label={title} className="mb-4">
            <h3 className="break-after-avoid font-bold">{title}</h3>
            <ul>
              {phrases.map(({ line, means }) => (
                <li key={line} className="break-inside-avoid border-t border-rule py-1 first:border-0">
                  <button
                    type="button"
                    onClick={() => tryLine(line)}
                    className="rounded px-1 text-left font-mono whitespace-pre-wrap break-words underline decoration-rule underline-offset-4 hover:bg-band"
                  >
                    {line}
                  </button>{" "}
                  <span className={`text-faint ${line.includes("\n") ? "block" : ""}`}>{means}</span>
                </li>
              ))}
            </ul>
          </section>
        ))}
      </div>
    </>
  );
}
