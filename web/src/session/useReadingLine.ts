import type { Circuit } from "@hound/core/circuit";
import { type AskedSum, askedSum, isImpossible, missedReach } from "@hound/core/coach";
import { type Configuration, CURRENT_STEPS } from "@hound/core/configuration";
import type { Judgement } from "@hound/core/judgement";
import { type Proposal, type QuickReading, readQuick } from "@hound/core/notation";
import type { Measurement } from "@hound/core/plan";
import type { RankInput } from "@hound/core/rank";
import { isOver, meterData, type NumericReading, type Reading, situationOf, takenSo } from "@hound/core/record";
import { type RefObject, useEffect, useMemo, useRef, useState } from "react";
import { useOnDevice } from "../app/device.ts";
import { useNotice } from "../app/Notice.tsx";
import { useConventions } from "../desk/conventions.ts";
import { useDesk } from "../desk/DeskContext.tsx";
import { useKept } from "../desk/useKept.ts";
import { useSame } from "../desk/useSame.ts";
import { useHabits } from "../ranking/useHabits.ts";
import { type Ranked, useRanking } from "../ranking/useRanking.ts";
import { placeOf, valueOfReading } from "../words/quantities.ts";
import { healthyWords } from "./healthy.ts";
import { type LineQuestion, lineQuestions } from "./lineQuestions.ts";
import { measurementOf, type NextStep } from "./proposal.ts";
import type { StandingState } from "./Standing.tsx";
import { BEGUN, type Effect, type Found, isHeld, type Session, stepsOf, turn, type Verb } from "./session.ts";
import { type CurrentSteps, useCurrentSteps } from "./useCurrentSteps.ts";
import { useMeterInUse } from "./useMeterInUse.ts";
import { type PointKnown, usePoint } from "./usePoint.ts";
import { useReaches } from "./useReaches.ts";

/** What can be done at the bench; each is the same function all the time. */
interface Verbs {
  readonly type: (text: string) => void;
  /** Records what is typed, as it is; where there is nothing, ticks the next step of a branch in hand. */
  readonly record: () => void;
  /** Records a line as if it were typed, and leaves what is typed. */
  readonly say: (line: string) => void;
  /** Takes the correction of a question: the first one where none is named. */
  readonly accept: (question?: LineQuestion) => void;
  /** Records a reading that came another way, such as from a meter; `id` is its own. */
  readonly take: (reading: Reading, id?: string, echo?: string) => void;
  readonly takeBack: () => void;
  readonly choose: (key: string) => void;
  readonly putOff: (key: string, how: "never" | "later") => void;
  /** Proposes the best measurement of another kind: volts, amperes, ohms, a look in turn. */
  readonly nextKind: () => void;
  /** Proposes these before all else, in this order: what proves a repair; null for what the ranking wants. */
  readonly insist: (measurements: readonly Measurement[] | null) => void;
}

/** The reading line with all that hangs on it: what is typed, what is understood, what is proposed, and the ranking. */
export interface ReadingLine extends Verbs {
  readonly typed: string;
  readonly field: RefObject<HTMLInputElement | null>;
  readonly understood: QuickReading;
  /** What to measure next, the best first; null while it is worked out. */
  readonly steps: readonly NextStep[] | null;
  /** What a healthy circuit shows at the first of them. */
  readonly healthy: string | null;
  readonly ranked: Ranked;
  /** What is ranked: the circuit with its readings, the one being typed among them. */
  readonly input: RankInput | null;
  /** Where the probes go next: what is typed, or what is proposed. */
  readonly point: NumericReading | null;
  readonly known: PointKnown;
  /** A sum that was asked for by hand. */
  readonly sum: AskedSum | null;
  readonly questions: readonly LineQuestion[];
  /** It was asked about: only when it is said once more is it recorded. */
  readonly isAsked: boolean;
  readonly current: CurrentSteps | null;
}

/**
 * @param isRanked false where nobody sees the ranking: it waits
 * @param isByProbes true where a meter sends its readings: what probes alone can read is proposed first
 */
export function useReadingLine(isRanked: boolean, stands: StandingState, isByProbes = false): ReadingLine {
  const { standing } = stands;
  const { state, readings, drawn, meter } = useDesk();
  const { attack } = useConventions();
  const field = useRef<HTMLInputElement>(null);
  const at = useRef<At | null>(null);
  const { session, verbs, atFirst } = useVerbs(at, state.job.id);
  const { typed, judgement, insisted, chosen, putOff } = session;
  // With a branch in hand, what is read is its current, until it was.
  const { inHand: held } = standing;
  const inHand = held && held.done <= CURRENT_STEPS.indexOf("read") ? held.through : undefined;
  const asked = useMemo(
    () => (inHand === undefined ? session.asked : measurementOf({ quantity: "current", through: inHand })),
    [inHand, session.asked],
  );
  const taken = useMemo(() => readings.map((r) => r.reading), [readings]);
  const inUse = useMeterInUse();
  const isDone = isOver(state.job.state);
  const [who] = useOnDevice("who", "");
  const steps = useMemo(
    () =>
      stepsOf({ insisted, asked, putOff, chosen, judgement }, drawn?.circuit ?? null, taken, {
        isByProbes,
        isOver: isDone,
      }),
    [drawn, taken, insisted, asked, putOff, chosen, judgement, isByProbes, isDone],
  );
  const proposal = steps?.[0]?.proposal ?? null;
  const understood = useMemo(
    (): QuickReading =>
      drawn ? readQuick(typed, drawn.circuit, proposal ?? undefined, { standing, meter }) : { kind: "empty" },
    [typed, drawn, proposal, standing, meter],
  );
  // As it will be recorded: with the meter in hand, and the range it is set to.
  const provisional = useSame(understood.kind === "reading" ? inUse.on(understood.reading) : null);
  const numeric = provisional && provisional.quantity !== "observation" ? provisional : null;
  // What no supply here can bring about is asked about first, and moves nothing until it is said twice.
  const isBeyond = drawn !== null && numeric !== null && isImpossible(drawn.network, numeric, meterData(meter));
  // What stood in the line when the page was opened waits until there is something to propose without it.
  const isOld = atFirst !== "" && typed === atFirst && judgement === null;
  const typedSo = isBeyond || isOld ? null : provisional;
  const input = useRankInput(isRanked, taken, typedSo, standing);
  const ranked = useRanking(input, provisional === null || isOld, standing, attack, verbs.judged);
  // What no single fault brings about is asked about at once, before the worker has weighed it.
  const reaches = useReaches(ranked.ask, standing, isRanked && judgement !== null);
  const missed = useMemo(() => {
    // With a branch in hand what is foretold is of the circuit as it stands on the way.
    if (!drawn || !numeric || isBeyond || held) return null;
    return missedReach(reaches, numeric, drawn.circuit.reference, meterData(meter));
  }, [drawn, numeric, isBeyond, held, reaches, meter]);
  const isDoubtful = isBeyond || missed !== null;
  const proposed = useMemo(() => (proposal ? pointOf(proposal) : null), [proposal]);
  const healthy = useMemo(
    () => (drawn && proposed ? healthyWords(drawn.network, { ...proposed, state: standing }, meter) : null),
    [drawn, proposed, meter, standing],
  );
  const picked = useMemo(() => {
    if (understood.kind === "asked") return pointOf(understood.proposal);
    return drawn && understood.kind === "mistake" ? pickedPoint(typed, drawn.circuit) : null;
  }, [drawn, understood, typed]);
  const point = useSame(numeric ?? inUse.onPoint(picked ?? proposed));
  const known = usePoint(isRanked ? point : null, numeric !== null, ranked.ask, standing, judgement);
  const sum = useMemo(() => {
    if (!drawn || understood.kind !== "mistake") return null;
    const numbers = taken.flatMap((r) => (r.quantity === "observation" ? [] : [r]));
    return askedSum(typed, drawn.network, numbers, meterData(meter), standing);
  }, [drawn, understood, typed, taken, meter, standing]);
  const questions = useMemo(
    () => lineQuestions(provisional, known, standing, missed),
    [provisional, known, standing, missed],
  );
  // A current that is typed was read already: its steps stand where it was proposed, or is in hand.
  const isElsewhere =
    numeric?.quantity === "current" && !(proposed?.quantity === "current" && proposed.through === numeric.through);
  const current = useCurrentSteps(standing, isElsewhere ? null : point);
  const asTaken = (reading: Reading) => takenSo({ ...inUse.on(reading), ...(who === "" ? {} : { who }) }, standing);
  const circuit = drawn?.circuit ?? null;
  const read = (text: string): QuickReading =>
    circuit ? readQuick(text, circuit, undefined, { standing, meter }) : { kind: "empty" };
  const found: Found = { circuit, standing, understood, read, isDoubtful, questions, steps, current, asTaken };
  at.current = { found, carryOut: useCarryOut(stands, field, current) };
  const isAsked = session.confirmed === typed && typed !== "" && isHeld(found);
  const told = { typed, field, understood, steps, healthy, ranked, input, point, known, sum, questions, current };
  return { ...told, isAsked, ...verbs };
}

/** What a verb finds, and who does what it asks for. */
interface At {
  readonly found: Found;
  readonly carryOut: (effect: Effect) => void;
}

interface UsedVerbs {
  readonly session: Session;
  readonly verbs: Verbs & { readonly judged: (judgement: Judgement) => void };
  /** What stood in the line when the page was opened. */
  readonly atFirst: string;
}

/** The session with its verbs, which stay the same: each finds what the one before it left, drawn or not. */
function useVerbs(at: RefObject<At | null>, job: string): UsedVerbs {
  const kept = useKept(`reading ${job}`, "");
  const [atFirst] = useState(kept.value);
  const [session, setSession] = useState({ ...BEGUN, typed: atFirst });
  const latest = useRef(session);
  const { set: keep } = kept;
  const verbs = useMemo(() => {
    const act = (verb: Verb) => {
      if (!at.current) return;
      const { found, carryOut } = at.current;
      const next = turn(latest.current, verb, found);
      if (next.session.typed !== latest.current.typed) keep(next.session.typed);
      latest.current = next.session;
      setSession(next.session);
      for (const effect of next.effects) carryOut(effect);
    };
    return {
      type: (text: string) => act({ verb: "type", text }),
      record: () => act({ verb: "record" }),
      say: (line: string) => act({ verb: "say", line }),
      accept: (question?: LineQuestion) => act({ verb: "accept", question }),
      take: (reading: Reading, id?: string, echo?: string) => act({ verb: "take", reading, id, echo }),
      takeBack: () => act({ verb: "takeBack" }),
      choose: (key: string) => act({ verb: "choose", key }),
      putOff: (key: string, how: "never" | "later") => act({ verb: "putOff", key, how }),
      nextKind: () => act({ verb: "nextKind" }),
      insist: (measurements: readonly Measurement[] | null) => act({ verb: "insist", measurements }),
      judged: (judgement: Judgement) => act({ verb: "judged", judgement }),
    };
  }, [at, keep]);
  // What a closed tab left half typed stands in the line, where nothing else does.
  useEffect(() => {
    if (kept.value !== "" && latest.current.typed === "") verbs.type(kept.value);
  }, [kept.value, verbs]);
  return { session, verbs, atFirst };
}

/** What is ranked; null where nobody sees it: the circuit is being typed. */
function useRankInput(
  isRanked: boolean,
  taken: readonly Reading[],
  provisional: Reading | null,
  standing: Configuration,
): RankInput | null {
  const { state, readings, drawn, meter } = useDesk();
  const { job } = state;
  const situation = situationOf(job, readings);
  const { priors: habits, isReady } = useHabits(isRanked ? (drawn?.circuit ?? null) : null);
  const wanted = useMemo(() => {
    if (!drawn || !isRanked || !isReady) return null;
    return {
      circuit: drawn.circuit,
      readings: (provisional ? [...taken, takenSo(provisional, standing)] : taken).map(withoutTime),
      meter,
      priors: job.priors,
      ...(habits ? { habits } : {}),
      situation,
      standing,
    };
  }, [drawn, isRanked, isReady, taken, provisional, standing, meter, job.priors, habits, situation]);
  // A reading that is recorded as it was typed, or comes back saved, changes nothing: its ranking stands.
  return useSame(wanted);
}

/** Carries out what a verb asks for besides. */
function useCarryOut(
  { change }: StandingState,
  field: RefObject<HTMLInputElement | null>,
  current: CurrentSteps | null,
): (effect: Effect) => void {
  const { desk } = useDesk();
  const notice = useNotice();
  return (effect) => {
    switch (effect.do) {
      case "add":
        return desk.addReading(effect.reading, effect.id);
      case "stepped":
        return desk.changeJob({ standing: effect.standing });
      case "stand":
        return change(effect.standing, effect.echo);
      case "say":
        return notice({
          text: `Recorded ${effect.echo ?? `${placeOf(effect.reading)} ${valueOfReading(effect.reading)}`}`,
          action: { label: "Undo", run: () => desk.undo() },
        });
      case "tick":
        return current?.tick();
      case "undo":
        return notice({ text: desk.undo() ?? "There is nothing to take back" });
      case "focus":
        return field.current?.focus();
      default:
        return effect satisfies never;
    }
  };
}

/** When a reading was taken, and by whom, says nothing about the circuit. */
function withoutTime(reading: Reading): Reading {
  return { ...reading, takenAt: undefined, who: undefined, doubted: undefined };
}

/** A point that stands in the line before its value: picked on the board, or typed so far. */
function pickedPoint(typed: string, circuit: Circuit): NumericReading | null {
  const name = typed.trim();
  if (!/^[A-Za-z+]\S*$|^\d\S*$/.test(name)) return null;
  const read = readQuick(`${name} 0V`, circuit);
  if (read.kind !== "reading" || read.reading.quantity !== "voltage") return null;
  const { typed: _, step: __, ...point } = read.reading;
  return point;
}

function pointOf(proposal: Proposal): NumericReading | null {
  return proposal.quantity === "look" ? null : { ...proposal, value: 0 };
}
