import { FIRST_CIRCUITS } from "@hound/core/practice";
import { SHIPPED_METERS } from "@hound/core/record";
import { huntsApi } from "../api/hunts.ts";
import { useStart } from "./useStart.ts";

/** Hunts to begin with, in the order one learns by. @param done titles of those that were found */
export function FirstHunts({ done }: { done: ReadonlySet<string> }) {
  const start = useStart(huntsApi.start);
  const next = FIRST_CIRCUITS.find((c) => !done.has(c.title));
  return (
    <>
      <ol className="grid gap-2 sm:grid-cols-2">
        {FIRST_CIRCUITS.map(({ key, title, about, trail, kinds, parts, help }) => (
          <li
            key={key}
            className={`flex flex-col gap-1 rounded-xl border-2 bg-sheet px-4 py-3 ${key === next?.key ? "border-copper" : "border-rule"}`}
          >
            <h3 className="text-lg font-bold">{title}</h3>
            <p className="grow text-faint">{about}</p>
            <button
              type="button"
              disabled={start.isPending}
              aria-label={`${done.has(title) ? "Hunt again" : "Hunt"}: ${title}`}
              className={`self-start rounded-lg px-4 py-2 font-bold ${key === next?.key ? "bg-copper text-sheet" : "border border-rule hover:bg-band"}`}
              onClick={() =>
                start.mutate({
                  title,
                  trail,
                  kinds: [...kinds],
                  parts: [...parts],
                  help,
                  meter: SHIPPED_METERS[0].meter,
                })
              }
            >
              {done.has(title) ? "Hunt again" : "Hunt"}
            </button>
          </li>
        ))}
      </ol>
      {start.error && (
        <p role="alert" className="text-wrong">
          Not begun: {start.error.message}.
        </p>
      )}
    </>
  );
}
