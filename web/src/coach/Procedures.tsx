import { deadLoadsOf } from "@hound/core/coach";
import type { Outcome, ProcedureStep } from "@hound/core/judgement";
import type { RepairStep } from "@hound/core/rank";
import { SEEN, UNIT_OF } from "@hound/core/record";
import { useState } from "react";
import { useDesk } from "../desk/DeskContext.tsx";
import type { BenchQuestion } from "../ranking/messages.ts";
import { DoingCautions } from "../session/cautions.tsx";
import type { ReadingLine } from "../session/useReadingLine.ts";
import { doingOf, measurementWords, minutesWords } from "../words/measurements.ts";
import { percent, withLimits } from "../words/quantities.ts";

/** For those who want to be led: one measurement that proves what leads, and the sequence for a load that stays dead. */
export function Procedures({ line }: { line: ReadingLine }) {
  const { drawn } = useDesk();
  const [shown, setShown] = useState<{ title: string; steps: readonly ProcedureStep[] | null; of: unknown } | null>(
    null,
  );
  const { ranked, steps: planned } = line;
  const loads = drawn ? deadLoadsOf(drawn.network) : [];
  const show = (title: string, question: BenchQuestion) => {
    setShown({ title, steps: null, of: planned });
    ranked.ask(question).then((answer) => {
      if (answer?.of === "procedure") setShown({ title, steps: answer.steps, of: planned });
      else setShown({ title, steps: [], of: planned });
    });
  };
  if (!drawn || ranked.ranking?.kind !== "ranking") return null;
  return (
    <details className="rounded-lg border border-rule bg-sheet px-4 py-3">
      <summary>
        <strong>Be led</strong>
      </summary>
      <div className="mt-3 flex flex-wrap gap-2">
        <button type="button" className={BUTTON} onClick={() => show("To prove it in one step", { of: "proof" })}>
          Prove it in one step
        </button>
        {loads.map((part) => (
          <button
            key={part}
            type="button"
            className={BUTTON}
            onClick={() => show(`${part} does nothing`, { of: "deadLoad", part })}
          >
            {part} does nothing
          </button>
        ))}
      </div>
      {shown && (
        <section aria-label={shown.title} className="mt-3">
          <h3 className="font-bold">{shown.title}</h3>
          {!shown.steps && <p className="text-faint">Working it out …</p>}
          {shown.steps?.length === 0 && <p>No step on offer tells anything more.</p>}
          {shown.of !== planned && shown.steps && (
            <p className="text-doubt">Something was read since: press it again for how it stands now.</p>
          )}
          <ol className="mt-1 flex list-decimal flex-col gap-3 pl-6">
            {shown.steps?.map((step) => (
              <Step key={JSON.stringify(step.measurement)} step={step} />
            ))}
          </ol>
        </section>
      )}
    </details>
  );
}

const BUTTON = "rounded-lg border border-rule px-3 py-1.5 hover:bg-band";

function Step({ step: { measurement, outcomes, isDone } }: { step: ProcedureStep }) {
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
        {outcomes.map((outcome) => (
          <li key={JSON.stringify(outcome.of)} className="flex flex-wrap justify-between gap-x-4">
            <span>{outcomeWords(outcome, measurement)}</span>
            <span className="text-faint">
              {outcome.leads.map((l) => `${repairWords(l.repair)} ${percent(l.probability)}`).join(", ")}
            </span>
          </li>
        ))}
      </ul>
    </li>
  );
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
