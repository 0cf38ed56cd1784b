import { isOver, OUTCOMES, wasFirstRight } from "@hound/core/record";
import { Link } from "react-router";
import { useDesk } from "../desk/DeskContext.tsx";
import { printFixed } from "../words/print.ts";
import { percent } from "../words/quantities.ts";
import { stepsWords } from "../words/repair.ts";
import { dayAndTime } from "../words/times.ts";
import { stageWords } from "./CloseJob.tsx";
import type { RepairBench } from "./useRepairWork.ts";

/** How a closed job ended, with the way to its report and back. */
export function Closed({ bench }: { bench: RepairBench }) {
  const { state } = useDesk();
  const { job } = state;
  if (!isOver(job.state)) return null;
  const { closing, finding } = job;
  const said = closing?.said?.repairs[0];
  const isRight = closing && wasFirstRight(closing);
  return (
    <section aria-label="How it ended" className="rounded-xl border-2 border-low bg-sheet px-4 py-3">
      <h2 className="text-2xl font-bold">{closing ? OUTCOMES[closing.outcome] : "Closed"}</h2>
      {finding !== "" && (
        <p dir="auto" className="text-lg break-words whitespace-pre-line">
          {finding}
        </p>
      )}
      {closing && (
        <p className="text-faint">
          {dayAndTime(new Date(closing.at))}
          {closing.who ? `, ${closing.who}` : ""}
          {closing.minutes === undefined ? "" : ` · ${printFixed(closing.minutes, 0)} minutes`}
          {stageWords(closing.stages) && ` (${stageWords(closing.stages)})`}
          {closing.proof && ` · ${closing.proof.agree} of ${closing.proof.of} readings agree`}
        </p>
      )}
      {closing && closing.used.length > 0 && (
        <p>Parts used: {closing.used.map((u) => `${u.part} (${u.what})`).join("; ")}.</p>
      )}
      {said && isRight !== null && (
        <p className="text-faint">
          {isRight ? "What led was right" : `What led was ${stepsWords(said.repair)}`}, said with{" "}
          {percent(said.probability)}.
        </p>
      )}
      <div className="mt-2 flex flex-wrap gap-2">
        <Link to={`/jobs/${job.id}/sheets/report`} className="rounded-lg bg-copper px-4 py-2 font-bold text-sheet">
          Report
        </Link>
        <button type="button" className="rounded-lg border border-rule px-4 py-2 hover:bg-band" onClick={bench.reopen}>
          Open it again
        </button>
      </div>
    </section>
  );
}
