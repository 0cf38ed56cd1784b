import type { Proposal, QuickReading } from "@hound/core/notation";
import type { Suggestion } from "@hound/core/plan";
import { type FormEvent, type RefObject, useId } from "react";

import { nameOfSuspect } from "../../words/faults.ts";
import { withLimits } from "../../words/quantities.ts";
import { useDesk } from "../DeskContext.tsx";

interface QuickLineProps {
  readonly value: string;
  readonly onChange: (text: string) => void;
  readonly understood: QuickReading;
  readonly proposal: Proposal | null;
  readonly expected: string | null;
  /** The suggestion behind the proposal. */
  readonly why: Suggestion | null;
  readonly toSettle: number | null;
  readonly onRecord: () => void;
  readonly field: RefObject<HTMLInputElement | null>;
}

/** One line for a reading, with what was understood of it underneath, live. */
export function QuickLine(props: QuickLineProps) {
  const { value, onChange, understood, proposal, expected, why, toSettle, onRecord, field } = props;
  const echo = useId();
  const submit = (event: FormEvent) => {
    event.preventDefault();
    onRecord();
  };
  return (
    <form onSubmit={submit} className="rounded-xl border-2 border-copper bg-sheet">
      {!proposal && <p className="px-4 pt-3 text-lg text-faint">Working out what to read next …</p>}
      {proposal && (
        <div className="px-4 pt-3">
          <p className="text-lg">
            <span className="text-faint">{proposal.to ? "Next: volts from " : "Next: volts at "}</span>
            <strong className="text-2xl text-copper">
              {proposal.from}
              {proposal.to && ` to ${proposal.to}`}
            </strong>
            {expected && <span className="text-faint"> · healthy {expected}</span>}
          </p>
          {why && <Foretold why={why} toSettle={toSettle} />}
        </div>
      )}
      <div className="flex items-center gap-2 px-4 py-2">
        <input
          ref={field}
          value={value}
          onChange={(e) => {
            performance.mark("hound:typed");
            onChange(e.target.value);
          }}
          aria-label="Reading"
          aria-describedby={echo}
          autoComplete="off"
          autoCapitalize="off"
          spellCheck={false}
          placeholder={proposal ? "7.42, or B-D 3.1" : "B 7.42"}
          className="min-w-0 grow bg-transparent text-3xl font-bold placeholder:font-normal placeholder:text-faint/70 focus:outline-none"
        />
        <button type="submit" className="shrink-0 rounded-lg bg-copper px-4 py-2.5 font-bold text-sheet">
          Record
        </button>
      </div>
      <div id={echo} aria-live="polite" className="min-h-11 border-t border-rule px-4 py-2">
        <Echo understood={understood} onTake={onChange} />
      </div>
    </form>
  );
}

/** What the leading suspects say would be read here, and how far it should lead. */
function Foretold({ why, toSettle }: { why: Suggestion; toSettle: number | null }) {
  const { drawn } = useDesk();
  const kindOf = (part: string) => drawn?.network.branches.find((b) => b.name === part)?.kind;
  const said = why.predictions.slice(0, 3).map(({ faults, prediction }) => ({
    name: faults.length === 0 ? "nothing wrong" : nameOfSuspect({ faults }, kindOf),
    value: withLimits(prediction.value, prediction.plusMinus, "V"),
  }));
  return (
    <div className="mt-1 text-faint">
      <ul aria-label="What one would read there">
        {said.map(({ name, value }) => (
          <li key={name} className="flex justify-between gap-3">
            <span className="min-w-0 truncate">{name}</span>
            <span className="whitespace-nowrap">{value}</span>
          </li>
        ))}
      </ul>
      {toSettle !== null && toSettle > 0 && (
        <p className="mt-1">
          {toSettle} more reading{toSettle === 1 ? "" : "s"} should settle it.
        </p>
      )}
    </div>
  );
}

/** Changes that are made with a soldering iron. */
const NEEDS_POWER_OFF: ReadonlySet<string> = new Set(["lifted", "swapped", "restored", "out", "now"]);

function Echo({ understood, onTake }: { understood: QuickReading; onTake: (text: string) => void }) {
  switch (understood.kind) {
    case "empty":
      return <p className="text-faint">Volts, amperes or ohms: “B 7.42”, “R3 12mA”, “B-D 470ohm”. Enter records.</p>;
    case "reading":
      return <p className="text-lg font-bold">{understood.echo}</p>;
    case "change":
      return (
        <p className="text-lg">
          <strong>{understood.echo}.</strong> Enter logs it.
          {NEEDS_POWER_OFF.has(understood.change.change) && (
            <span className="block text-doubt">Power off and capacitors discharged before a lead comes off.</span>
          )}
        </p>
      );
    case "mistake":
      return (
        <div className="flex flex-wrap items-center gap-2">
          <p className="text-wrong">{understood.message}</p>
          {understood.instead?.map((text) => (
            <button
              key={text}
              type="button"
              className="rounded border border-rule px-2 py-0.5 font-mono hover:bg-band"
              onClick={() => onTake(text)}
            >
              {text}
            </button>
          ))}
        </div>
      );
    default:
      return understood satisfies never;
  }
}
