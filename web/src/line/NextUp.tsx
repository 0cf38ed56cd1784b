import type { RepairProof, Turned } from "@hound/core/judgement";
import type { Suggestion } from "@hound/core/plan";
import { isOver } from "@hound/core/record";
import { Ban, Hourglass, type LucideIcon } from "lucide-react";
import { Link } from "react-router";
import { useDesk } from "../desk/DeskContext.tsx";
import { DoingCautions } from "../session/cautions.tsx";
import type { NextStep } from "../session/proposal.ts";
import { doingOf, measurementWords, minutesWords } from "../words/measurements.ts";
import { calledWords } from "../words/points.ts";
import { proofWords } from "../words/proof.ts";
import { repairWords } from "../words/repair.ts";

interface NextUpProps {
  /** The best first; null while they are being worked out. */
  readonly steps: readonly NextStep[] | null;
  /** True where the readings cannot be ranked, so that nothing can be worked out. */
  readonly isStopped: boolean;
  /** Where nothing more has to be read: the repair and how it is proved; further readings are for who wants them. */
  readonly settled: {
    readonly proof: RepairProof | null;
    readonly turned: Turned;
  } | null;
  /** Where suspects are looked at, only what comes next. */
  readonly isBrief: boolean;
  readonly healthy: string | null;
  readonly onChoose: (key: string) => void;
  readonly onPutOff: (key: string, how: "never" | "later") => void;
  /** Words for the reading line, of what is logged and not read. */
  readonly onTake: (words: string) => void;
}

/** What to measure next: the best in large, two more to choose from, and what can be put off. It keeps its height. */
export function NextUp(props: NextUpProps) {
  const { steps, settled, isBrief, healthy, onPutOff } = props;
  const { state } = useDesk();
  const first = steps?.[0];
  const how = first && measurementWords(first.measurement);
  return (
    <div className="px-4">
      <div className="flex h-11 items-center gap-1">
        {first && how ? (
          <>
            <p
              className="min-w-0 grow truncate text-bench"
              title={`${how.how} ${how.where}${healthy ? ` · healthy ${healthy}` : ""}`}
            >
              <span className="text-faint">
                {settled ? "At leisure" : "Next"}: {how.how}{" "}
              </span>
              <strong className="text-2xl text-copper">{how.where}</strong>
              {healthy && <span className="text-faint"> · healthy {healthy}</span>}
            </p>
            <Aside label="Not now" icon={Hourglass} onClick={() => onPutOff(first.key, "later")} />
            <Aside label="Cannot reach that" icon={Ban} onClick={() => onPutOff(first.key, "never")} />
          </>
        ) : (
          <p className="text-bench text-faint">
            {isOver(state.job.state) ? "This job is closed: nothing more is asked." : nothingNext(props)}
          </p>
        )}
      </div>
      {isBrief ? (
        first && (
          <p>
            <DoingCautions doing={doingOf(first.measurement)} />
          </p>
        )
      ) : (
        <div className="flex min-h-22 flex-col gap-1">
          <About {...props} />
        </div>
      )}
    </div>
  );
}

function nothingNext({ steps, isStopped, settled }: NextUpProps): string {
  if (isStopped) return "What to read next cannot be worked out: see what is wrong below.";
  if (!steps) return "Working out what to read next …";
  return settled ? "Nothing more has to be read." : "No measurement on offer tells any more.";
}

/** Of a settled job how the repair is proved; else what to mind at the proposal, what it is worth, and what else there is. */
function About({ steps, settled, onChoose, onTake }: NextUpProps) {
  const { state } = useDesk();
  const [first, ...others] = steps ?? [];
  if (isOver(state.job.state)) return null;
  const proof = settled?.proof;
  if (proof)
    return (
      <>
        <p className="line-clamp-2 leading-6" title={proofWords(proof)}>
          {proofWords(proof)}
        </p>
        <Link
          to={`/jobs/${state.job.id}/repair`}
          className="self-start rounded-lg bg-copper px-3 py-1 font-bold text-sheet"
        >
          Repair: {repairWords(proof.repair, settled?.turned)}
        </Link>
      </>
    );
  if (!first) return null;
  const { measurement, why } = first;
  return (
    <>
      {!("reading" in measurement) && (
        <p>
          <DoingCautions doing={doingOf(measurement)} />
        </p>
      )}
      <p className="truncate text-faint">
        {why && worthWords(why, settled !== null)}
        <Called measurement={measurement} />
      </p>
      <ul aria-label="Or" className="flex gap-2 overflow-x-auto pb-1">
        {"part" in measurement && measurement.kind === "swap" && (
          <li className="shrink-0">
            <button type="button" className={CHIP} onClick={() => onTake(`${measurement.part} swapped`)}>
              It is in: {measurement.part} swapped
            </button>
          </li>
        )}
        {others.map(({ key, measurement: other }) => {
          const words = measurementWords(other);
          return (
            <li key={key} className="shrink-0">
              <button type="button" className={`${CHIP} text-faint hover:text-ink`} onClick={() => onChoose(key)}>
                or {words.how} <strong className="text-ink">{words.where}</strong>
              </button>
            </li>
          );
        })}
      </ul>
    </>
  );
}

const CHIP = "rounded-lg border border-rule px-2.5 py-0.5 hover:bg-band";

/** What it costs and what it is worth. */
function worthWords({ measurement, settles }: Suggestion, isSettled: boolean): string {
  const likely = !isSettled && settles > 0.005 ? `, ${Math.round(settles * 100)} in 100 that it settles the job` : "";
  return `${minutesWords(measurement.minutes)}${likely}`;
}

/** What the points are called where one probes them. */
function Called({ measurement }: { measurement: NextStep["measurement"] }) {
  const { drawn } = useDesk();
  if (!drawn || !("reading" in measurement) || measurement.reading.quantity === "current") return null;
  const { from, to } = measurement.reading;
  const words = [from, to].flatMap((n) => (n === undefined ? [] : calledWords(drawn.written, n) || []));
  return words.length === 0 ? null : <span dir="auto"> ({words.join("; ")})</span>;
}

function Aside({ label, icon: Icon, onClick }: { label: string; icon: LucideIcon; onClick: () => void }) {
  return (
    <button
      type="button"
      className="shrink-0 rounded-lg p-1.5 text-faint hover:bg-band hover:text-ink"
      aria-label={label}
      title={label}
      onClick={onClick}
    >
      <Icon size={18} aria-hidden />
    </button>
  );
}
