import type { Hunt } from "@hound/core/practice";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useNavigate } from "react-router";
import { newId } from "../app/newId.ts";
import { huntKey } from "./useHunt.ts";

/** Starts a hunt, and goes there. @param begin asks the server for it, under an id of its own */
export function useStart<T>(begin: (id: string, how: T) => Promise<Hunt>) {
  const queries = useQueryClient();
  const navigate = useNavigate();
  return useMutation({
    mutationFn: (how: T) => begin(newId(), how),
    onSuccess: (hunt) => {
      queries.setQueryData(huntKey(hunt.id), hunt);
      void queries.invalidateQueries({ queryKey: ["hunts"] });
      navigate(`/practice/${hunt.id}`);
    },
  });
}
