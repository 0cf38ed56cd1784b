import { type LogbookFilter, SORTS, type Sort } from "@hound/core/record";
import { useSearchParams } from "react-router";

const KEYS = ["search", "state", "outcome", "circuit", "part", "tag", "from", "to"] as const;
type Key = (typeof KEYS)[number];

/** What of the logbook is looked at: it stands in the address, so that it can be kept and sent. */
export function useFilter(): {
  readonly filter: LogbookFilter;
  readonly isFiltered: boolean;
  readonly set: (change: Partial<Record<Key | "sort" | "deleted", string>>) => void;
} {
  const [params, setParams] = useSearchParams();
  const said = Object.fromEntries(KEYS.map((key) => [key, params.get(key) || undefined]));
  const sort = params.get("sort") ?? "touched";
  const filter = {
    ...said,
    search: said.search ?? "",
    sort: (sort in SORTS ? sort : "touched") as Sort,
    deleted: params.get("deleted") === "true",
  } as LogbookFilter;
  const set = (change: Partial<Record<string, string>>) =>
    setParams(
      (before) => {
        const next = new URLSearchParams(before);
        for (const [key, value] of Object.entries(change)) {
          if (value) next.set(key, value);
          else next.delete(key);
        }
        return next;
      },
      { replace: true },
    );
  return { filter, isFiltered: KEYS.some((key) => said[key]), set };
}
