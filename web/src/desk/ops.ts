import type { Job, JobField, JobReading, NewJob, Reading } from "@hound/core/record";

/** A change of the readings that is on its way to the server. */
export type ReadingOp =
  | { readonly op: "add"; readonly id: string; readonly reading: Reading }
  | { readonly op: "change"; readonly id: string; readonly reading: Reading; readonly before: Reading }
  | { readonly op: "remove" | "restore"; readonly id: string; readonly reading: Reading };

/** What takes a change of the readings back. */
export function inverseOf(op: ReadingOp): ReadingOp {
  const { id, reading } = op;
  switch (op.op) {
    case "add":
    case "restore":
      return { op: "remove", id, reading };
    case "remove":
      return { op: "restore", id, reading };
    case "change":
      return { op: "change", id, reading: op.before, before: reading };
    default:
      return op satisfies never;
  }
}

export type Fields = Partial<Pick<Job, JobField>>;

/**
 * A change that is on its way to the server. `store` keeps a trail that lost against another among the versions, `drop`
 * deletes a reading that cannot be read any more.
 */
export type Op =
  | ReadingOp
  | { readonly op: "set"; readonly id: string; readonly fields: Fields }
  | { readonly op: "store"; readonly id: string; readonly text: string }
  | { readonly op: "drop"; readonly id: string };

/** A change that the server refused for good: it stays until somebody decides. */
export type Refused =
  | { readonly what: "op"; readonly op: Op; readonly why: string }
  | { readonly what: "circuit"; readonly text: string; readonly why: string }
  | { readonly what: "job"; readonly why: string };

/** What of a job is not saved yet, as it is kept on this device. */
export interface Draft {
  /** The job as the server had it when this was begun. */
  readonly base: Job;
  /** What is to be made first: the server does not have the job yet. */
  readonly start: NewJob | null;
  readonly text: string;
  readonly pending: readonly Op[];
  readonly refused: readonly Refused[];
}

export interface DeskReading {
  readonly id: string;
  readonly reading: Reading;
  readonly unsent: boolean;
}

/** A job with its fields as they will be. */
export function withFields(job: Job, pending: readonly Op[]): Job {
  const set = pending.flatMap((op) => (op.op === "set" ? [op.fields] : []));
  return set.length === 0 ? job : Object.assign({}, job, ...set);
}

/** Readings as they will be, with what is still on its way. */
export function readingsOf({ job, pending }: { readonly job: Job; readonly pending: readonly Op[] }): DeskReading[] {
  let list: DeskReading[] = job.readings.map((r: JobReading) => ({ id: r.id, reading: r.reading, unsent: false }));
  for (const op of pending) {
    if (op.op === "set" || op.op === "store" || op.op === "drop") continue;
    const rest = list.filter((r) => r.id !== op.id);
    if (op.op === "remove") list = rest;
    else if (op.op === "change")
      list = list.map((r) => (r.id === op.id ? { ...r, reading: op.reading, unsent: true } : r));
    else list = [...rest, { id: op.id, reading: op.reading, unsent: true }];
  }
  return list;
}
