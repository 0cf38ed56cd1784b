import { meterData } from "@hound/core/record";
import { checkOf, isGoodPart, type Replacement, replacementsFor } from "@hound/core/repair";
import { parseQuantity } from "@hound/core/units";
import { Check, TriangleAlert } from "lucide-react";
import { type FormEvent, useMemo, useState } from "react";
import { type Drawn, useDesk } from "../desk/DeskContext.tsx";
import { useKept } from "../desk/useKept.ts";
import { print } from "../words/print.ts";
import { checkWords, loadWords, orderWords, standardWords } from "../words/repair.ts";
import type { RepairBench } from "./useRepairWork.ts";

/** For every part that is replaced: what to ask for, what it has to bear, and its check before it goes in. */
export function PartsToFit({ bench, drawn }: { bench: RepairBench; drawn: Drawn }) {
  const { mend } = bench;
  const found = useMemo(() => {
    const parts = mend.flatMap((s) => ("part" in s ? [s.part] : []));
    const estimates = drawn.settled?.estimates ?? [];
    return replacementsFor(drawn.settled?.circuit ?? drawn.circuit, drawn.network, parts, estimates);
  }, [mend, drawn]);
  if (found.length === 0) return null;
  return (
    <section aria-label="Parts to fit" className="flex flex-col gap-2">
      {found.map((one) => (
        <PartToFit key={one.part.designator} one={one} bench={bench} />
      ))}
    </section>
  );
}

function PartToFit({ one, bench }: { one: Replacement; bench: RepairBench }) {
  const { part, rated, startsHard, value } = one;
  const { designator } = part;
  const load = loadWords(one);
  const sold = standardWords(one);
  const isLamp = part.kind === "lamp" && rated !== null;
  return (
    <article aria-label={`New ${designator}`} className="rounded-xl border border-rule bg-sheet px-4 py-3">
      <h3 className="text-xl font-bold">
        New {designator}: {orderWords({ ...one, isLamp })}
      </h3>
      {value?.isEstimate && (
        <p className="text-doubt">The drawing does not say its value: the readings make it this.</p>
      )}
      {load && (
        <p className={load.isWarning ? "flex gap-2 text-doubt" : "text-faint"}>
          {load.isWarning && <TriangleAlert size={20} className="mt-0.5 shrink-0" aria-hidden />}
          <span>{load.words}</span>
        </p>
      )}
      {sold && <p>{sold}</p>}
      {startsHard && (
        <p className="text-faint">
          Lamps or windings start through it: a quick fuse may go at switching on. The kind as drawn.
        </p>
      )}
      <NewPartCheck one={one} bench={bench} />
      <Fitted part={designator} bench={bench} />
    </article>
  );
}

/** The new part on the meter before it goes in. */
function NewPartCheck({ one, bench }: { one: Replacement; bench: RepairBench }) {
  const { state } = useDesk();
  const { meter, standing } = state.job;
  const { designator } = one.part;
  const check = useMemo(() => checkOf(one.part, meterData(meter)), [one.part, meter]);
  const { value: text, set: setText, forget } = useKept(`new ${designator} shows ${state.job.id}`, "");
  const [why, setWhy] = useState<string | null>(null);
  if (!check) return null;
  const shown = bench.work?.checks[designator];
  const submit = (event: FormEvent) => {
    event.preventDefault();
    const read = parseQuantity(text);
    if (read.kind === "mistake") return setWhy(text.trim() === "" ? null : read.why);
    if (read.unit !== null && read.unit !== check.unit)
      return setWhy(`in ${check.unit === "V" ? "volts" : "ohms"}, please`);
    const leads = check.unit === "ohm" ? (standing.leads ?? 0) : 0;
    bench.check(designator, Math.max(0, read.value - leads));
    forget();
  };
  const isGood = shown === undefined ? null : isGoodPart(check, shown);
  return (
    <form onSubmit={submit} className="mt-2 flex flex-wrap items-center gap-2">
      <p className="basis-full">
        Before it goes in it should show <strong>{checkWords(check)}</strong>
      </p>
      <input
        value={text}
        inputMode="decimal"
        placeholder={check.unit === "V" ? "volts" : "ohms"}
        aria-label={`What the new ${designator} shows`}
        onChange={(e) => {
          setText(e.target.value);
          setWhy(null);
        }}
        className="w-24 rounded-lg border border-field bg-paper px-2 py-1.5 font-mono"
      />
      <button type="submit" className="rounded-lg border border-rule px-3 py-1.5 hover:bg-band">
        Check
      </button>
      {isGood !== null && (
        <strong role="status" className={isGood ? "flex items-center gap-1" : "flex items-center gap-1 text-wrong"}>
          {isGood ? <Check size={20} aria-hidden /> : <TriangleAlert size={20} aria-hidden />}
          {print(shown ?? 0, check.unit, { digits: 4 })}: {isGood ? "good" : "do not fit it, or measure again"}
        </strong>
      )}
      {why && (
        <p role="alert" className="basis-full text-wrong">
          {why}
        </p>
      )}
    </form>
  );
}

/** What went in, where that is not just what the drawing says. */
function Fitted({ part, bench }: { part: string; bench: RepairBench }) {
  const { state } = useDesk();
  const said = bench.work?.fitted[part] ?? "";
  const { value: text, set: setText, forget } = useKept(`fitted for ${part} ${state.job.id}`, said);
  const keep = () => {
    if (text.trim() !== said) bench.fitted(part, text.trim());
    forget();
  };
  return (
    <label className="mt-2 flex items-center gap-2">
      <span className="shrink-0 text-faint">Fitted instead</span>
      <input
        value={text}
        maxLength={300}
        dir="auto"
        placeholder="only if it is another"
        onChange={(e) => setText(e.target.value)}
        onBlur={keep}
        onKeyDown={(e) => e.key === "Enter" && keep()}
        className="min-w-0 grow rounded-lg border border-field bg-paper px-2 py-1"
      />
    </label>
  );
}
