import { LibraryChange, LibraryCircuit, LibraryList, NewLibraryCircuit } from "@hound/core/record";
import { z } from "zod";
import { type Route, route } from "../http/route.ts";
import type { LibraryService } from "./service.ts";

const Id = z.object({ id: z.uuid() });
const Filter = z.object({
  search: z.string().max(200).default(""),
  deleted: z.enum(["true", "false"]).default("false"),
  limit: z.coerce.number().int().min(1).max(10_000).default(200),
});

/** Everything under `/api/library`. */
export function libraryRoutes(library: LibraryService): Route[] {
  return [
    route(
      { method: "get", path: "/library", summary: "List the circuits kept", query: Filter, answer: LibraryList },
      ({ query: { search, deleted, limit } }) => library.list(search, deleted === "true", limit),
    ),
    route(
      {
        method: "post",
        path: "/library",
        summary: "Keep a circuit by name",
        body: NewLibraryCircuit,
        status: 201,
        answer: LibraryCircuit,
      },
      ({ body }) => library.create(body),
    ),
    route(
      {
        method: "get",
        path: "/library/:id",
        summary: "A circuit with its revisions",
        params: Id,
        answer: LibraryCircuit,
      },
      ({ params }) => library.find(params.id),
    ),
    route(
      {
        method: "patch",
        path: "/library/:id",
        summary: "Rename a circuit, or store a new revision of it",
        params: Id,
        body: LibraryChange,
        answer: LibraryCircuit,
      },
      ({ params, body }) => library.change(params.id, body),
    ),
    route(
      {
        method: "delete",
        path: "/library/:id",
        summary: "Delete a circuit; it can be restored",
        params: Id,
        status: 200,
        answer: LibraryCircuit,
      },
      ({ params }) => library.setDeleted(params.id, true),
    ),
    route(
      {
        method: "post",
        path: "/library/:id/restore",
        summary: "Restore a deleted circuit",
        params: Id,
        answer: LibraryCircuit,
      },
      ({ params }) => library.setDeleted(params.id, false),
    ),
  ];
}
