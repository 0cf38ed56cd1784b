// How much slower than a quiet machine this one is just now: by so much the time limits of the tests stretch.
import { availableParallelism } from "node:os";
import { isMainThread, parentPort, Worker } from "node:worker_threads";

/** Milliseconds that `work` takes on each core of a quiet machine of the usual kind. */
const QUIET = 250;
/** A machine that is quiet now may be busy in a minute: so much is always left. */
const RESERVE = 2;
const MOST = 40;

/** Something of what tests do: sums in arrays, small objects, text. @returns milliseconds */
function work() {
  const start = performance.now();
  const values = new Float64Array(4096).fill(1.5);
  let sum = 0;
  for (let round = 0; round < 260; round += 1) {
    for (let i = 1; i < values.length; i += 1) sum += values[i] * values[i - 1] + Math.sqrt(i + round);
    const list = Array.from({ length: 400 }, (_, i) => ({ name: `R${i}`, ohms: sum + i, ends: [i, i + 1] }));
    sum += JSON.parse(JSON.stringify(list)).reduce((s, part) => s + (part.ohms % 7), 0);
  }
  if (!Number.isFinite(sum)) throw new Error("the sum has to be one");
  return performance.now() - start;
}

/**
 * Works on all cores at once, as the tests do, and says by what factor their limits stretch: twice for the load that may
 * come, and as much more as the machine is slow or busy already.
 */
export async function measurePatience() {
  const workers = Array.from({ length: availableParallelism() }, () => new Worker(new URL(import.meta.url)));
  const took = await Promise.all(
    workers.map((worker) => new Promise((done, fail) => worker.on("message", done).on("error", fail))),
  );
  return Math.min(MOST, RESERVE * Math.max(1, Math.max(...took) / QUIET));
}

if (!isMainThread) {
  work();
  parentPort.postMessage(work());
}
