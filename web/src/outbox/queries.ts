import { QueryCache, QueryClient } from "@tanstack/react-query";
import { isPassing } from "./pump.ts";

/** What the pages ask of the server. As soon as it answers one question, those it did not answer are asked again. */
export function makeQueries(): QueryClient {
  const queries: QueryClient = new QueryClient({
    queryCache: new QueryCache({ onSuccess: () => askAgain(queries) }),
    // A server on this machine answers whatever the browser says of the network.
    defaultOptions: {
      queries: { staleTime: 5_000, retry: 1, networkMode: "always" },
      mutations: { networkMode: "always" },
    },
  });
  return queries;
}

function askAgain(queries: QueryClient) {
  queries.refetchQueries({
    type: "active",
    predicate: ({ state }) => state.status === "error" && state.fetchStatus === "idle" && isPassing(state.error),
  });
}
