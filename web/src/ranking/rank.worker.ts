import { buildNetwork } from "@hound/core/circuit";
import { reachSteps } from "@hound/core/coach";
import { judgeSteps } from "@hound/core/judgement";
import { planSteps, type Steps, type SuspectGroup } from "@hound/core/plan";
import {
  type Explanation,
  explainer,
  type Ranking,
  type RankProblem,
  rankingOf,
  type Weighing,
  weighFaults,
  withoutHabits,
} from "@hound/core/rank";
import { meterData } from "@hound/core/record";
import { seededRandom } from "@hound/core/simulate";
import { answerTo, type Weighed } from "./answers.ts";
import type { BenchQuestion, FromWorker, ToRank, ToWorker } from "./messages.ts";

type ReachQuestion = Extract<BenchQuestion, { of: "reaches" }>;

/** Milliseconds of work between two looks at the mailbox, and between two rankings that are only on their way … */
const SLICE = 12;
const PARTIAL_EVERY = 200;
/** … of which making them takes no more than one part in so many. */
const PARTIAL_SHARE = 8;
/** Suspects that cross to the page at each of them, and single faults besides: nobody reads further. */
const LISTED = 200;
/** … and until the hand is told what to read next by single faults, where two at once take longer. */
const LONG = 1200;
/** In circuits of more parts than this fewer ways tell what to read next, and all of them where the job stands. */
const MANY = 20;
const FEWER_WAYS = 96;
/** Suspects explained: those above this share, and at most so many. */
const EXPLAINED = 1e-3;
const MOST_EXPLAINED = 12;
/** Measurements offered: enough for some to be out of reach. */
const OFFERED = 60;

/** What is weighed, or was last; who asks for the same again is told without its being weighed again. */
interface Task {
  asked: ToRank;
  outcome: Weighing | RankProblem | null;
  /** When the next ranking may be shown that is only on its way. */
  nextPost: number;
  readonly begun: number;
  isProposed: boolean;
  /** When it was last told how far the single faults are. */
  lastTold: number;
}

let task: Task | null = null;
/** The readings that were last weighed to the end, none of them half typed. */
let weighed: Weighed | null = null;

/** Ranks off the page's own thread; another input ends the work on an older one. */
self.onmessage = ({ data }: MessageEvent<ToWorker>) => {
  if (data.kind === "ask") {
    if (data.question.of === "reaches") {
      answerReaches(data.number, data.question);
      return;
    }
    const answered: FromWorker = {
      kind: "answered",
      number: data.number,
      answer: weighed && answerTo(data.question, weighed),
    };
    self.postMessage(answered);
    return;
  }
  const fresh = {
    asked: data,
    nextPost: Number.NEGATIVE_INFINITY,
    lastTold: performance.now(),
    isProposed: !data.plan,
  };
  if (!task || !data.isSame) {
    task = { outcome: null, begun: performance.now(), ...fresh };
    weigh(task);
  } else {
    Object.assign(task, fresh);
    if (task.outcome) report(task.outcome, data);
  }
};

async function weigh(own: Task) {
  const steps = weighFaults(own.asked.input);
  let sliceStart = performance.now();
  for (;;) {
    const step = steps.next();
    if (step.done) {
      own.outcome = step.value;
      await report(step.value, own.asked);
      return;
    }
    const now = performance.now();
    if (step.value.kind === "singles") {
      if (now - own.lastTold > PARTIAL_EVERY) {
        const working: FromWorker = { kind: "singles", ticket: own.asked.ticket, share: step.value.share };
        self.postMessage(working);
        own.lastTold = now;
      }
    } else if (now > own.nextPost) {
      const weighing = step.value.settle();
      post(own.asked.ticket, rankingOf(weighing, LISTED));
      const end = performance.now();
      own.nextPost = end + Math.max(PARTIAL_EVERY, PARTIAL_SHARE * (end - now));
      if (!own.isProposed && now - own.begun > LONG) {
        own.isProposed = true;
        await tell("proposed", own.asked, weighing, FEWER_WAYS);
        if (task !== own) return;
      }
    }
    if (now - sliceStart < SLICE) continue;
    await pause();
    if (task !== own) return;
    sliceStart = performance.now();
  }
}

async function report(outcome: Weighing | RankProblem, asked: ToRank) {
  post(asked.ticket, outcome.kind === "problem" ? outcome : rankingOf(outcome, LISTED));
  if (!asked.plan || outcome.kind === "problem") return;
  weighed = { input: asked.input, weighing: outcome, standing: asked.standing, school: asked.school };
  await pause();
  const isLarge = outcome.prepared.network.branches.length > MANY;
  if (isLarge && task?.asked === asked && !task.isProposed) await tell("proposed", asked, outcome, FEWER_WAYS);
  const groups = task?.asked === asked ? await judgeAll(asked, outcome) : null;
  if (groups) await explain(asked, outcome, groups);
}

const { port1: bell, port2: rope } = new MessageChannel();
/** Who waits for the bell, in the order of the pulls. */
const waiting: (() => void)[] = [];
bell.onmessage = () => waiting.shift()?.();

/** Lets a newer message in. A timer would wait four milliseconds each time; a message to oneself does not. */
function pause() {
  return new Promise<void>((resume) => {
    waiting.push(resume);
    rope.postMessage(null);
  });
}

/**
 * Does it in slices, between which newer messages come in; null where one of them asked for something else.
 * @param asked whom it is for; null: it is wanted whatever is weighed
 */
async function inSlices<T>(steps: Steps<T>, asked: ToRank | null): Promise<{ readonly value: T } | null> {
  let sliceStart = performance.now();
  for (;;) {
    const step = steps.next();
    if (step.done) return { value: step.value };
    if (performance.now() - sliceStart < SLICE) continue;
    await pause();
    if (asked !== null && task?.asked !== asked) return null;
    sliceStart = performance.now();
  }
}

/**
 * Says where the job stands, what to do next and how it is proved; nothing before it is worth obeying.
 * @returns suspects that cannot be told apart without dismantling; null where something else was asked for meanwhile
 */
async function judgeAll(asked: ToRank, weighing: Weighing): Promise<readonly SuspectGroup[] | null> {
  const told = await tell("judged", asked, weighing);
  return told && (told.plan?.groups.filter((g) => g.members.length > 1) ?? []);
}

async function tell(kind: "proposed" | "judged", asked: ToRank, weighing: Weighing, ways?: number) {
  const { ticket, input, standing, school } = asked;
  const options = { standing, school, count: OFFERED, ...(ways ? { ways } : {}) };
  const planned = await inSlices(planSteps(input, weighing, options), asked);
  if (!planned) return null;
  const { value: plan } = planned;
  if (!plan) return { plan };
  const judged = await inSlices(judgeSteps(input, weighing, plan, seededRandom(1)), asked);
  if (!judged) return null;
  const message: FromWorker = { kind, ticket, judgement: judged.value };
  self.postMessage(message);
  return { plan };
}

/** Beside whatever is weighed, a slice of time at a time. */
async function answerReaches(number: number, { circuit, standing, meter }: ReachQuestion) {
  const worked = await inSlices(reachSteps(buildNetwork(circuit), standing, meterData(meter)), null);
  const answered: FromWorker = { kind: "answered", number, answer: worked && { of: "reaches", reaches: worked.value } };
  self.postMessage(answered);
}

async function explain(asked: ToRank, weighing: Weighing, groups: readonly SuspectGroup[]) {
  const explainOne = explainer(weighing);
  const explanations: Explanation[] = [];
  for (const suspect of weighing.hypotheses.filter((h) => h.probability >= EXPLAINED).slice(0, MOST_EXPLAINED)) {
    await pause();
    if (task?.asked !== asked || !explainOne) return;
    explanations.push(explainOne(suspect));
  }
  const answer: FromWorker = {
    kind: "explained",
    ticket: asked.ticket,
    insight: { explanations, groups, habits: withoutHabits(weighing) },
  };
  self.postMessage(answer);
}

function post(ticket: number, result: Ranking | RankProblem) {
  const answer: FromWorker = { kind: "ranked", ticket, result };
  self.postMessage(answer);
}
