import type { Advice } from "@hound/core/coach";
import { UNIT_OF } from "@hound/core/record";
import { writeQuantity } from "@hound/core/units";
import { ChevronDown, ChevronRight } from "lucide-react";
import { useOnDevice } from "../app/device.ts";
import { useDesk } from "../desk/DeskContext.tsx";
import { Cautions } from "../session/cautions.tsx";
import { doingAt } from "../session/doingAt.ts";
import { useAdvice } from "../session/useAdvice.ts";
import { useMeterInUse } from "../session/useMeterInUse.ts";
import type { ReadingLine } from "../session/useReadingLine.ts";
import { adviceLine, leadWords, rangeWords } from "../words/coach.ts";
import { kindsIn, nameOfSuspect } from "../words/faults.ts";
import { inWords, print } from "../words/print.ts";
import { shown, withLimits } from "../words/quantities.ts";
import { CurrentStepList } from "./CurrentStepList.tsx";
import { MeterFace } from "./MeterFace.tsx";

/** How to take the next reading: dial, sockets, leads, range, what to expect, what to mind. Folds to one line. */
export function CoachCard({ line }: { line: ReadingLine }) {
  const [open, setOpen] = useOnDevice("coach", "open");
  const advice = useAdvice(line.point, line.known);
  // A look needs no meter, and the same care.
  if (!advice) return <Cautions place="coach" />;
  const isOpen = open === "open";
  const Mark = isOpen ? ChevronDown : ChevronRight;
  return (
    <section aria-label="Meter" className="rounded-xl border border-rule bg-sheet">
      <button
        type="button"
        aria-expanded={isOpen}
        className="flex w-full items-center gap-2 px-3 py-2 text-left"
        onClick={() => setOpen(isOpen ? "folded" : "open")}
      >
        <Mark size={18} className="shrink-0 text-faint" aria-hidden />
        <span className="min-w-0 grow">{adviceLine(advice)}</span>
      </button>
      {isOpen ? (
        <div className="flex flex-col gap-3 px-4 pb-4">
          <div className="flex flex-wrap gap-4">
            <MeterFace advice={advice} />
            <div className="flex min-w-40 grow basis-0 flex-col gap-2">
              <MeterChoice advice={advice} />
              <p className="text-lg">
                <Lead colour="red" words={leadWords(advice.red.at)} />
                <Lead colour="black" words={leadWords(advice.black.at)} />
              </p>
              <p className="text-faint">{rangeWords(advice, line.known.told?.highest ?? 0)}</p>
              {line.understood.kind === "reading" && <Expected line={line} advice={advice} />}
            </div>
          </div>
          {advice.ohms && <OhmsTips advice={advice} />}
          {line.current && <CurrentStepList steps={line.current} advice={advice} />}
          <Cautions place="coach" doing={doingAt(line.point, line.known, advice)} />
        </div>
      ) : (
        <div className="flex flex-col gap-2 px-4 pb-2">
          {line.current?.isBegun && <CurrentStepList steps={line.current} advice={advice} />}
          <Cautions place="coach" doing={doingAt(line.point, line.known, advice)} />
        </div>
      )}
    </section>
  );
}

function Lead({ colour, words }: { colour: "red" | "black"; words: string }) {
  return (
    <span className="mr-4 inline-flex items-baseline gap-2">
      <span aria-hidden className={`inline-block h-3 w-6 rounded-full ${colour === "red" ? "bg-wrong" : "bg-ink"}`} />
      <span className="text-faint">{colour} to</span> <strong>{words}</strong>
    </span>
  );
}

/** Which of several meters is in hand, and the range it is set to: said, or told by the digits. */
function MeterChoice({ advice: { meter, quantity } }: { advice: Advice }) {
  const { names, name, use, rangeOf, setRange } = useMeterInUse();
  return (
    <div className="flex flex-wrap gap-x-4 gap-y-1">
      {names.length > 1 && (
        <label className="flex items-center gap-2">
          With
          <select value={name} onChange={(e) => use(e.target.value)} className={SELECT}>
            {names.map((n) => (
              <option key={n} value={n}>
                {n || "the job’s meter"}
              </option>
            ))}
          </select>
        </label>
      )}
      {meter.dial === "ranges" && (
        <label className="flex items-center gap-2">
          Set to
          <select value={rangeOf(quantity)} onChange={(e) => setRange(quantity, e.target.value)} className={SELECT}>
            <option value="">as the digits tell</option>
            {meter.ranges[quantity].map(({ span }) => (
              <option key={span} value={`${writeQuantity(span)}${UNIT_OF[quantity]}`}>
                {print(span, UNIT_OF[quantity])}
              </option>
            ))}
          </select>
        </label>
      )}
    </div>
  );
}

const SELECT = "min-w-0 rounded-lg border border-rule bg-sheet px-2 py-1";

/** Of what is typed: what the leading suspects show there, with its sign. Of a proposal that is said beside it. */
function Expected({ line, advice }: { line: ReadingLine; advice: Advice }) {
  const { drawn } = useDesk();
  const kindOf = kindsIn(drawn?.network);
  const unit = UNIT_OF[advice.quantity];
  const leading = line.known.told?.leading ?? [];
  return (
    <ul aria-label="To be expected" className="text-faint">
      {leading.map(({ faults, prediction }) => {
        const name = faults.length === 0 ? "nothing wrong" : nameOfSuspect({ faults }, kindOf);
        return (
          <li key={name} className="flex justify-between gap-3">
            <span className="min-w-0 truncate">{name}</span>
            <span className="whitespace-nowrap">{withLimits(prediction.value, prediction.plusMinus, unit)}</span>
          </li>
        );
      })}
    </ul>
  );
}

function OhmsTips({ advice: { ohms } }: { advice: Advice }) {
  if (!ohms) return null;
  const { inCircuit, parallel, leads, withFingers } = ohms;
  return (
    <ul className="list-disc pl-5">
      {leads > 0 && (
        <li>
          Leads together first: about {print(leads, "ohm")}; type{" "}
          <span className="font-mono">{inWords(`leads ${writeQuantity(leads)}ohm`)}</span>, or null the meter.
        </li>
      )}
      {inCircuit && (
        <li className="text-doubt">
          In circuit it shows {shown(inCircuit.shown, "ohm", 3)}, not {inCircuit.part}’s own{" "}
          {shown(inCircuit.own, "ohm", 3)}: {parallel.join(", ")} {parallel.length === 1 ? "lies" : "lie"} beside it.
          Lift a lead of {inCircuit.part} for its own.
        </li>
      )}
      {withFingers !== null && (
        <li>Fingers off the tips: with a body beside it, it would show {shown(withFingers, "ohm", 3)}.</li>
      )}
    </ul>
  );
}
