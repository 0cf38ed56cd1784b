import { useSyncExternalStore } from "react";
import { newVersion } from "./newVersion.ts";

/** Says that a newer version of the pages is there; it is taken when somebody asks for it. */
export function NewVersionBar() {
  const isThere = useSyncExternalStore(newVersion.subscribe, newVersion.isThere);
  if (!isThere) return null;
  return (
    <div
      role="status"
      className="fixed right-3 bottom-3 z-50 flex items-center gap-3 rounded-lg border border-copper bg-sheet px-4 py-2 shadow-lg"
    >
      A new version of these pages is there.
      <button type="button" className="rounded-lg bg-copper px-3 py-1.5 font-bold text-sheet" onClick={newVersion.use}>
        Reload
      </button>
    </div>
  );
}
