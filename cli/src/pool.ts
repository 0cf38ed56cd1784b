import { availableParallelism } from "node:os";
import { diagnose, type Outcome, type Task } from "./diagnose.ts";

/** Fewer cases than this are done in this thread: starting others would take longer. */
const WORTH_A_POOL = 3;

/** Diagnoses cases on all cores; outcomes come in the order of the tasks, as soon as those before them are there. */
export async function* diagnoseAll(tasks: readonly Task[]): AsyncGenerator<Outcome> {
  if (tasks.length < WORTH_A_POOL) {
    for (const task of tasks) yield diagnose(task);
    return;
  }
  const { Piscina } = await import("piscina");
  const isSource = import.meta.url.endsWith(".ts");
  const pool = new Piscina<Task, Outcome>({
    filename: new URL(isSource ? "./worker.ts" : "./worker.js", import.meta.url).href,
    maxThreads: Math.min(availableParallelism(), tasks.length),
    ...(isSource ? { execArgv: ["--conditions=source", "--import", "tsx"] } : {}),
  });
  try {
    const running = tasks.map((task) => pool.run(task));
    for (const outcome of running) outcome.catch(() => {});
    for (const outcome of running) yield await outcome;
  } finally {
    await pool.destroy();
  }
}
