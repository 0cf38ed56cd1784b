import { availableParallelism } from "node:os";
import { type CaseFile, readTrail } from "@hound/core/notation";
import { Piscina } from "piscina";
import { Problem } from "../problems.ts";
import type { Task } from "./worker.ts";

/** Cases that wait at most, seconds one may take, and seconds after which an idle thread ends. */
const MOST_WAITING = 256;
const MOST_SECONDS = 60;
const IDLE_SECONDS = 20;

/** A task without the circuit, which is read here. */
export type Wish = Task extends infer T ? (T extends Task ? Omit<T, "given"> : never) : never;

/** Diagnoses cases for other programs, off the request thread, on all cores but one. */
export class DiagnoseService {
  private pool: Piscina<Task, object> | null = null;

  /** @throws Problem of the first case that is wrong, with its number and place; `busy` where too many wait */
  async all(cases: readonly CaseFile[], wish: Wish): Promise<object[]> {
    const tasks = cases.map((file, n) => ({ ...wish, given: { ...file, circuit: circuitOf(file, n) } }) as Task);
    const signal = AbortSignal.timeout(1000 * MOST_SECONDS);
    const results = await Promise.allSettled(tasks.map((task) => this.threads().run(task, { signal })));
    return results.map((result, n) => {
      if (result.status === "rejected") throw refusalOf(result.reason, n);
      const { value } = result;
      if (!("kind" in value && value.kind === "problem")) return value;
      const { index, message } = value as { index?: number; message?: string };
      const pointer = `/cases/${n}${index === undefined ? "/circuit" : `/readings/${index}`}`;
      throw new Problem("cannot-diagnose", { errors: [{ pointer, detail: message ?? "" }] });
    });
  }

  async close() {
    await this.pool?.destroy();
    this.pool = null;
  }

  private threads(): Piscina<Task, object> {
    const isSource = import.meta.url.endsWith(".ts");
    this.pool ??= new Piscina<Task, object>({
      filename: new URL(isSource ? "./worker.ts" : "./worker.js", import.meta.url).href,
      minThreads: 0,
      maxThreads: Math.max(1, availableParallelism() - 1),
      maxQueue: MOST_WAITING,
      idleTimeout: 1000 * IDLE_SECONDS,
      ...(isSource ? { execArgv: ["--conditions=source", "--import", "tsx"] } : {}),
    });
    return this.pool;
  }
}

function circuitOf(file: CaseFile, n: number) {
  const { circuit, mistakes } = readTrail(file.circuit);
  const wrong = mistakes.filter((m) => m.severity === "mistake");
  if (circuit && wrong.length === 0) return circuit;
  const errors = wrong.map((m) => ({
    pointer: `/cases/${n}/circuit`,
    detail: `line ${m.line}, column ${m.column}: ${m.message}`,
  }));
  throw new Problem("unreadable-case", {
    errors: errors.length > 0 ? errors : [{ pointer: `/cases/${n}/circuit`, detail: "the circuit has no parts" }],
  });
}

function refusalOf(reason: unknown, n: number): Error {
  const { name, message } = reason as Error;
  if (name === "AbortError" || name === "TimeoutError")
    return new Problem("took-too-long", { detail: `case ${n} was not done within ${MOST_SECONDS} seconds` });
  return /queue/i.test(message) ? new Problem("busy") : (reason as Error);
}
