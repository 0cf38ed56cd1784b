import { History as Clock } from "lucide-react";
import { Suspense, useState } from "react";
import { lazyNamed } from "../app/lazyNamed.ts";

const HistoryDialog = lazyNamed(() => import("./History.tsx"), "HistoryDialog");

/** Opens what was done to the job. */
export function HistoryButton() {
  const [isOpen, setOpen] = useState(false);
  return (
    <>
      <button
        type="button"
        onClick={() => setOpen(true)}
        aria-label="History of this job"
        title="History of this job"
        className="rounded-lg p-2 hover:bg-rule/50"
      >
        <Clock size={22} aria-hidden />
      </button>
      {isOpen && (
        <Suspense>
          <HistoryDialog onClose={() => setOpen(false)} />
        </Suspense>
      )}
    </>
  );
}
