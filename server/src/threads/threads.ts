import { availableParallelism } from "node:os";
import { Piscina } from "piscina";
import { Problem } from "../problems.ts";
import { LIMITS, type Limits, within } from "./limits.ts";
import work, { type CaseRead, type CircuitLook, type Task } from "./worker.ts";

/** Tasks that wait at most, and seconds after which an idle thread ends. */
const MOST_WAITING = 256;
const IDLE_SECONDS = 20;
/** Texts up to this length are read at once: it takes less than handing them over. */
const SHORT = 2000;

/** What reads trails and case files for the server. */
export interface Reader {
  look(trail: string): Promise<CircuitLook>;
  readCase(text: string): Promise<CaseRead>;
}

/** Reads where it is called: for programs that nobody waits for. */
export const readHere: Reader = {
  look: async (trail) => work({ kind: "look", trail }) as CircuitLook,
  readCase: async (text) => work({ kind: "readCase", text }) as CaseRead,
};

/**
 * Everything that takes long, off the request thread: one thread reads what is to be saved, the others (all cores but
 * one) diagnose, so that neither waits for the other.
 */
export class Threads implements Reader {
  private readonly readingSeconds: number;
  private readonly pools = new Map<"read" | "diagnose", Piscina<Task, unknown>>();

  /** @param limits how long a task may take */
  constructor({ readingSeconds }: Limits = LIMITS) {
    this.readingSeconds = readingSeconds;
  }

  async look(trail: string): Promise<CircuitLook> {
    return trail.length <= SHORT ? readHere.look(trail) : this.read<CircuitLook>({ kind: "look", trail });
  }

  async readCase(text: string): Promise<CaseRead> {
    return text.length <= SHORT ? readHere.readCase(text) : this.read<CaseRead>({ kind: "readCase", text });
  }

  /** @throws Problem `busy` where too many wait; AbortError where the signal comes first */
  async diagnose(task: Task, signal: AbortSignal): Promise<object> {
    return this.run("diagnose", task, signal) as Promise<object>;
  }

  async close() {
    await Promise.all([...this.pools.values()].map((pool) => pool.destroy()));
    this.pools.clear();
  }

  private async read<T>(task: Task): Promise<T> {
    const { readingSeconds } = this;
    try {
      return (await within(readingSeconds, (signal) => this.run("read", task, signal))) as T;
    } catch (error) {
      if (!isAborted(error)) throw error;
      throw new Problem("took-too-long", { detail: `it was not read within ${readingSeconds} seconds` });
    }
  }

  private async run(which: "read" | "diagnose", task: Task, signal: AbortSignal): Promise<unknown> {
    const pool = this.pool(which);
    if (pool.queueSize >= MOST_WAITING) throw new Problem("busy");
    return pool.run(task, { signal });
  }

  private pool(which: "read" | "diagnose"): Piscina<Task, unknown> {
    const known = this.pools.get(which);
    if (known) return known;
    const isSource = import.meta.url.endsWith(".ts");
    const pool = new Piscina<Task, unknown>({
      filename: new URL(isSource ? "./worker.ts" : "./worker.js", import.meta.url).href,
      minThreads: 0,
      maxThreads: which === "read" ? 1 : Math.max(1, availableParallelism() - 1),
      maxQueue: Number.POSITIVE_INFINITY,
      idleTimeout: 1000 * IDLE_SECONDS,
      ...(isSource ? { execArgv: ["--conditions=source", "--import", "tsx"] } : {}),
    });
    this.pools.set(which, pool);
    return pool;
  }
}

/** Whether work was ended by its signal, and not by a mistake. */
export function isAborted(error: unknown): boolean {
  const { name } = error as Error;
  return name === "AbortError" || name === "TimeoutError";
}
