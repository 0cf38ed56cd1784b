import type { CaseFile } from "@hound/core/notation";
import { Problem } from "../problems.ts";
import { LIMITS, type Limits, within } from "../threads/limits.ts";
import { isAborted, type Threads } from "../threads/threads.ts";
import type { Task, Unreadable } from "../threads/worker.ts";

/** A task without the case. */
export type Wish = Task extends infer T ? (T extends { readonly file: CaseFile } ? Omit<T, "file"> : never) : never;

/** Diagnoses cases for other programs. */
export class DiagnoseService {
  private readonly seconds: number;

  /** @param limits how long one request may take */
  constructor(
    private readonly threads: Threads,
    { diagnosingSeconds }: Limits = LIMITS,
  ) {
    this.seconds = diagnosingSeconds;
  }

  /**
   * @param gone ends the work: whoever asked does not wait any more
   * @throws Problem of the first case that is wrong, with its number and place; `busy` where too many wait
   */
  async all(cases: readonly CaseFile[], wish: Wish, gone: AbortSignal): Promise<object[]> {
    const results = await within(
      this.seconds,
      (signal) => Promise.allSettled(cases.map((file) => this.threads.diagnose({ ...wish, file } as Task, signal))),
      gone,
    );
    return results.map((result, n) => {
      if (result.status === "rejected") throw refusalOf(result.reason, n, this.seconds);
      const { value } = result;
      if (isOf("unreadable", value)) throw unreadable(value as Unreadable, n);
      if (!isOf("problem", value)) return value;
      const { index, message } = value as { index?: number; message?: string };
      const pointer = `/cases/${n}${index === undefined ? "/circuit" : `/readings/${index}`}`;
      throw new Problem("cannot-diagnose", { errors: [{ pointer, detail: message ?? "" }] });
    });
  }
}

const isOf = (kind: string, value: object) => "kind" in value && value.kind === kind;

function unreadable({ mistakes }: Unreadable, n: number): Problem {
  const pointer = `/cases/${n}/circuit`;
  const errors = mistakes.map((m) => ({ pointer, detail: `line ${m.line}, column ${m.column}: ${m.message}` }));
  return new Problem("unreadable-case", {
    errors: errors.length > 0 ? errors : [{ pointer, detail: "the circuit has no parts" }],
  });
}

function refusalOf(reason: unknown, n: number, seconds: number): Error {
  if (!isAborted(reason)) return reason as Error;
  return new Problem("took-too-long", { detail: `case ${n} was not done within ${seconds} seconds` });
}
