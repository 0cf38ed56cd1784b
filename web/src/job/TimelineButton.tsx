import { History as Clock } from "lucide-react";
import { Suspense, useState } from "react";
import { lazyNamed } from "../app/lazyNamed.ts";

const TimelineDialog = lazyNamed(() => import("./Timeline.tsx"), "TimelineDialog");

/** Opens what was done to the job. */
export function TimelineButton() {
  const [isOpen, setOpen] = useState(false);
  return (
    <>
      <button
        type="button"
        onClick={() => setOpen(true)}
        aria-label="Timeline of this job"
        title="Timeline of this job"
        className="rounded-lg p-2 hover:bg-rule/50"
      >
        <Clock size={22} aria-hidden />
      </button>
      {isOpen && (
        <Suspense>
          <TimelineDialog onClose={() => setOpen(false)} />
        </Suspense>
      )}
    </>
  );
}
