import { isOver, type Job, type JobState } from "@hound/core/record";
import { NotebookText } from "lucide-react";
import { memo, Suspense, useState } from "react";
import { Link, NavLink, useNavigate } from "react-router";
import { JobStateOptions } from "../app/JobStateOptions.tsx";
import { lazyNamed } from "../app/lazyNamed.ts";
import { useShortcuts } from "../app/Shortcuts.tsx";
import { STAGE_NAMES, STAGES } from "../app/stages.ts";
import type { JobDesk } from "../desk/desk.ts";
import type { DeskState } from "../desk/savedJob.ts";
import { savedWords } from "../desk/savedWords.ts";

const JobMenu = lazyNamed(() => import("./JobMenu.tsx"), "JobMenu");
const JobCard = lazyNamed(() => import("../pictures/JobCard.tsx"), "JobCard");

const MORE = "rounded-lg border border-rule bg-sheet px-3 py-1.5 hover:bg-band";

interface JobHeaderProps {
  readonly desk: JobDesk;
  readonly job: Job;
  readonly saving: DeskState["saving"];
  readonly why: string;
  readonly kept: DeskState["kept"];
}

/** Job and stages along the top; it stays as it is while the trail is typed. */
export const JobHeader = memo(function JobHeader({ desk, job, saving, why, kept }: JobHeaderProps) {
  const [card, setCard] = useState(false);
  const [isMenu, setMenu] = useState(false);
  const shortcuts = useShortcuts();
  const navigate = useNavigate();
  const isTrouble = saving !== "saved" && saving !== "saving";
  const more = (
    <button type="button" aria-haspopup="menu" className={MORE} onClick={() => setMenu(true)}>
      More
    </button>
  );
  return (
    <header className="flex flex-wrap items-center gap-x-0.5 gap-y-1 bg-band px-3 py-2 sm:gap-x-4 @min-[64rem]:flex-nowrap lg:gap-x-3">
      <Link to="/jobs" aria-label="All jobs" title="All jobs" className="rounded-lg p-2 hover:bg-rule/50">
        <NotebookText size={24} aria-hidden />
      </Link>
      <h1 className="min-w-0 shrink basis-[75%] sm:basis-auto lg:min-w-24 text-xl font-bold">
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
      <nav
        aria-label="Stages"
        className="order-last flex basis-full overflow-x-auto sm:order-none sm:gap-1 sm:overflow-visible sm:basis-auto lg:shrink-0 lg:gap-0"
      >
        {STAGE_NAMES.map((stage) => (
          <NavLink
            key={stage}
            to={`/jobs/${job.id}/${stage}`}
            className={({ isActive }) =>
              `border-b-4 px-1 py-1.5 whitespace-nowrap text-[0.95rem] sm:px-3 sm:text-lg lg:px-2 ${isActive ? "border-copper font-bold" : "border-transparent text-faint hover:text-ink"}`
            }
          >
            {STAGES[stage]}
          </NavLink>
        ))}
      </nav>
      <span className="grow" />
      <span
        // What goes well is not said aloud each time.
        role={isTrouble ? "status" : undefined}
        data-saved
        className={
          isTrouble ? "leading-tight font-bold text-wrong lg:max-w-64" : "text-sm text-faint lg:min-w-16 lg:text-right"
        }
      >
        {savedWords({ saving, why, kept })}
      </span>
      <label>
        <span className="sr-only">State of the job</span>
        <select
          value={job.state}
          onChange={(e) => {
            const next = e.target.value as JobState;
            // How a job ended is asked where it is written up.
            if (isOver(next)) navigate(`/jobs/${job.id}/repair?end=${next}`);
            else desk.step({ state: next }, "State put back");
          }}
          className="rounded-lg border border-rule bg-sheet px-2 py-1.5"
        >
          <JobStateOptions />
        </select>
      </label>
      {isMenu ? (
        <Suspense fallback={more}>
          <JobMenu desk={desk} onShortcuts={shortcuts.show} className={MORE} />
        </Suspense>
      ) : (
        more
      )}
      {shortcuts.dialog}
    </header>
  );
});
