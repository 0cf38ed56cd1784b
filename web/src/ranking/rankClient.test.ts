import type { Judgement } from "@hound/core/judgement";
import type { RankInput, Ranking } from "@hound/core/rank";
import { afterEach, beforeEach, expect, it, vi } from "vitest";
import type { FromWorker, ToWorker } from "./messages.ts";
import { RankClient } from "./rankClient.ts";

/** A worker that says nothing by itself. */
class StillWorker {
  static made: StillWorker[] = [];
  readonly heard: ToWorker[] = [];
  onmessage: ((event: { data: FromWorker }) => void) | null = null;
  onerror: ((event: { message: string }) => void) | null = null;
  isEnded = false;
  constructor() {
    StillWorker.made.push(this);
  }
  postMessage(message: ToWorker) {
    this.heard.push(message);
  }
  terminate() {
    this.isEnded = true;
  }
  says(data: FromWorker) {
    this.onmessage?.({ data });
  }
}

const inputOf = (title: string) => ({ circuit: { title }, readings: [] }) as unknown as RankInput;
const rankingOf = (progress: number) => ({ kind: "ranking", progress }) as Ranking;
const [A, B] = [inputOf("A"), inputOf("B")];

function clientAndTold() {
  const told: unknown[] = [];
  const client = new RankClient({
    result: (result, of) => told.push([result.kind === "problem" ? result.message : result.progress, of]),
    proposed: () => told.push("proposed"),
    judged: (_, of) => told.push(["judged", of]),
    insight: (insight) => insight && told.push("insight"),
    share: (share) => told.push(share),
  });
  const rank = (input: RankInput) => client.rank(input, true, {}, "information");
  return { client, told, rank };
}

beforeEach(() => {
  vi.useFakeTimers();
  StillWorker.made = [];
  vi.stubGlobal("Worker", StillWorker);
});
afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

it("passes on nothing that is of an older input than the one asked for last", () => {
  const { told, rank } = clientAndTold();
  rank(A);
  rank(B);
  const [worker] = StillWorker.made;
  const [first, second] = worker.heard.map((m) => (m.kind === "rank" ? m.ticket : 0));
  const judgement = {} as Judgement;
  worker.says({ kind: "ranked", ticket: first, result: rankingOf(1) });
  worker.says({ kind: "judged", ticket: first, judgement });
  worker.says({ kind: "proposed", ticket: first, judgement });
  worker.says({ kind: "singles", ticket: first, share: 0.5 });
  expect(told).toEqual([]);
  worker.says({ kind: "singles", ticket: second, share: 0.5 });
  worker.says({ kind: "ranked", ticket: second, result: rankingOf(0.2) });
  worker.says({ kind: "judged", ticket: second, judgement });
  expect(told).toEqual([0.5, [0.2, B], ["judged", B]]);
});

it("takes what comes for the same input however it was asked, and asks a worker that stands for an answer", async () => {
  const { client, told, rank } = clientAndTold();
  expect(await client.ask({ of: "proof" })).toBeNull();
  rank(A);
  rank(A);
  const [worker] = StillWorker.made;
  expect(worker.heard).toMatchObject([
    { isSame: false, ticket: 1 },
    { isSame: true, ticket: 1 },
  ]);
  worker.says({ kind: "ranked", ticket: 1, result: rankingOf(1) });
  expect(told).toEqual([[1, A]]);
  const [one, other] = [client.ask({ of: "proof" }), client.ask({ of: "deadLoad", part: "M1" })];
  worker.says({ kind: "answered", number: 2, answer: { of: "procedure", steps: [] } });
  expect(await other).toEqual({ of: "procedure", steps: [] });
  client.stop();
  expect(await one).toBeNull();
});

it("replaces a worker that hangs or fails, and says so; one that goes on is waited for", () => {
  const { told, rank } = clientAndTold();
  rank(A);
  vi.advanceTimersByTime(29_000);
  StillWorker.made[0].says({ kind: "ranked", ticket: 1, result: rankingOf(0.5) });
  vi.advanceTimersByTime(29_000);
  expect(StillWorker.made[0].isEnded).toBe(false);
  vi.advanceTimersByTime(2000);
  expect(StillWorker.made[0].isEnded).toBe(true);
  expect(told.at(-1)).toEqual(["Ranking took too long and was stopped.", A]);
  rank(A);
  expect(StillWorker.made).toHaveLength(2);
  // Done is done: nobody waits any longer.
  StillWorker.made[1].says({ kind: "ranked", ticket: 2, result: rankingOf(1) });
  vi.advanceTimersByTime(60_000);
  expect(StillWorker.made[1].isEnded).toBe(false);
  StillWorker.made[1].onerror?.({ message: "out of memory" });
  expect(told.at(-1)).toEqual(["Ranking failed: out of memory", A]);
});
