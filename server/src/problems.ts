import { MOST_READINGS } from "@hound/core/record";

/** Every way a request can fail: one table. */
export const PROBLEMS = {
  "invalid-input": { status: 400, title: "The request is not understood" },
  "job-not-found": { status: 404, title: "There is no such job" },
  "hunt-not-found": { status: 404, title: "There is no such hunt" },
  "set-not-found": { status: 404, title: "There is no such set of exercises, or no such hunt in it" },
  "hunt-over": { status: 409, title: "This hunt is over" },
  "hunt-moved-on": { status: 409, title: "This hunt went on elsewhere meanwhile" },
  "no-hunt": { status: 422, title: "There can be no hunt on this" },
  "circuit-not-found": { status: 404, title: "There is no such circuit in the library" },
  "reading-not-found": { status: 404, title: "There is no such reading" },
  "not-found": { status: 404, title: "There is nothing at this address" },
  "stale-revision": { status: 409, title: "Somebody changed this in the meantime" },
  "job-deleted": { status: 409, title: "This job is deleted; restore it first" },
  "id-in-use": { status: 409, title: "This id belongs to something else already" },
  "not-paired": { status: 401, title: "This browser is not paired with the server yet" },
  "wrong-code": { status: 403, title: "That is not the code that the server's terminal shows" },
  "too-many-tries": { status: 429, title: "Too many wrong codes; wait a minute" },
  "foreign-origin": { status: 403, title: "Only this server's own pages may do that" },
  "unknown-host": { status: 421, title: "This server goes by other names" },
  "not-json": { status: 415, title: "The body has to be JSON" },
  "bad-range": { status: 416, title: "There is no such stretch of this file" },
  "precondition-failed": { status: 412, title: "What was asked for has changed" },
  "disk-full": { status: 507, title: "The disk of the server is full; nothing was saved" },
  "cannot-write": { status: 503, title: "The database cannot be written; nothing was saved" },
  "too-large": { status: 413, title: "The request is too large" },
  "copy-not-found": { status: 404, title: "There is no such copy" },
  "meter-elsewhere": { status: 403, title: "Meters elsewhere than on this machine are not allowed" },
  "meter-not-found": { status: 404, title: "There is no such meter" },
  "picture-not-found": { status: 404, title: "There is no such picture" },
  "no-picture": { status: 422, title: "This is no picture that can be kept: JPEG, PNG or WebP" },
  "too-many-readings": { status: 422, title: `A job holds at most ${MOST_READINGS} readings` },
  "no-workshop": { status: 422, title: "This cannot be brought in; nothing was changed" },
  "not-empty": { status: 409, title: "There are jobs here already; a workshop is brought into an empty one" },
  "changed-meanwhile": { status: 409, title: "Somebody wrote something meanwhile; nothing was brought in. Try again" },
  "no-backup": { status: 422, title: "This cannot be put back; nothing was changed" },
  "unreadable-case": { status: 422, title: "The case file has mistakes" },
  "cannot-diagnose": { status: 422, title: "The case cannot be computed" },
  "took-too-long": { status: 503, title: "This took too long and was stopped" },
  "too-many-pages": { status: 503, title: "Too many pages listen to this server; close some" },
  busy: { status: 503, title: "Too many cases are waiting; try again in a moment" },
  internal: { status: 500, title: "Something went wrong on our side" },
} as const;
export type ProblemCode = keyof typeof PROBLEMS;

export interface ProblemExtras {
  readonly detail?: string;
  readonly errors?: readonly { readonly pointer: string; readonly detail: string }[];
  readonly current?: unknown;
}

/** Thrown to answer with a problem; anything else thrown is a 500. */
export class Problem extends Error {
  constructor(
    readonly code: ProblemCode,
    readonly extras: ProblemExtras = {},
  ) {
    super(PROBLEMS[code].title);
    this.name = "Problem";
  }
}
