import { UNIT_OF } from "@hound/core/record";
import type { ProofRow, ProofVerdict, UnseenFault } from "@hound/core/repair";
import { Check, CircleAlert, CircleDashed } from "lucide-react";
import { Link } from "react-router";
import { type Drawn, useDesk } from "../desk/DeskContext.tsx";
import type { ReadingLine } from "../session/useReadingLine.ts";
import { type KindOf, nameOfSuspect } from "../words/faults.ts";
import { endsWords, percent, placeOf, valueOfReading } from "../words/quantities.ts";
import { kindsOfParts } from "../words/repair.ts";
import type { ProofNow } from "./useProof.ts";
import type { RepairBench } from "./useRepairWork.ts";

interface ProveItProps {
  readonly bench: RepairBench;
  readonly proof: ProofNow;
  readonly drawn: Drawn;
  readonly line: ReadingLine;
}

/** Faults named that the proof does not show. */
const NAMED = 4;

/** The readings that show that nothing is wrong any more, each beside what a healthy circuit shows; and what they come to. */
export function ProveIt({ bench, proof, drawn, line }: ProveItProps) {
  const { state } = useDesk();
  const { proved, problem, isCurrent } = proof;
  const isFitted = bench.isMended;
  return (
    <section
      aria-label="Prove it"
      aria-busy={!isCurrent}
      className="shrink-0 rounded-xl border-2 border-copper bg-sheet px-4 py-3"
    >
      <h2 className="text-xl font-bold">Prove it</h2>
      {problem && <p className="text-wrong">{problem}.</p>}
      {!proved && !problem && <p className="text-faint">Working out which readings prove it …</p>}
      {proved && (
        <>
          {!isFitted && (
            <p className="text-faint">
              Once the new part is in (tick it above), readings count for the proof. It takes{" "}
              {proved.set.readings.length}.
            </p>
          )}
          <p className="text-faint">What a healthy circuit shows, tolerances and the meter’s own limit together.</p>
          <ul className="mt-1 flex flex-col">
            {proved.verdict.rows.map((row) => (
              <Row
                key={`${row.index ?? "next"} ${placeOf(row.reading)} ${row.reading.quantity}`}
                row={row}
                canTake={isFitted}
                onTake={() => {
                  line.type(`${typedPlace(row)} `);
                  line.field.current?.focus();
                }}
              />
            ))}
          </ul>
          <Verdict verdict={proved.verdict} kindOf={kindsOfParts(drawn.circuit)} jobId={state.job.id} />
          <Unseen unseen={proved.set.unseen} shown={proved.set.shown} kindOf={kindsOfParts(drawn.circuit)} />
        </>
      )}
    </section>
  );
}

/** The place as the reading line takes it. */
function typedPlace({ reading }: ProofRow): string {
  if (reading.quantity === "current") return reading.through;
  if (reading.quantity === "resistance") return `${reading.from}-${reading.to}`;
  return reading.to === undefined ? reading.from : `${reading.from}-${reading.to}`;
}

function Row({ row, canTake, onTake }: { row: ProofRow; canTake: boolean; onTake: () => void }) {
  const { reading, healthy, says, index } = row;
  const unit = UNIT_OF[reading.quantity];
  const window = endsWords(healthy, unit);
  const what = { voltage: "", current: "current ", resistance: "ohms " }[reading.quantity];
  return (
    <li className="flex items-center gap-3 border-t border-rule py-1.5 text-lg first:border-0">
      {index === null ? (
        <CircleDashed size={20} className="shrink-0 text-faint" aria-label="still to be taken" />
      ) : says === "disagrees" ? (
        <CircleAlert size={20} className="shrink-0 text-wrong" aria-label="disagrees" />
      ) : (
        <Check size={20} className="shrink-0" aria-label={says === "edge" ? "at the edge" : "agrees"} />
      )}
      <span className="min-w-0 grow">
        <strong>
          {what}
          {placeOf(reading)}
        </strong>{" "}
        <span className="text-faint">healthy {window}</span>
      </span>
      {index === null ? (
        canTake && (
          <button type="button" className="rounded-lg border border-rule px-3 py-1 hover:bg-band" onClick={onTake}>
            Read it
          </button>
        )
      ) : (
        <strong className={says === "disagrees" ? "text-wrong" : ""}>
          {valueOfReading(reading)}
          {says === "edge" && <span className="font-normal text-faint"> at the edge</span>}
        </strong>
      )}
    </li>
  );
}

function Verdict({ verdict, kindOf, jobId }: { verdict: ProofVerdict; kindOf: KindOf; jobId: string }) {
  const { kind, agree, taken, rows, healthy, suspect } = verdict;
  const missing = rows.length - taken;
  const suspectWords = suspect && nameOfSuspect({ faults: suspect.faults }, kindOf);
  return (
    <p role="status" className="mt-2 text-lg">
      {kind === "open" && (
        <>
          {taken === 0 ? "Nothing read yet." : `${agree} of ${taken} agree so far.`} {missing} to take.
        </>
      )}
      {kind === "repaired" && (
        <strong className="text-xl">
          Repaired: {agree} of {taken} agree.
        </strong>
      )}
      {kind === "doubtful" && (
        <>
          <strong>Doubtful:</strong> each reading may pass, but together they look more like {suspectWords} than like
          healthy ({percent(healthy)}). Take the ones at the edge again.
        </>
      )}
      {kind === "notSettled" && (
        <>
          <strong className="text-wrong">
            Not settled: {agree} of {taken} agree.
          </strong>{" "}
          {suspectWords ? `It looks like ${suspectWords}. ` : ""}
          <Link to={`/jobs/${jobId}/suspects`} className="underline">
            Back to Suspects
          </Link>
          , with the new part known to be good.
        </>
      )}
    </p>
  );
}

function Unseen({ unseen, shown, kindOf }: { unseen: readonly UnseenFault[]; shown: number; kindOf: KindOf }) {
  if (unseen.length === 0) return <p className="text-faint">They show every single fault of this circuit.</p>;
  const named = unseen.slice(0, NAMED).map(({ fault, show }) => {
    const name = nameOfSuspect({ faults: [fault] }, kindOf);
    return show ? `${name} (${showWords(show)} would)` : name;
  });
  const rest = unseen.length - named.length;
  return (
    <p className="mt-1 text-faint">
      What these readings could not show: {named.join("; ")}
      {rest > 0 && ` and ${rest} more`}. They show {percent(shown)} of single faults, by how often each happens.
    </p>
  );
}

function showWords(reading: NonNullable<UnseenFault["show"]>): string {
  if (reading.quantity === "current") return `the current ${placeOf(reading)}`;
  return reading.quantity === "resistance" ? `ohms ${placeOf(reading)}` : `volts ${placeOf(reading)}`;
}
