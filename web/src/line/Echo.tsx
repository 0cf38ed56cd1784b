import { DoingCautions } from "../session/cautions.tsx";
import type { ReadingLine } from "../session/useReadingLine.ts";
import { inWords } from "../words/print.ts";
import { withLimits } from "../words/quantities.ts";
import { differenceWords } from "../words/slips.ts";

/** Changes that are made with a soldering iron. */
const NEEDS_POWER_OFF: ReadonlySet<string> = new Set(["lifted", "swapped", "restored", "out", "now"]);

interface EchoProps {
  readonly line: ReadingLine;
  readonly onTake: (text: string) => void;
}

/** What is understood of the line: a reading, a change, a sum that is asked for; or what is wrong, and what was meant. */
export function Echo({ line: { understood, sum }, onTake }: EchoProps) {
  if (sum) return <SumAnswered sum={sum} />;
  switch (understood.kind) {
    case "asked":
      return (
        <p className="text-bench">
          <strong>Next: {inWords(understood.echo)}.</strong> Enter makes it the proposal.
        </p>
      );
    case "empty":
      return null;
    case "reading":
      return <p className="text-bench font-bold">{inWords(understood.echo)}</p>;
    case "change":
      return (
        <p className="text-bench">
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

function SumAnswered({ sum }: { sum: NonNullable<ReadingLine["sum"]> }) {
  if (sum.kind === "mistake") return <p className="text-wrong">{inWords(sum.message)}</p>;
  const { left, right, plusMinus, unit, missing, isEmpty } = sum.answer;
  if (isEmpty)
    return (
      <p role="status" className="text-bench">
        <strong>That says nothing</strong>: both sides are made of the same readings. Read each drop across its part.
      </p>
    );
  return (
    <p role="status" className="text-bench">
      <strong>{differenceWords(left, right, plusMinus, unit)}</strong>
      {missing.length > 0 && (
        <span className="block text-faint">
          {missing.map((m) => `${m.name} not read; drawn ${withLimits(m.value, m.plusMinus, "V")}`).join(". ")}.
        </span>
      )}
    </p>
  );
}
