import { CaseFile, writeCase } from "@hound/core/notation";
import {
  Believed,
  CircuitChange,
  CircuitRevisions,
  Job,
  JobChange,
  JobHistory,
  NewJob,
  NewNote,
  NewReading,
  ReadingChange,
  Spent,
  TIMED_STAGES,
} from "@hound/core/record";
import { z } from "zod";
import { type Route, route } from "../http/route.ts";
import type { JobService } from "./service.ts";

const JobId = z.object({ id: z.uuid() });
const ReadingId = z.object({ id: z.uuid(), reading: z.uuid() });
const Limit = z.coerce.number().int().min(1).max(10_000);
/** Everything under `/api/jobs` and `/api/cases`. */
export function jobRoutes(jobs: JobService): Route[] {
  return [
    route(
      { method: "post", path: "/jobs", summary: "Make a job", body: NewJob, status: 201, answer: Job },
      ({ body, who }) => jobs.as(who).create(body),
    ),
    route({ method: "get", path: "/jobs/:id", summary: "Open a job", params: JobId, answer: Job }, ({ params }) =>
      jobs.find(params.id),
    ),
    route(
      { method: "patch", path: "/jobs/:id", summary: "Change a job", params: JobId, body: JobChange, answer: Job },
      ({ params, body, who }) => jobs.as(who).change(params.id, body),
    ),
    route(
      { method: "delete", path: "/jobs/:id", summary: "Delete a job; it can be restored", params: JobId },
      async ({ params, who }) => {
        await jobs.as(who).remove(params.id);
        return undefined;
      },
    ),
    route(
      { method: "post", path: "/jobs/:id/restore", summary: "Restore a deleted job", params: JobId, answer: Job },
      ({ params, who }) => jobs.as(who).restore(params.id),
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
        method: "get",
        path: "/jobs/:id/believed",
        summary: "The habits that counted for a job, from when on",
        params: JobId,
        answer: Believed,
      },
      ({ params }) => jobs.believed(params.id),
    ),
    route(
      {
        method: "post",
        path: "/jobs/:id/notes",
        summary: "Note something in the log",
        params: JobId,
        body: NewNote,
        status: 201,
        answer: Job,
      },
      ({ params, body, who }) => jobs.as(who).addNote(params.id, body),
    ),
    route(
      {
        method: "post",
        path: "/jobs/:id/minutes",
        summary: "Add to the minutes spent in a stage",
        params: JobId,
        body: z.strictObject({ stage: z.enum(TIMED_STAGES), minutes: z.number().positive().max(600) }),
      },
      ({ params, body }) => jobs.addMinutes(params.id, body.stage, body.minutes),
    ),
    route(
      { method: "get", path: "/jobs/:id/minutes", summary: "Minutes spent by stage", params: JobId, answer: Spent },
      ({ params }) => jobs.minutes(params.id),
    ),
    route(
      {
        method: "post",
        path: "/jobs/empty",
        summary: "Let deleted jobs go for good",
        answer: z.strictObject({ jobs: z.number().int() }),
      },
      async () => ({ jobs: await jobs.empty() }),
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
      ({ params, body, who }) => jobs.as(who).changeCircuit(params.id, body),
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
      ({ params, body, who }) => jobs.as(who).addReading(params.id, body),
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
      ({ params, body, who }) => jobs.as(who).changeReading(params.id, params.reading, body),
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
      ({ params, who }) => jobs.as(who).removeReading(params.id, params.reading),
    ),
    route(
      {
        method: "post",
        path: "/jobs/:id/readings/:reading/restore",
        summary: "Restore a deleted reading",
        params: ReadingId,
        answer: Job,
      },
      ({ params, who }) => jobs.as(who).restoreReading(params.id, params.reading),
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
      ({ body, who }) => jobs.as(who).importCase(body.text, body.id),
    ),
  ];
}
