import { type Circuit, type Network, unitOfValue } from "@hound/core/circuit";
import { readQuick } from "@hound/core/notation";
import type { RankInput } from "@hound/core/rank";
import { type Supposed, type Wished, writeSupposed } from "@hound/core/whatif";
import { useId, useMemo } from "react";
import { Spoken } from "../app/Spoken.tsx";
import { useDesk } from "../desk/DeskContext.tsx";
import { useKept } from "../desk/useKept.ts";
import { useLab } from "../lab/useLab.ts";
import { kindsIn, nameOfSuspect } from "../words/faults.ts";
import { inWords, print } from "../words/print.ts";
import { percent } from "../words/quantities.ts";

interface WishTabProps {
  readonly input: RankInput;
  readonly circuit: Circuit;
  readonly network: Network;
  readonly onSuppose: (faults: readonly Supposed[]) => void;
}

const MOST = 40;

/** Which faults would give a reading? Values are solved for. */
export function WishTab({ input, circuit, network, onSuppose }: WishTabProps) {
  const { state } = useDesk();
  const { value: text, set: setText } = useKept(`what would give ${state.job.id}`, "");
  const says = useId();
  const standing = input.standing ?? {};
  const read = readQuick(text, circuit, undefined, { standing, meter: input.meter ?? {} });
  const wish = read.kind === "reading" && read.reading.quantity !== "observation" ? read.reading : null;
  const question = useMemo(
    () => (wish ? ({ kind: "wish", input, point: { ...wish, state: standing } } as const) : null),
    [wish, input, standing],
  );
  const { answer, isCurrent } = useLab(question);
  return (
    <div className="flex flex-col gap-2">
      <label className="flex items-center gap-2 rounded-xl border border-field bg-sheet px-3 py-1.5 has-[input:focus-visible]:outline-3 has-[input:focus-visible]:outline-copper">
        <span className="shrink-0 font-bold">What would give</span>
        <input
          value={text}
          onChange={(e) => setText(e.target.value)}
          aria-describedby={says}
          aria-invalid={read.kind === "mistake"}
          autoComplete="off"
          spellCheck={false}
          placeholder="B 3"
          className="min-w-0 grow bg-transparent text-xl font-bold placeholder:font-normal placeholder:text-faint/70 focus:outline-none"
        />
      </label>
      <Spoken text={read.kind === "mistake" ? read.message : read.kind === "reading" ? read.echo : ""} />
      <p id={says} className="min-h-6">
        {read.kind === "mistake" ? (
          <span className="text-wrong">{inWords(read.message)}</span>
        ) : wish ? (
          <strong>{read.kind === "reading" ? inWords(read.echo) : ""}</strong>
        ) : (
          <span className="text-faint">
            {read.kind === "empty" ? "A reading, as you would type it: “B 3”, “R3 12mA”." : "A reading with a value."}
          </span>
        )}
      </p>
      {wish && answer?.kind === "problem" && <p className="text-doubt">{answer.message}.</p>}
      {wish && answer?.kind === "wished" && (
        <WishedList
          faults={answer.faults}
          isCurrent={isCurrent}
          network={network}
          readings={input.readings.filter((r) => r.quantity !== "observation").length}
          onSuppose={onSuppose}
        />
      )}
    </div>
  );
}

interface WishedListProps {
  readonly faults: readonly Wished[];
  readonly isCurrent: boolean;
  readonly network: Network;
  readonly readings: number;
  readonly onSuppose: (faults: readonly Supposed[]) => void;
}

function WishedList({ faults, isCurrent, network, readings, onSuppose }: WishedListProps) {
  if (faults.length === 0) return <p className="text-lg font-bold">No single fault would give that.</p>;
  const kindOf = kindsIn(network);
  return (
    <>
      <ol aria-label="Faults that would give it" className={`flex flex-col gap-1 ${isCurrent ? "" : "grayscale"}`}>
        {faults.slice(0, MOST).map(({ fault, between, share, against }) => (
          <li key={`${writeSupposed(fault, network)}`}>
            <button
              type="button"
              onClick={() => onSuppose([fault])}
              className="flex w-full items-baseline gap-3 rounded-lg border border-rule bg-sheet px-3 py-1.5 text-left hover:bg-band"
            >
              <span className="min-w-0 grow">
                <strong>{nameOfSuspect({ faults: [fault] }, kindOf)}</strong>
                {between && "part" in fault && (
                  <span className="block text-faint">
                    {`between ${between.map((v) => print(v, unitOfValue(kindOf(fault.part) ?? "resistor", fault.mode), { digits: 3 })).join(" and ")}`}
                  </span>
                )}
              </span>
              <span className="shrink-0 text-right text-sm text-faint">
                {percent(share)} of faults
                {readings > 0 && (
                  <span className={`block ${against > 0 ? "text-doubt" : ""}`}>
                    {against === 0 ? "goes with all readings" : `against ${against} of ${readings} readings`}
                  </span>
                )}
              </span>
            </button>
          </li>
        ))}
      </ol>
      {faults.length > MOST && <p className="text-faint">{faults.length - MOST} more.</p>}
    </>
  );
}
