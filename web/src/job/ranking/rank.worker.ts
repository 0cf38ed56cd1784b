import { planMeasurements, readingsToSettle, type SuspectGroup, verdictOf } from "@hound/core/plan";
import {
  type Explanation,
  explainer,
  type Ranking,
  type RankProblem,
  rankingOf,
  type Weighing,
  weighFaults,
} from "@hound/core/rank";
import { seededRandom } from "@hound/core/simulate";
import type { FromWorker, ToWorker } from "./messages.ts";

/** Milliseconds of work between two looks at the mailbox, and between two rankings that are only on their way. */
const SLICE = 12;
const PARTIAL_EVERY = 200;
/** Suspects explained: those above this share, and at most so many. */
const EXPLAINED = 1e-3;
const MOST_EXPLAINED = 12;
/** Measurements offered: enough for some to be out of reach. */
const OFFERED = 60;

let newest = 0;

/** Ranks off the page's own thread; a newer input ends the work on an older one. */
self.onmessage = ({ data }: MessageEvent<ToWorker>) => {
  newest = data.ticket;
  work(data);
};

async function work(asked: ToWorker) {
  const { ticket, input, plan } = asked;
  const steps = weighFaults(input);
  let sliceStart = performance.now();
  let lastPost = Number.NEGATIVE_INFINITY;
  let isPlanned = !plan;
  for (;;) {
    const step = steps.next();
    if (step.done) {
      post(ticket, step.value.kind === "problem" ? step.value : rankingOf(step.value));
      if (!plan || step.value.kind === "problem") return;
      await pause();
      if (ticket === newest) await explain(ticket, step.value, planNext(asked, step.value));
      return;
    }
    const now = performance.now();
    if (now - lastPost > PARTIAL_EVERY) {
      const weighing = step.value.settle();
      post(ticket, rankingOf(weighing));
      lastPost = now;
      // Single faults are enough to say where to probe next; two faults come later and seldom change it.
      if (!isPlanned) planNext(asked, weighing);
      isPlanned = true;
    }
    if (now - sliceStart < SLICE) continue;
    await pause();
    if (ticket !== newest) return;
    sliceStart = performance.now();
  }
}

const { port1: bell, port2: rope } = new MessageChannel();

/** Lets a newer message in. A timer would wait four milliseconds each time; a message to oneself does not. */
function pause() {
  return new Promise<void>((resume) => {
    bell.onmessage = () => resume();
    rope.postMessage(null);
  });
}

/** @returns suspects that cannot be told apart without dismantling */
function planNext({ ticket, input, standing, school }: ToWorker, weighing: Weighing): readonly SuspectGroup[] {
  const plan = planMeasurements(input, weighing, { standing, school, count: OFFERED });
  if (!plan) return [];
  const verdict = weighing.progress === 1 ? verdictOf(weighing, plan) : null;
  const next = { suggestions: plan.suggestions, toSettle: readingsToSettle(plan, seededRandom(1)), verdict };
  const answer: FromWorker = { kind: "planned", ticket, next };
  self.postMessage(answer);
  return plan.groups.filter((g) => g.members.length > 1);
}

async function explain(ticket: number, weighing: Weighing, groups: readonly SuspectGroup[]) {
  const explainOne = explainer(weighing);
  const explanations: Explanation[] = [];
  for (const suspect of weighing.hypotheses.filter((h) => h.probability >= EXPLAINED).slice(0, MOST_EXPLAINED)) {
    await pause();
    if (ticket !== newest || !explainOne) return;
    explanations.push(explainOne(suspect));
  }
  const answer: FromWorker = { kind: "explained", ticket, insight: { explanations, groups } };
  self.postMessage(answer);
}

function post(ticket: number, result: Ranking | RankProblem) {
  const answer: FromWorker = { kind: "ranked", ticket, result };
  self.postMessage(answer);
}
