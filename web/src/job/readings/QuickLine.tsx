import type { Proposal, QuickReading } from "@hound/core/notation";
import { type FormEvent, type ReactNode, useId } from "react";
import { Spoken } from "../../app/Spoken.tsx";
import { inWords } from "../../words/print.ts";
import { differenceWords } from "../../words/slips.ts";
import { onPadKey } from "../bench/numberPad.ts";
import { DoingCautions } from "../cautions.tsx";
import { Questions } from "../coach/Questions.tsx";
import { useAdvice } from "../coach/useAdvice.ts";
import { useDesk } from "../DeskContext.tsx";
import type { ReadingLine } from "./useReadingLine.ts";

interface QuickLineProps {
  readonly line: ReadingLine;
  readonly onType: (text: string) => void;
  /** Where it is a guest: smaller, and nothing said while it is empty. */
  readonly isCompact?: boolean;
  /** What stands below the line: the line itself keeps its place. */
  readonly children: ReactNode;
}

/** One line for a reading, with what was understood of it underneath, live. */
export function QuickLine({ line, onType, isCompact = false, children }: QuickLineProps) {
  const { typed, understood, steps, record, field } = line;
  const advice = useAdvice(line.point, line.known);
  const { sendTable } = useDesk();
  const echo = useId();
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
          className={`min-w-0 grow bg-transparent font-bold ${isCompact ? "text-xl" : "text-3xl"} placeholder:font-normal placeholder:text-faint/70 focus:outline-none`}
        />
        <button
          type="submit"
          className={`shrink-0 rounded-lg bg-copper px-4 font-bold text-sheet ${isCompact ? "py-1" : "py-2.5"}`}
        >
          Record
        </button>
      </div>
      <div id={echo} className={isCompact ? "px-4" : "min-h-11 border-y border-rule px-4 py-2"}>
        {line.sum ? (
          <SumAnswered sum={line.sum} />
        ) : (
          !(isCompact && understood.kind === "empty") && <Echo understood={understood} onTake={onType} />
        )}
      </div>
      <Questions questions={line.questions} onAccept={line.accept} />
      <div className={isCompact ? "-mt-2 pb-2" : "pb-3"}>{children}</div>
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

function SumAnswered({ sum }: { sum: NonNullable<ReadingLine["sum"]> }) {
  if (sum.kind === "mistake") return <p className="text-wrong">{inWords(sum.message)}</p>;
  const { left, right, plusMinus, unit, missing } = sum.answer;
  return (
    <p role="status" className="text-lg">
      <strong>{differenceWords(left, right, plusMinus, unit)}</strong>
      {missing.length > 0 && (
        <span className="block text-base text-faint">
          As a healthy circuit has it: nothing was read of {missing.join(", ")}.
        </span>
      )}
    </p>
  );
}

/** Changes that are made with a soldering iron. */
const NEEDS_POWER_OFF: ReadonlySet<string> = new Set(["lifted", "swapped", "restored", "out", "now"]);

function Echo({ understood, onTake }: { understood: QuickReading; onTake: (text: string) => void }) {
  switch (understood.kind) {
    case "empty":
      return (
        <p className="text-faint">
          {inWords("Volts, amperes or ohms: “B 7.42”, “R3 12mA”, “B-D 470ohm”; a note behind #. Enter records.")}
        </p>
      );
    case "reading":
      return <p className="text-lg font-bold">{inWords(understood.echo)}</p>;
    case "change":
      return (
        <p className="text-lg">
          <strong>{inWords(understood.echo)}.</strong> Enter logs it.
          {NEEDS_POWER_OFF.has(understood.change.change) && (
            <span className="block">
              <DoingCautions
                doing={{ kind: "lift", ...("part" in understood.change ? { part: understood.change.part } : {}) }}
              />
            </span>
          )}
        </p>
      );
    case "mistake":
      return (
        <div className="flex flex-wrap items-center gap-2">
          <p className="text-wrong">{inWords(understood.message)}</p>
          {understood.instead?.map((text) => (
            <button
              key={text}
              type="button"
              className="rounded border border-rule px-2 py-0.5 font-mono hover:bg-band"
              onClick={() => onTake(inWords(text))}
            >
              {inWords(text)}
            </button>
          ))}
        </div>
      );
    default:
      return understood satisfies never;
  }
}
