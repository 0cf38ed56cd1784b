import type { Proposal } from "@hound/core/notation";
import { type FormEvent, type ReactNode, useId } from "react";
import { Spoken } from "../app/Spoken.tsx";
import { useDesk } from "../desk/DeskContext.tsx";
import { useAdvice } from "../session/useAdvice.ts";
import type { ReadingLine } from "../session/useReadingLine.ts";
import { inWords } from "../words/print.ts";
import { Echo } from "./Echo.tsx";
import { onPadKey } from "./numberPad.ts";
import { NOT_YET, Questions } from "./Questions.tsx";

interface QuickLineProps {
  readonly line: ReadingLine;
  readonly onType: (text: string) => void;
  /** Where it is a guest: smaller, and nothing said while it is empty. */
  readonly isCompact?: boolean;
  /** What stands in place of what is understood while nothing is typed. */
  readonly atRest?: ReactNode;
  /** What stands below the line: the line itself keeps its place. */
  readonly children: ReactNode;
}

/** What is typed, as large as it fits the line whole; the line keeps its height. */
function fitting(text: string): string {
  return `h-10 ${text.length <= 16 ? "text-3xl" : text.length <= 24 ? "text-xl" : "text-base"}`;
}

/** One line for a reading, with what was understood of it underneath, live. */
export function QuickLine({ line, onType, isCompact = false, atRest, children }: QuickLineProps) {
  const { typed, understood, steps, record, field } = line;
  const advice = useAdvice(line.point, line.known);
  const { sendTable } = useDesk();
  const echo = useId();
  const asked = <Questions questions={line.questions} onAccept={line.accept} isAsked={line.isAsked} />;
  const isAsking = line.questions.length > 0 && !isCompact;
  const submit = (event: FormEvent) => {
    event.preventDefault();
    record();
  };
  return (
    <form
      onSubmit={submit}
      className="rounded-xl border-2 border-copper bg-sheet has-[input:focus-visible]:outline-2 has-[input:focus-visible]:outline-offset-1 has-[input:focus-visible]:outline-copper"
    >
      <div className={`flex items-center gap-2 px-4 ${isCompact ? "py-1" : "py-2"}`}>
        <Spoken text={understood.kind === "mistake" ? inWords(understood.message) : ""} />
        <input
          ref={field}
          value={typed}
          onChange={(e) => {
            performance.mark("hound:typed");
            onType(e.target.value);
          }}
          onKeyDown={(e) => {
            if (onPadKey(e, line, advice)) e.preventDefault();
          }}
          onPaste={(e) => {
            const text = e.clipboardData.getData("text/plain").trim();
            if (!text.includes("\n")) return;
            e.preventDefault();
            sendTable(text);
          }}
          aria-label="Reading"
          data-line="reading"
          aria-describedby={echo}
          aria-invalid={understood.kind === "mistake"}
          autoComplete="off"
          autoCapitalize="off"
          spellCheck={false}
          placeholder={placeholderFor(steps?.[0]?.proposal ?? null)}
          className={`min-w-0 grow bg-transparent font-bold ${isCompact ? "text-xl" : fitting(typed)} placeholder:font-normal placeholder:text-faint/70 focus:outline-none`}
        />
        <button
          type="submit"
          className={`shrink-0 rounded-lg bg-copper px-4 font-bold text-sheet ${isCompact ? "py-1" : "py-2.5"}`}
        >
          Record
        </button>
      </div>
      <div
        id={echo}
        className={
          isCompact
            ? "px-4"
            : `border-y border-rule px-4 py-1.5 ${understood.kind === "change" ? "min-h-18" : "h-18 overflow-y-auto"}`
        }
      >
        {understood.kind !== "empty" ? <Echo line={line} onTake={onType} /> : atRest}
        {line.isAsked && <p className="font-bold">{NOT_YET}</p>}
        {isCompact && asked}
      </div>
      {/* What is asked stands in the proposal's place: nothing moves, and one thing is said at a time. */}
      <div className="relative">
        <div className={isAsking ? "invisible" : ""}>{children}</div>
        {!isCompact && <div className={isAsking ? "absolute inset-0 overflow-y-auto px-4 py-1.5" : ""}>{asked}</div>}
      </div>
    </form>
  );
}

function placeholderFor(proposal: Proposal | null): string {
  switch (proposal?.quantity) {
    case "voltage":
      return inWords("7.42, or B-D 3.1");
    case "resistance":
      return "470, or OL";
    case "current":
      return inWords("12.4mA");
    case "look":
      return "dark, blown …";
    default:
      return inWords("B 7.42");
  }
}
