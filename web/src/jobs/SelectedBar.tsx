import type { JobSummary } from "@hound/core/record";
import { Link } from "react-router";

const BUTTON = "rounded-lg border border-rule bg-sheet px-3 py-1.5 hover:bg-band";
/** Jobs that fit side by side. */
const SIDE_BY_SIDE = 6;
/** Jobs that are saved at once: their names stand in one address. */
const MOST = 150;

interface SelectedBarProps {
  readonly jobs: readonly JobSummary[];
  readonly onClear: () => void;
}

/** What can be done with the jobs that are ticked: taken out together, or looked at side by side. */
export function SelectedBar({ jobs, onClear }: SelectedBarProps) {
  const sameCircuit = jobs.length > 1 && jobs.every((j) => j.circuit !== "" && j.circuit === jobs[0].circuit);
  const ids = new URLSearchParams(jobs.map((j) => ["job", j.id]));
  return (
    <div
      role="toolbar"
      aria-label="Ticked jobs"
      className="sticky bottom-2 z-20 mt-3 flex flex-wrap items-center gap-3 rounded-xl border-2 border-copper bg-paper px-4 py-2 shadow-lg"
    >
      <strong className="grow">{jobs.length} ticked</strong>
      {jobs.length <= MOST && (
        <a href={`/api/cases.zip?${ids}`} download className={BUTTON}>
          Save as case files
        </a>
      )}
      {sameCircuit && jobs.length <= SIDE_BY_SIDE && (
        <Link to={`/jobs/beside?${ids}`} className={BUTTON}>
          Side by side
        </Link>
      )}
      <button type="button" className={BUTTON} onClick={onClear}>
        Untick
      </button>
    </div>
  );
}
