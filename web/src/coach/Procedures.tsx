import type { Kind } from "@hound/core/circuit";
import { deadLoadsOf, deadSignOf } from "@hound/core/coach";
import type { Outcome, ProcedureStep } from "@hound/core/judgement";
import type { RepairStep } from "@hound/core/rank";
import { SEEN, UNIT_OF } from "@hound/core/record";
import { type KeyboardEvent, useEffect, useRef, useState } from "react";
import { isPlain } from "../app/letterKeys.ts";
import { useDesk } from "../desk/DeskContext.tsx";
import type { BenchQuestion } from "../ranking/messages.ts";
import { DoingCautions } from "../session/cautions.tsx";
import type { ReadingLine } from "../session/useReadingLine.ts";
import { kindsIn } from "../words/faults.ts";
import { doingOf, measurementWords, minutesWords } from "../words/measurements.ts";
import { percent, withLimits } from "../words/quantities.ts";

interface Led {
  readonly title: string;
  readonly question: BenchQuestion;
  /** The load that does nothing; null where a repair is proved. */
  readonly load: string | null;
}

/** For those who want to be led: one measurement that proves what leads, and the sequence for a load that stays dead. */
export function Procedures({ line }: { line: ReadingLine }) {
  const { drawn } = useDesk();
  const [led, setLed] = useState<Led | null>(null);
  const { ranked } = line;
  const loads = drawn ? deadLoadsOf(drawn.network) : [];
  if (!drawn || ranked.ranking?.kind !== "ranking") return null;
  return (
    <details className="rounded-lg border border-rule bg-sheet px-4 py-3">
      <summary>
        <strong>Be led</strong>
      </summary>
      <div className="mt-3 flex flex-wrap gap-2">
        <button
          type="button"
          className={BUTTON}
          onClick={() => setLed({ title: "To prove it in one step", question: { of: "proof" }, load: null })}
        >
          Prove it in one step
        </button>
        {loads.map((part) => (
          <button
            key={part}
            type="button"
            className={BUTTON}
            onClick={() => setLed({ title: `${part} does nothing`, question: { of: "deadLoad", part }, load: part })}
          >
            {part} does nothing
          </button>
        ))}
      </div>
      {led && <Sequence key={led.title} led={led} line={line} />}
    </details>
  );
}

const BUTTON = "rounded-lg border border-rule px-3 py-1.5 hover:bg-band";

/** The steps as the ranking stands; asked anew whenever something was recorded. */
function Sequence({ led, line }: { led: Led; line: ReadingLine }) {
  const { ranked, steps: planned, say } = line;
  const { ask, isCurrent } = ranked;
  const { drawn, readings } = useDesk();
  const [found, setFound] = useState<{ readonly steps: readonly ProcedureStep[]; readonly of: number } | null>(null);
  const steps = found?.steps ?? null;
  // What was recorded since is not among them; a plan that is only better weighed leaves a key what it says.
  const recorded = readings.length;
  const isOld = found !== null && found.of !== recorded;
  const section = useRef<HTMLElement>(null);
  const { question } = led;
  useEffect(() => {
    if (!planned || !isCurrent) return;
    let isGone = false;
    ask(question).then((answer) => {
      if (isGone) return;
      const next = answer?.of === "procedure" ? answer.steps : [];
      setFound((before) => ({
        of: recorded,
        steps: before?.of === recorded ? withSameFirst(before.steps, next) : next,
      }));
    });
    return () => {
      isGone = true;
    };
  }, [planned, ask, question, isCurrent, recorded]);
  useEffect(() => section.current?.focus(), []);
  const now = steps?.find((s) => !s.isDone);
  const { load } = led;
  const kind = load === null ? undefined : kindsIn(drawn?.network)(load);
  const lines = now && load !== null && kind ? now.outcomes.map((o) => lineOf(o, now, load, kind)) : [];
  const record = (text: string | null) => {
    if (text === null || isOld) return;
    say(text);
    section.current?.focus();
  };
  const onKey = (event: KeyboardEvent) => {
    const text = isPlain(event) ? lines[Number(event.key) - 1] : undefined;
    if (text === undefined) return;
    event.preventDefault();
    record(text);
  };
  return (
    <section ref={section} tabIndex={-1} aria-label={led.title} onKeyDown={onKey} className="mt-3 outline-none">
      <h3 className="font-bold">{led.title}</h3>
      {(!steps || isOld) && <p className="text-faint">Working it out …</p>}
      {steps?.length === 0 && <p>No step on offer tells anything more.</p>}
      <ol className={`mt-1 flex list-decimal flex-col gap-3 pl-6 ${isOld ? "opacity-60" : ""}`}>
        {steps?.map((step) => (
          <Step
            key={JSON.stringify(step.measurement)}
            step={step}
            lines={step === now ? lines : []}
            onSay={isOld ? null : record}
          />
        ))}
      </ol>
    </section>
  );
}

/** The steps with that one first whose turn it was: a hand may be on its way to its key. */
function withSameFirst(before: readonly ProcedureStep[], next: readonly ProcedureStep[]): readonly ProcedureStep[] {
  const keyOf = (step: ProcedureStep) => JSON.stringify(step.measurement);
  const turn = before.find((s) => !s.isDone);
  const same = turn && next.find((s) => !s.isDone && keyOf(s) === keyOf(turn));
  if (!same) return next;
  const done = next.filter((s) => s.isDone);
  return [...done, same, ...next.filter((s) => !s.isDone && s !== same)];
}

interface StepProps {
  readonly step: ProcedureStep;
  /** What is recorded by each outcome; empty where it is not this one's turn. */
  readonly lines: readonly (string | null)[];
  readonly onSay: ((line: string | null) => void) | null;
}

function Step({ step: { measurement, outcomes, isDone }, lines, onSay }: StepProps) {
  const { how, where } = measurementWords(measurement);
  return (
    <li className={isDone ? "text-faint" : ""}>
      <span className="text-lg">
        {isDone && "Done: "}
        {how} <strong>{where}</strong>
      </span>{" "}
      <span className="text-faint">{minutesWords(measurement.minutes)}</span>{" "}
      <DoingCautions doing={doingOf(measurement)} />
      <ul>
        {outcomes.map((outcome, i) => {
          const line = lines[i] ?? null;
          const words = outcomeWords(outcome, measurement);
          return (
            <li key={JSON.stringify(outcome.of)} className="flex flex-wrap items-center justify-between gap-x-4">
              {line === null ? (
                <span>{words}</span>
              ) : (
                <button
                  type="button"
                  disabled={onSay === null}
                  className="my-0.5 rounded-lg border border-copper px-3 py-1.5 font-bold hover:bg-band"
                  onClick={() => onSay?.(line)}
                >
                  <kbd className="mr-2 font-normal text-faint">{i + 1}</kbd>
                  {words}
                </button>
              )}
              <span className="text-faint">
                {outcome.leads.map((l) => `${repairWords(l.repair)} ${percent(l.probability)}`).join(", ")}
              </span>
            </li>
          );
        })}
      </ul>
    </li>
  );
}

/** What an outcome is, as it would be typed; null where a meter has to say it. */
function lineOf({ of }: Outcome, { measurement }: ProcedureStep, load: string, kind: Kind): string | null {
  if (!("part" in measurement)) return null;
  const dead = deadSignOf(kind);
  switch (of.kind) {
    case "seen":
      return `${measurement.part} ${measurement.kind === "alone" ? "alone " : ""}${of.seen}`;
    case "cured":
      return `${measurement.part} swapped, ${load} works`;
    case "notCured":
      return dead && `${measurement.part} swapped, ${load} still ${dead}`;
    case "reads":
      return null;
    default:
      return of satisfies never;
  }
}

function outcomeWords({ of }: Outcome, measurement: ProcedureStep["measurement"]): string {
  switch (of.kind) {
    case "seen":
      return SEEN[of.seen];
    case "cured":
      return "works then";
    case "notCured":
      return "as before";
    case "reads":
      return "reading" in measurement
        ? `near ${withLimits(of.value, of.plusMinus, UNIT_OF[measurement.reading.quantity])}`
        : "";
    default:
      return of satisfies never;
  }
}

function repairWords(repair: readonly RepairStep[]): string {
  if (repair.length === 0) return "nothing wrong";
  return repair.map((s) => ("part" in s ? s.part : `${s.nodes[0]} bridged to ${s.nodes[1]}`)).join(" and ");
}
