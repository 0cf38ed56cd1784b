import type { NewHunt } from "@hound/core/practice";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useNavigate } from "react-router";
import { huntsApi } from "../api/hunts.ts";
import { newId } from "../app/newId.ts";
import { huntKey } from "./useHunt.ts";

/** Starts a hunt, and goes there. */
export function useStart() {
  const queries = useQueryClient();
  const navigate = useNavigate();
  return useMutation({
    mutationFn: (hunt: Omit<NewHunt, "id">) => huntsApi.start({ id: newId(), ...hunt }),
    onSuccess: (hunt) => {
      queries.setQueryData(huntKey(hunt.id), hunt);
      void queries.invalidateQueries({ queryKey: ["hunts"] });
      navigate(`/practice/${hunt.id}`);
    },
  });
}
