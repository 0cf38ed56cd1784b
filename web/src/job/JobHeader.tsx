import { isOver, type Job, type JobState } from "@hound/core/record";
import { NotebookText } from "lucide-react";
import { memo, Suspense, useState } from "react";
import { Link, NavLink, useNavigate } from "react-router";
import { JobStateOptions } from "../app/JobStateOptions.tsx";
import { lazyNamed } from "../app/lazyNamed.ts";
import { useShortcuts } from "../app/Shortcuts.tsx";
import { STAGE_NAMES, STAGES, type Stage } from "../app/stages.ts";
import type { JobDesk } from "../desk/desk.ts";
import type { DeskState } from "../desk/savedJob.ts";
import { savedWords } from "../desk/savedWords.ts";

const JobMenu = lazyNamed(() => import("./JobMenu.tsx"), "JobMenu");
const JobCard = lazyNamed(() => import("../pictures/JobCard.tsx"), "JobCard");

const MORE = "min-h-11 rounded-lg border border-rule bg-sheet px-3 hover:bg-band lg:min-h-0 lg:py-1.5";

interface JobHeaderProps {
  readonly desk: JobDesk;
  readonly job: Job;
  readonly stage: Stage;
  readonly saving: DeskState["saving"];
  readonly why: string;
  readonly kept: DeskState["kept"];
}

/**
 * Job and stages along the top; it stays as it is while the trail is typed. On small windows one low bar: the stages are a
 * menu, the job's state lies in the other one.
 */
export const JobHeader = memo(function JobHeader({ desk, job, stage, saving, why, kept }: JobHeaderProps) {
  const [card, setCard] = useState(false);
  const [isMenu, setMenu] = useState(false);
  const shortcuts = useShortcuts();
  const navigate = useNavigate();
  const choose = (next: JobState) => {
    // How a job ended is asked where it is written up.
    if (isOver(next)) navigate(`/jobs/${job.id}/repair?end=${next}`);
    else desk.step({ state: next }, "State put back");
  };
  const isTrouble = saving !== "saved" && saving !== "saving";
  const more = (
    <button type="button" aria-haspopup="menu" className={MORE} onClick={() => setMenu(true)}>
      More
    </button>
  );
  return (
    <header className="flex flex-wrap items-center gap-x-2 bg-band px-2 py-0.5 lg:gap-x-3 lg:gap-y-1 lg:px-3 lg:py-2 @min-[64rem]:flex-nowrap">
      <Link to="/jobs" aria-label="All jobs" title="All jobs" className="rounded-lg p-2 hover:bg-rule/50">
        <NotebookText size={24} aria-hidden />
      </Link>
      <h1 className="min-w-0 flex-1 text-xl font-bold lg:min-w-24 lg:flex-initial">
        <button
          type="button"
          dir="auto"
          title={`${job.title}: change title, complaint, customer …`}
          onClick={() => setCard(true)}
          className="block w-full truncate text-left underline decoration-rule decoration-dotted underline-offset-4 hover:decoration-ink"
        >
          {job.title}
        </button>
      </h1>
      {card && (
        <Suspense>
          <JobCard onClose={() => setCard(false)} />
        </Suspense>
      )}
      <nav aria-label="Stages" className="hidden shrink-0 lg:flex">
        {STAGE_NAMES.map((stage) => (
          <NavLink
            key={stage}
            to={`/jobs/${job.id}/${stage}`}
            className={({ isActive }) =>
              `border-b-4 px-2 py-1.5 text-lg whitespace-nowrap ${isActive ? "border-copper font-bold" : "border-transparent text-faint hover:text-ink"}`
            }
          >
            {STAGES[stage]}
          </NavLink>
        ))}
      </nav>
      <select
        aria-label="Stage"
        value={stage}
        onChange={(e) => navigate(`/jobs/${job.id}/${e.target.value}`)}
        className="min-h-11 rounded-lg border border-rule bg-sheet px-2 text-lg font-bold lg:hidden"
      >
        {STAGE_NAMES.map((name) => (
          <option key={name} value={name}>
            {STAGES[name]}
          </option>
        ))}
      </select>
      <span className="hidden grow lg:block" />
      <span
        // What goes well is not said aloud each time.
        role={isTrouble ? "status" : undefined}
        data-saved
        className={
          isTrouble
            ? "order-last basis-full leading-tight font-bold text-wrong lg:order-none lg:max-w-64 lg:basis-auto"
            : "hidden text-sm text-faint lg:inline lg:min-w-16 lg:text-right"
        }
      >
        {savedWords({ saving, why, kept })}
      </span>
      <label className="hidden lg:block">
        <span className="sr-only">State of the job</span>
        <select
          value={job.state}
          onChange={(e) => choose(e.target.value as JobState)}
          className="rounded-lg border border-rule bg-sheet px-2 py-1.5"
        >
          <JobStateOptions />
        </select>
      </label>
      {isMenu ? (
        <Suspense fallback={more}>
          <JobMenu desk={desk} onShortcuts={shortcuts.show} onState={choose} className={MORE} />
        </Suspense>
      ) : (
        more
      )}
      {shortcuts.dialog}
    </header>
  );
});
