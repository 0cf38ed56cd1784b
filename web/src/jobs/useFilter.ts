import { type LogbookFilter, SORTS, type Sort } from "@hound/core/record";
import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import { useSearchParams } from "react-router";

const KEYS = ["search", "state", "outcome", "circuit", "part", "tag", "from", "to", "sort", "deleted"] as const;
type Said = Partial<Record<(typeof KEYS)[number], string>>;

/**
 * What of the logbook is looked at. It stands in the address as well, so that it can be kept and sent; what is typed is
 * here at once, the address follows.
 */
export function useFilter(): {
  readonly filter: LogbookFilter;
  readonly isFiltered: boolean;
  readonly set: (change: Said) => void;
} {
  const [params, setParams] = useSearchParams();
  const [said, setSaid] = useState<Said>(() => saidIn(params));
  const written = useRef(params.toString());
  useEffect(() => {
    // Somebody followed a link to another look at the same list.
    if (params.toString() === written.current) return;
    written.current = params.toString();
    setSaid(saidIn(params));
  }, [params]);
  useEffect(() => {
    const next = new URLSearchParams(Object.entries(said).filter(([, value]) => value !== "")).toString();
    if (next === written.current) return;
    written.current = next;
    setParams(next, { replace: true });
  }, [said, setParams]);
  const set = useCallback((change: Said) => setSaid((before) => ({ ...before, ...change })), []);
  const filter = useMemo(() => filterOf(said), [said]);
  const isFiltered = KEYS.some((key) => key !== "sort" && key !== "deleted" && said[key]);
  return { filter, isFiltered, set };
}

function saidIn(params: URLSearchParams): Said {
  return Object.fromEntries(KEYS.flatMap((key) => (params.get(key) ? [[key, params.get(key) as string]] : [])));
}

function filterOf(said: Said): LogbookFilter {
  const { search = "", sort = "", deleted, ...rest } = said;
  const wanted = Object.fromEntries(Object.entries(rest).map(([key, value]) => [key, value || undefined]));
  return {
    ...wanted,
    search,
    sort: (sort in SORTS ? sort : "touched") as Sort,
    deleted: deleted === "true",
  };
}
