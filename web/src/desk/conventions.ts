import { Conventions, DEFAULT_CONVENTIONS } from "@hound/core/record";
import { useQueryClient } from "@tanstack/react-query";
import { useMemo } from "react";
import { call } from "../api/client.ts";
import { useErrands, useRun } from "./OutboxContext.tsx";
import { useSeen } from "./useSeen.ts";

const KEY = ["conventions"];

/** The conventions in force, with what is changed here and still on its way; null until the server has said. */
export function useKeptConventions(): Conventions | null {
  const { data } = useSeen(KEY, () => call("GET", "/conventions", Conventions), { staleTime: 60_000 });
  const { list } = useErrands();
  return useMemo(() => {
    const changes = list.filter((e) => e.kind === "conventions" && e.refused === undefined).map((e) => e.body);
    return data ? Object.assign({}, data, ...changes) : null;
  }, [data, list]);
}

/** The conventions in force; the defaults until the server has said. */
export function useConventions(): Conventions {
  return useKeptConventions() ?? DEFAULT_CONVENTIONS;
}

/** Changes conventions: seen at once, kept by the server, one change after another. */
export function useChangeConventions(): (change: Partial<Conventions>, words: string) => void {
  const run = useRun();
  const queries = useQueryClient();
  return (change, words) => {
    run("conventions", change, words).then(
      (answer) => queries.setQueryData(KEY, answer),
      () => {},
    );
  };
}
