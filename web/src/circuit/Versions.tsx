import { differences, readTrail } from "@hound/core/notation";
import { format } from "date-fns";
import { useMemo, useState } from "react";
import { DifferenceList } from "./DifferenceList.tsx";

interface VersionsProps {
  /** Latest first. */
  readonly revisions: readonly { readonly revision: number; readonly trail: string; readonly createdAt: string }[];
  readonly onRestore: (trail: string) => void;
}

/** Versions of a circuit, each with what it changed, part by part; an older one can be made the newest. */
export function Versions({ revisions, onRestore }: VersionsProps) {
  const [open, setOpen] = useState<number | null>(null);
  return (
    <ul>
      {revisions.map(({ revision, trail, createdAt }, i) => {
        const before = revisions[i + 1];
        return (
          <li key={revision} className="border-t border-rule py-2 first:border-0">
            <div className="flex flex-wrap items-center gap-3">
              <button
                type="button"
                aria-expanded={open === revision}
                onClick={() => setOpen(open === revision ? null : revision)}
                className="font-bold underline-offset-4 hover:underline"
              >
                Version {revision + 1}
              </button>
              <span className="grow text-faint">
                {format(new Date(createdAt), "d MMM yyyy, HH:mm")}
                {i === 0 && " · in force"}
              </span>
              {i > 0 && (
                <button
                  type="button"
                  onClick={() => onRestore(trail)}
                  className="rounded-lg border border-rule px-3 py-1 hover:bg-band"
                >
                  Restore
                </button>
              )}
            </div>
            {open === revision && <Change before={before?.trail ?? null} after={trail} />}
          </li>
        );
      })}
    </ul>
  );
}

function Change({ before, after }: { before: string | null; after: string }) {
  const list = useMemo(() => {
    const [a, b] = [before === null ? null : readTrail(before).circuit, readTrail(after).circuit];
    return b && (a || before === null) ? differences(a ?? { ...b, parts: [] }, b) : null;
  }, [before, after]);
  return (
    <div className="mt-2 flex flex-col gap-2">
      {list === null && (
        <p className="text-faint">One of the two trails has mistakes: they cannot be compared by parts.</p>
      )}
      {list?.length === 0 && <p className="text-faint">No part changed: only names, notes, comments or layout.</p>}
      {list && list.length > 0 && <DifferenceList list={list} />}
      <details>
        <summary className="text-faint">The trail</summary>
        <pre tabIndex={0} className="overflow-auto rounded bg-band p-3 font-mono text-sm">
          {after}
        </pre>
      </details>
    </div>
  );
}
