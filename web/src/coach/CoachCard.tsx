import type { Advice } from "@hound/core/coach";
import { UNIT_OF } from "@hound/core/record";
import { writeQuantity } from "@hound/core/units";
import { ChevronDown, ChevronRight } from "lucide-react";
import { useOnDevice } from "../app/device.ts";
import { useKeys } from "../app/useKeys.ts";
import { Cautions } from "../session/cautions.tsx";
import { doingAt } from "../session/doingAt.ts";
import { useAdvice } from "../session/useAdvice.ts";
import { useMeterInUse } from "../session/useMeterInUse.ts";
import type { ReadingLine } from "../session/useReadingLine.ts";
import { adviceLine, afterwardsWords, leadWords, rangeWords } from "../words/coach.ts";
import { inWords, print } from "../words/print.ts";
import { shown } from "../words/quantities.ts";
import { CurrentStepList } from "./CurrentStepList.tsx";
import { MeterFace } from "./MeterFace.tsx";

/** Whether the coach stands in full, on this device. */
function useUnfolded(): [boolean, () => void] {
  const [kept, keep] = useOnDevice("coach", "folded");
  return [kept === "open", () => keep(kept === "open" ? "folded" : "open")];
}

interface CoachLineProps {
  readonly line: ReadingLine;
  /** What is said below instead of what may come; "" for nothing else. */
  readonly help: string;
}

/** How to take the next reading, in one line: dial, sockets, leads. A press or Alt+C unfolds the rest. */
export function CoachLine({ line, help }: CoachLineProps) {
  const advice = useAdvice(line.point, line.known);
  const [isOpen, turn] = useUnfolded();
  if (!line.point) return <p className="text-faint">{help}</p>;
  if (!advice) return <p className="text-bench text-faint">…</p>;
  const Mark = isOpen ? ChevronDown : ChevronRight;
  return (
    <button type="button" aria-expanded={isOpen} className="flex w-full items-start gap-1 text-left" onClick={turn}>
      <Mark size={18} className="mt-1 shrink-0 text-faint" aria-hidden />
      <span className="min-w-0 grow">
        <span className="block truncate text-bench">{adviceLine(advice)}</span>
        <span className="block truncate text-bench text-faint">{help || afterwardsWords(advice, advice.highest)}</span>
      </span>
    </button>
  );
}

/** The coach in full where it is unfolded; what is dangerous, and a branch in hand, in any case. */
export function CoachCard({ line }: { line: ReadingLine }) {
  const advice = useAdvice(line.point, line.known);
  const [isOpen, turn] = useUnfolded();
  useKeys((event) => {
    if (!event.altKey || event.ctrlKey || event.code !== "KeyC") return;
    event.preventDefault();
    turn();
  });
  // A look needs no meter, and the same care.
  if (!advice) return <Cautions place="coach" />;
  return (
    <>
      <Cautions place="coach" doing={doingAt(line.point, line.known, advice)} />
      {isOpen ? (
        <section aria-label="Meter" className="flex flex-col gap-3 rounded-xl border border-rule bg-sheet px-4 py-3">
          <div className="flex flex-wrap gap-4">
            <MeterFace advice={advice} />
            <div className="flex min-w-40 grow basis-0 flex-col gap-2">
              <MeterChoice advice={advice} />
              <p className="text-lg">
                <Lead colour="red" words={leadWords(advice.red.at)} />
                <Lead colour="black" words={leadWords(advice.black.at)} />
              </p>
              <p className="text-faint">{rangeWords(advice, advice.highest)}</p>
            </div>
          </div>
          {advice.ohms && <OhmsTips advice={advice} />}
          {line.current && <CurrentStepList steps={line.current} advice={advice} />}
        </section>
      ) : (
        line.current && <CurrentStepList steps={line.current} advice={advice} isBrief />
      )}
    </>
  );
}

function Lead({ colour, words }: { colour: "red" | "black"; words: string }) {
  return (
    <span className="mr-4 inline-flex items-baseline gap-2">
      <span aria-hidden className={`inline-block h-3 w-6 rounded-full border lead-${colour}`} />
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
            <option value="">told by the digits typed</option>
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

function OhmsTips({ advice: { ohms } }: { advice: Advice }) {
  if (!ohms) return null;
  const { inCircuit, parallel, leads, blind, withFingers } = ohms;
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
      {blind !== null && (
        <li>
          An ohms range stays below the knee of {blind}: a good one shows OL either way, a shorted or leaking one does
          not. The diode test shows what it drops: {inWords(`${blind} diode`)}.
        </li>
      )}
      {withFingers !== null && (
        <li>Fingers off the tips: with a body beside it, it would show {shown(withFingers, "ohm", 3)}.</li>
      )}
    </ul>
  );
}
