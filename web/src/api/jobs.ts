import {
  Believed,
  CircuitRevisions,
  Job,
  JobHistory,
  JobList,
  type LogbookFilter,
  type NewJob,
  type Reading,
  Spent,
} from "@hound/core/record";
import { z } from "zod";
import { call } from "./client.ts";

/** The job endpoints, one function each. */
export const jobsApi = {
  list: (filter: Partial<LogbookFilter>, limit = 200) => {
    const said = Object.entries(filter).flatMap(([key, value]) =>
      value === undefined || value === "" ? [] : [[key, String(value)]],
    );
    return call("GET", `/jobs?${new URLSearchParams([...said, ["limit", String(limit)]])}`, JobList);
  },
  open: (id: string) => call("GET", `/jobs/${id}`, Job),
  create: (job: NewJob) => call("POST", "/jobs", Job, job),
  importCase: (text: string, id?: string) => call("POST", "/cases", Job, { text, ...(id ? { id } : {}) }),
  change: (id: string, change: Record<string, unknown> & { revision: number }) =>
    call("PATCH", `/jobs/${id}`, Job, change),
  remove: (id: string) => call<undefined>("DELETE", `/jobs/${id}`, null),
  restore: (id: string) => call("POST", `/jobs/${id}/restore`, Job),
  saveCircuit: (id: string, revision: number, trail: string) =>
    call("PUT", `/jobs/${id}/circuit`, Job, { revision, trail }),
  history: (id: string, limit: number) => call("GET", `/jobs/${id}/history?limit=${limit}`, JobHistory),
  circuits: (id: string, limit: number) =>
    call("GET", `/jobs/${id}/circuit/revisions?limit=${limit}`, CircuitRevisions),
  believed: (id: string) => call("GET", `/jobs/${id}/believed`, Believed),
  note: (id: string, note: { id: string; text: string }) => call("POST", `/jobs/${id}/notes`, Job, note),
  minutes: (id: string) => call("GET", `/jobs/${id}/minutes`, Spent),
  spend: (id: string, stage: string, minutes: number) =>
    call<undefined>("POST", `/jobs/${id}/minutes`, null, { stage, minutes }),
  empty: () => call("POST", "/jobs/empty", z.strictObject({ jobs: z.number() })),
  addReading: (id: string, reading: { id: string; circuitRevision: number; reading: Reading }) =>
    call("POST", `/jobs/${id}/readings`, Job, reading),
  changeReading: (id: string, readingId: string, revision: number, reading: Reading) =>
    call("PATCH", `/jobs/${id}/readings/${readingId}`, Job, { revision, reading }),
  removeReading: (id: string, readingId: string) => call("DELETE", `/jobs/${id}/readings/${readingId}`, Job),
  restoreReading: (id: string, readingId: string) => call("POST", `/jobs/${id}/readings/${readingId}/restore`, Job),
};
