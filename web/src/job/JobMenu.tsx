import { JOB_STATES, type JobState } from "@hound/core/record";
import { Calculator, CircleHelp, Download, History, Keyboard, type LucideIcon, Moon, Printer, Sun } from "lucide-react";
import { DropdownMenu } from "radix-ui";
import { Suspense, useState } from "react";
import { useNavigate } from "react-router";
import { leaveHand } from "../app/focus.ts";
import { lazyNamed } from "../app/lazyNamed.ts";
import { fileName, saveFile } from "../app/saveFile.ts";
import { useTheme } from "../app/ThemeButton.tsx";
import { useCaseOf } from "../desk/caseOf.ts";
import type { JobDesk } from "../desk/desk.ts";
import { fileStamp } from "../desk/stamp.ts";

const TimelineDialog = lazyNamed(() => import("./Timeline.tsx"), "TimelineDialog");

interface JobMenuProps {
  readonly desk: JobDesk;
  readonly onShortcuts: () => void;
  readonly onState: (state: JobState) => void;
  readonly className: string;
}

/** What is done with a job besides its stages, in words. It is opened as it comes. */
export function JobMenu({ desk, onShortcuts, onState, className }: JobMenuProps) {
  const [isTimeline, setTimeline] = useState(false);
  const navigate = useNavigate();
  const caseOf = useCaseOf();
  const { other, toggle } = useTheme();
  const { id, state: stands } = desk.snapshot().job;
  const save = () => {
    // What is not saved yet is among it.
    const state = desk.snapshot();
    const name = `${fileStamp(state, new Date())}.json`;
    saveFile(caseOf(state), fileName(state.job.title, name), "application/json");
  };
  const item = (words: string, Icon: LucideIcon, onSelect: () => void) => (
    <DropdownMenu.Item
      className="flex cursor-pointer items-center gap-3 rounded px-3 py-2 outline-none data-[highlighted]:bg-band"
      onSelect={onSelect}
    >
      <Icon size={20} aria-hidden /> {words}
    </DropdownMenu.Item>
  );
  return (
    <>
      <DropdownMenu.Root modal={false} defaultOpen>
        <DropdownMenu.Trigger className={className}>More</DropdownMenu.Trigger>
        <DropdownMenu.Content
          align="end"
          onCloseAutoFocus={leaveHand}
          className="z-40 rounded-lg border border-rule bg-sheet p-1 text-lg shadow-lg"
        >
          <DropdownMenu.RadioGroup
            value={stands}
            onValueChange={(state) => onState(state as JobState)}
            aria-label="State of the job"
            className="mb-1 border-b border-rule pb-1 lg:hidden"
          >
            {Object.entries(JOB_STATES).map(([state, words]) => (
              <DropdownMenu.RadioItem
                key={state}
                value={state}
                className="flex cursor-pointer items-center gap-3 rounded px-3 py-2 outline-none data-[highlighted]:bg-band data-[state=checked]:font-bold"
              >
                <span aria-hidden className="w-5 text-copper">
                  {state === stands ? "●" : ""}
                </span>
                {words}
              </DropdownMenu.RadioItem>
            ))}
          </DropdownMenu.RadioGroup>
          {item("Timeline of this job", History, () => setTimeline(true))}
          {item("Sheets to print", Printer, () => navigate(`/jobs/${id}/sheets/job`))}
          {item("Export as a case file", Download, save)}
          {item("Pocket sums", Calculator, () => navigate(`/sums?job=${id}`))}
          {item("Help", CircleHelp, () => navigate("/help/readings"))}
          {item("Shortcuts", Keyboard, onShortcuts)}
          {item(`Use the ${other} look`, other === "light" ? Sun : Moon, toggle)}
        </DropdownMenu.Content>
      </DropdownMenu.Root>
      {isTimeline && (
        <Suspense>
          <TimelineDialog onClose={() => setTimeline(false)} />
        </Suspense>
      )}
    </>
  );
}
