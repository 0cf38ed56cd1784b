import type { Configuration } from "@hound/core/configuration";
import type { Judgement } from "@hound/core/judgement";
import type { School } from "@hound/core/plan";
import type { RankInput, Ranking, RankProblem } from "@hound/core/rank";
import type { BenchAnswer, BenchQuestion, FromWorker, Insight, ToWorker } from "./messages.ts";

/** A worker that has not answered by then is replaced. */
const HUNG_AFTER = 30_000;

interface Listeners {
  readonly result: (result: Ranking | RankProblem, input: RankInput | null) => void;
  readonly proposed: (judgement: Judgement) => void;
  readonly judged: (judgement: Judgement, input: RankInput | null) => void;
  readonly insight: (insight: Insight | null) => void;
  /** How far the single faults of the newest input are. */
  readonly share: (share: number | null) => void;
}

/** One worker that always works on the newest input; a hung one is replaced. */
export class RankClient {
  private worker: Worker | null = null;
  private ticket = 0;
  private input: RankInput | null = null;
  private timer: ReturnType<typeof setTimeout> | undefined;
  private asked = 0;
  private readonly waiting = new Map<number, (answer: BenchAnswer | null) => void>();

  constructor(private readonly on: Listeners) {}

  rank(input: RankInput, plan: boolean, standing: Configuration, school: School) {
    const isSame = this.worker !== null && this.input === input;
    this.worker ??= this.start();
    // What comes for the same input is right however it was asked.
    if (!isSame) this.ticket += 1;
    this.input = input;
    const message: ToWorker = { kind: "rank", ticket: this.ticket, input, isSame, plan, standing, school };
    this.worker.postMessage(message);
    this.on.insight(null);
    this.expectAnswer();
  }

  /** Asks something of the readings last weighed; null where there are none, or the worker is gone. */
  ask(question: BenchQuestion): Promise<BenchAnswer | null> {
    const { worker } = this;
    if (!worker) return Promise.resolve(null);
    const number = ++this.asked;
    const message: ToWorker = { kind: "ask", number, question };
    return new Promise((done) => {
      this.waiting.set(number, done);
      worker.postMessage(message);
    });
  }

  stop() {
    clearTimeout(this.timer);
    this.worker?.terminate();
    this.worker = null;
    for (const done of this.waiting.values()) done(null);
    this.waiting.clear();
  }

  private expectAnswer() {
    clearTimeout(this.timer);
    this.timer = setTimeout(() => this.fail("Ranking took too long and was stopped."), HUNG_AFTER);
  }

  private start(): Worker {
    const worker = takeEarly() ?? new Worker(new URL("./rank.worker.ts", import.meta.url), { type: "module" });
    worker.onmessage = ({ data }: MessageEvent<FromWorker>) => {
      if (data.kind === "answered") {
        this.waiting.get(data.number)?.(data.answer);
        this.waiting.delete(data.number);
        return;
      }
      if (data.ticket !== this.ticket) return;
      if (data.kind === "singles") {
        this.expectAnswer();
        return this.on.share(data.share);
      }
      if (data.kind === "proposed") return this.on.proposed(data.judgement);
      if (data.kind === "judged") return this.on.judged(data.judgement, this.input);
      if (data.kind === "explained") return this.on.insight(data.insight);
      const { result } = data;
      if (result.kind === "ranking" && result.progress < 1) this.expectAnswer();
      else clearTimeout(this.timer);
      this.on.result(result, this.input);
    };
    worker.onerror = (event) => this.fail(`Ranking failed: ${event.message}`);
    return worker;
  }

  private fail(message: string) {
    this.stop();
    this.on.result({ kind: "problem", what: "circuit", message }, this.input);
  }
}

/** The worker that was started before the page was there; once. */
function takeEarly(): Worker | null {
  const page = globalThis as { earlyWorker?: Worker };
  const { earlyWorker = null } = page;
  page.earlyWorker = undefined;
  return earlyWorker;
}
