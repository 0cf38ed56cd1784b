import type { Job, NewJob } from "@hound/core/record";
import type { jobsApi } from "../api/jobs.ts";
import type { Draft, Op } from "./ops.ts";

export type DeskApi = Pick<
  typeof jobsApi,
  "create" | "saveCircuit" | "addReading" | "changeReading" | "removeReading" | "restoreReading" | "change" | "open"
>;

/** One thing to be sent. */
export type Step =
  | { readonly what: "job"; readonly start: NewJob }
  | { readonly what: "circuit"; readonly text: string }
  | { readonly what: "op"; readonly op: Op };

/**
 * What goes out next: the job itself, a trail that lost, the trail that holds if it changed, else the oldest change. Null
 * when nothing is left.
 */
export function nextStep(job: Job, { start, text, pending, refused }: Omit<Draft, "base">): Step | null {
  if (start) return { what: "job", start };
  const [op] = pending;
  if (op?.op === "store") return { what: "op", op };
  // A trail that was refused is sent again only when it says something else.
  const isRefused = refused.some((r) => r.what === "circuit" && r.text === text);
  if (text !== job.circuit.trail && !isRefused) return { what: "circuit", text };
  return op ? { what: "op", op } : null;
}

/** Sends it. Every change has an id or a revision of its own, so that sending it twice does it once. */
export function send(api: DeskApi, job: Job, step: Step): Promise<Job> {
  switch (step.what) {
    case "job":
      return api.create(step.start);
    case "circuit":
      return api.saveCircuit(job.id, job.circuit.revision, step.text);
    default:
      return sendOp(api, job, step.op);
  }
}

function sendOp(api: DeskApi, job: Job, op: Op): Promise<Job> {
  const { id } = job;
  switch (op.op) {
    case "set":
      return api.change(id, { ...op.fields, revision: job.revision });
    case "store":
      return api.saveCircuit(id, job.circuit.revision, op.text);
    case "add":
      return api.addReading(id, { id: op.id, circuitRevision: job.circuit.revision, reading: op.reading });
    case "change": {
      const revision = job.readings.find((r) => r.id === op.id)?.revision ?? 0;
      return api.changeReading(id, op.id, revision, op.reading);
    }
    case "remove":
    case "drop":
      return api.removeReading(id, op.id);
    case "restore":
      return api.restoreReading(id, op.id);
    default:
      return op satisfies never;
  }
}
