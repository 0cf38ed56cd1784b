import { CaseFile, writeCase } from "@hound/core/notation";
import {
  CircuitChange,
  CircuitRevisions,
  Job,
  JobChange,
  JobHistory,
  JobList,
  JobState,
  NewJob,
  NewReading,
  ReadingChange,
} from "@hound/core/record";
import { z } from "zod";
import { type Route, route } from "../http/route.ts";
import type { JobService } from "./service.ts";

const JobId = z.object({ id: z.uuid() });
const ReadingId = z.object({ id: z.uuid(), reading: z.uuid() });
const Limit = z.coerce.number().int().min(1).max(10_000);
const Filter = z.object({
  search: z.string().max(200).default(""),
  state: JobState.optional(),
  deleted: z.enum(["true", "false"]).default("false"),
  limit: Limit.default(200),
});

/** Everything under `/api/jobs` and `/api/cases`. */
export function jobRoutes(jobs: JobService): Route[] {
  return [
    route(
      { method: "get", path: "/jobs", summary: "List jobs", query: Filter, answer: JobList },
      ({ query: { search, state = null, deleted, limit } }) =>
        jobs.list({ search, state, deleted: deleted === "true", limit }),
    ),
    route(
      { method: "post", path: "/jobs", summary: "Make a job", body: NewJob, status: 201, answer: Job },
      ({ body }) => jobs.create(body),
    ),
    route({ method: "get", path: "/jobs/:id", summary: "Open a job", params: JobId, answer: Job }, ({ params }) =>
      jobs.find(params.id),
    ),
    route(
      { method: "patch", path: "/jobs/:id", summary: "Change a job", params: JobId, body: JobChange, answer: Job },
      ({ params, body }) => jobs.change(params.id, body),
    ),
    route(
      { method: "delete", path: "/jobs/:id", summary: "Delete a job; it can be restored", params: JobId },
      async ({ params }) => {
        await jobs.remove(params.id);
        return undefined;
      },
    ),
    route(
      { method: "post", path: "/jobs/:id/restore", summary: "Restore a deleted job", params: JobId, answer: Job },
      ({ params }) => jobs.restore(params.id),
    ),
    route(
      {
        method: "get",
        path: "/jobs/:id/history",
        summary: "What was done to a job, and what it was before",
        params: JobId,
        query: z.object({ limit: Limit.default(200) }),
        answer: JobHistory,
      },
      ({ params, query }) => jobs.history(params.id, query.limit),
    ),
    route(
      {
        method: "put",
        path: "/jobs/:id/circuit",
        summary: "Store a trail as a new revision",
        params: JobId,
        body: CircuitChange,
        answer: Job,
      },
      ({ params, body }) => jobs.changeCircuit(params.id, body),
    ),
    route(
      {
        method: "get",
        path: "/jobs/:id/circuit/revisions",
        summary: "Revisions of a trail, the newest first",
        params: JobId,
        query: z.object({ limit: Limit.default(200) }),
        answer: CircuitRevisions,
      },
      ({ params, query }) => jobs.circuits(params.id, query.limit),
    ),
    route(
      {
        method: "post",
        path: "/jobs/:id/readings",
        summary: "Add a reading",
        params: JobId,
        body: NewReading,
        status: 201,
        answer: Job,
      },
      ({ params, body }) => jobs.addReading(params.id, body),
    ),
    route(
      {
        method: "patch",
        path: "/jobs/:id/readings/:reading",
        summary: "Correct a reading",
        params: ReadingId,
        body: ReadingChange,
        answer: Job,
      },
      ({ params, body }) => jobs.changeReading(params.id, params.reading, body),
    ),
    route(
      {
        method: "delete",
        path: "/jobs/:id/readings/:reading",
        summary: "Delete a reading; it can be restored",
        params: ReadingId,
        status: 200,
        answer: Job,
      },
      ({ params }) => jobs.removeReading(params.id, params.reading),
    ),
    route(
      {
        method: "post",
        path: "/jobs/:id/readings/:reading/restore",
        summary: "Restore a deleted reading",
        params: ReadingId,
        answer: Job,
      },
      ({ params }) => jobs.restoreReading(params.id, params.reading),
    ),
    route(
      { method: "get", path: "/jobs/:id/case", summary: "Export as a case file", params: JobId, answer: CaseFile },
      async ({ params }, response) => {
        const file = await jobs.exportCase(params.id);
        const name = file.title.replace(/[^A-Za-z0-9]+/g, "-").toLowerCase() || "case";
        response.attachment(`${name}.json`).type("application/json").send(writeCase(file));
        return file;
      },
    ),
    route(
      {
        method: "post",
        path: "/cases",
        summary: "Import a case file (its text) as a new job",
        body: z.strictObject({ id: z.uuid().optional(), text: z.string() }),
        status: 201,
        answer: Job,
      },
      ({ body }) => jobs.importCase(body.text, body.id),
    ),
  ];
}
