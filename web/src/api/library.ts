import { LibraryCircuit, LibraryList, type NewLibraryCircuit } from "@hound/core/record";
import { call } from "./client.ts";

/** The library's endpoints, one function each. */
export const libraryApi = {
  list: (search: string, deleted: boolean, limit = 200) =>
    call(
      "GET",
      `/library?${new URLSearchParams({ search, deleted: String(deleted), limit: String(limit) })}`,
      LibraryList,
    ),
  open: (id: string) => call("GET", `/library/${id}`, LibraryCircuit),
  keep: (circuit: NewLibraryCircuit) => call("POST", "/library", LibraryCircuit, circuit),
  change: (id: string, change: { revision: number; name?: string; notes?: string; trail?: string }) =>
    call("PATCH", `/library/${id}`, LibraryCircuit, change),
  remove: (id: string) => call("DELETE", `/library/${id}`, LibraryCircuit),
  restore: (id: string) => call("POST", `/library/${id}/restore`, LibraryCircuit),
};
