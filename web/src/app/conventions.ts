import { Conventions, DEFAULT_CONVENTIONS } from "@hound/core/record";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { call } from "../api/client.ts";

const KEY = ["conventions"];

/** The conventions in force; the defaults until the server has said. */
export function useConventions(): Conventions {
  const { data } = useQuery({
    queryKey: KEY,
    queryFn: () => call("GET", "/conventions", Conventions),
    staleTime: 60_000,
  });
  return data ?? DEFAULT_CONVENTIONS;
}

/** Changes conventions: seen at once, kept by the server. */
export function useChangeConventions() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (change: Conventions) => call("PUT", "/conventions", Conventions, change),
    onMutate: (change) => queries.setQueryData(KEY, change),
    onSettled: () => queries.invalidateQueries({ queryKey: KEY }),
  });
}
