import { Conventions, DEFAULT_CONVENTIONS } from "@hound/core/record";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { call } from "../api/client.ts";

const KEY = ["conventions"];

/** The conventions in force; null until the server has said. */
export function useKeptConventions(): Conventions | null {
  const { data } = useQuery({
    queryKey: KEY,
    queryFn: () => call("GET", "/conventions", Conventions),
    staleTime: 60_000,
  });
  return data ?? null;
}

/** The conventions in force; the defaults until the server has said. */
export function useConventions(): Conventions {
  return useKeptConventions() ?? DEFAULT_CONVENTIONS;
}

/** Changes conventions: seen at once, kept by the server, one change after another. */
export function useChangeConventions() {
  const queries = useQueryClient();
  return useMutation({
    mutationKey: KEY,
    scope: { id: KEY[0] },
    mutationFn: (change: Conventions) => call("PUT", "/conventions", Conventions, change),
    onMutate: (change) => {
      queries.setQueryData(KEY, change);
      // An answer that is on its way knows nothing of this change.
      return queries.cancelQueries({ queryKey: KEY }, { revert: false });
    },
    onSettled: () => {
      if (queries.isMutating({ mutationKey: KEY }) === 1) queries.invalidateQueries({ queryKey: KEY });
    },
  });
}
