import type { Circuit } from "@hound/core/circuit";
import { type AskedSum, askedSum, isImpossible } from "@hound/core/coach";
import { afterChange, CURRENT_STEPS, stepped } from "@hound/core/configuration";
import type { Judgement } from "@hound/core/judgement";
import { type Proposal, type QuickReading, readQuick } from "@hound/core/notation";
import type { Measurement } from "@hound/core/plan";
import type { RankInput } from "@hound/core/rank";
import { meterData, type NumericReading, type Reading, situationOf, takenSo } from "@hound/core/record";
import { type RefObject, useCallback, useMemo, useRef, useState } from "react";
import { useOnDevice } from "../app/device.ts";
import { useNotice } from "../app/Notice.tsx";
import { useConventions } from "../desk/conventions.ts";
import { useDesk } from "../desk/DeskContext.tsx";
import { useSame } from "../desk/useSame.ts";
import { useHabits } from "../ranking/useHabits.ts";
import { type Ranked, useRanking } from "../ranking/useRanking.ts";
import { placeOf, valueOfReading } from "../words/quantities.ts";
import { healthyWords } from "./healthy.ts";
import { type NextStep, nextSteps, otherKind, type PutOff, settled, stepOf } from "./proposal.ts";
import type { StandingState } from "./Standing.tsx";
import { type CurrentSteps, useCurrentSteps } from "./useCurrentSteps.ts";
import { type LineQuestion, lineQuestions } from "./useLineQuestions.ts";
import { useMeterInUse } from "./useMeterInUse.ts";
import { type PointKnown, usePoint } from "./usePoint.ts";

/** The reading line with all that hangs on it: what is typed, what is understood, what is proposed, and the ranking. */
export interface ReadingLine {
  readonly typed: string;
  readonly type: (text: string) => void;
  readonly field: RefObject<HTMLInputElement | null>;
  readonly understood: QuickReading;
  /** What to measure next, the best first; null while it is worked out. */
  readonly steps: readonly NextStep[] | null;
  /** What a healthy circuit shows at the first of them. */
  readonly healthy: string | null;
  readonly ranked: Ranked;
  /** What is ranked: the circuit with its readings, the one being typed among them. */
  readonly input: RankInput | null;
  readonly choose: (key: string) => void;
  readonly putOff: (key: string, how: "never" | "later") => void;
  /** Proposes the best measurement of another kind: volts, amperes, ohms, a look in turn. */
  readonly nextKind: () => void;
  /** Records what is typed, as it is; where there is nothing, ticks the next step of a branch in hand. */
  readonly record: () => void;
  /** Where the probes go next: what is typed, or what is proposed. */
  readonly point: NumericReading | null;
  readonly known: PointKnown;
  /** A sum that was asked for by hand. */
  readonly sum: AskedSum | null;
  readonly questions: readonly LineQuestion[];
  /** Takes the correction of a question: the first one where none is named. */
  readonly accept: (question?: LineQuestion) => void;
  /** Records a reading that came another way, such as from a meter; `id` is its own. */
  readonly take: (reading: Reading, id?: string, echo?: string) => void;
  readonly takeBack: () => void;
  readonly current: CurrentSteps | null;
  /** Proposes these before all else, in this order: what proves a repair; null for what the ranking wants. */
  readonly insist: (measurements: readonly Measurement[] | null) => void;
}

/**
 * @param isRanked false where nobody sees the ranking: it waits
 * @param isByProbes true where a meter sends its readings: what probes alone can read is proposed first
 */
export function useReadingLine(
  isRanked: boolean,
  { standing, change }: StandingState,
  isByProbes = false,
): ReadingLine {
  const { desk, state, readings, drawn, meter } = useDesk();
  const { attack } = useConventions();
  const notice = useNotice();
  const { job } = state;
  const situation = situationOf(job, readings);
  const [typed, type] = useState("");
  const field = useRef<HTMLInputElement>(null);
  const taken = useMemo(() => readings.map((r) => r.reading), [readings]);
  const [planned, setPlanned] = useState<Judgement | null>(null);
  const [chosen, setChosen] = useState<string | null>(null);
  const [confirmed, setConfirmed] = useState<string | null>(null);
  const inUse = useMeterInUse();
  const [who] = useOnDevice("who", "");
  const [putOffs, setPutOffs] = useState<PutOff>(new Map());
  const onJudged = useCallback((now: Judgement) => setPlanned((before) => settled(before, now)), []);
  const [insisted, insist] = useState<readonly Measurement[] | null>(null);
  const steps = useMemo(() => {
    if (insisted && insisted.length > 0) {
      const own = insisted.map((m) => stepOf(m, null)).filter((s) => putOffs.get(s.key) !== "never");
      const later = (s: NextStep) => Number(putOffs.get(s.key) === "later" && s.key !== chosen);
      return [...own.filter((s) => s.key === chosen), ...own.filter((s) => s.key !== chosen)].sort(
        (a, b) => later(a) - later(b),
      );
    }
    if (!drawn || !planned) return null;
    const found = nextSteps(drawn.circuit, taken, planned, { putOff: putOffs, chosen, isByProbes });
    return [...found.filter((s) => s.key === chosen), ...found.filter((s) => s.key !== chosen)];
  }, [drawn, taken, planned, putOffs, chosen, isByProbes, insisted]);
  const nextKind = () => {
    if (!drawn || !planned || !steps?.[0]) return;
    const other = otherKind(drawn.circuit, planned, putOffs, steps[0]);
    if (other) setChosen(other.key);
  };
  const proposal = steps?.[0]?.proposal ?? null;
  const understood = useMemo(
    () =>
      drawn
        ? readQuick(typed, drawn.circuit, proposal ?? undefined, { standing, meter })
        : ({ kind: "empty" } as const),
    [typed, drawn, proposal, standing, meter],
  );
  // As it will be recorded: with the meter in hand, and the range it is set to.
  const provisional = useSame(understood.kind === "reading" ? inUse.on(understood.reading) : null);
  // What no supply here can bring about is asked about first, and moves nothing until it is said twice.
  const isDoubtful =
    drawn !== null &&
    provisional !== null &&
    provisional.quantity !== "observation" &&
    isImpossible(drawn.network, provisional, meterData(meter));
  // A reading that is recorded as it was typed, or comes back saved, changes nothing: its ranking stands.
  // Where nothing is ranked nothing is asked for: the circuit is being typed.
  const { priors: habits, isReady } = useHabits(isRanked ? (drawn?.circuit ?? null) : null);
  const wanted = useMemo(() => {
    if (!drawn || !isRanked || !isReady) return null;
    return {
      circuit: drawn.circuit,
      readings: (provisional && !isDoubtful ? [...taken, takenSo(provisional, standing)] : taken).map(withoutTime),
      meter,
      priors: job.priors,
      ...(habits ? { habits } : {}),
      situation,
      standing,
    };
  }, [drawn, isRanked, isReady, taken, provisional, isDoubtful, standing, meter, job.priors, habits, situation]);
  const input = useSame(wanted);
  const ranked = useRanking(input, provisional === null, standing, attack, onJudged);
  const healthy = useMemo(() => {
    const point = proposal && pointOf(proposal);
    return drawn && point ? healthyWords(drawn.network, { ...point, state: standing }, meter) : null;
  }, [drawn, proposal, meter, standing]);
  const numeric = provisional && provisional.quantity !== "observation" ? provisional : null;
  const proposed = useMemo(() => (proposal ? pointOf(proposal) : null), [proposal]);
  const picked = useMemo(
    () => (drawn && understood.kind === "mistake" ? pickedPoint(typed, drawn.circuit) : null),
    [drawn, understood, typed],
  );
  const point = useSame(numeric ?? inUse.onPoint(picked ?? proposed));
  const known = usePoint(isRanked ? point : null, numeric !== null, ranked.ask, standing, planned);
  const sum = useMemo(() => {
    if (!drawn || understood.kind !== "mistake") return null;
    const numbers = taken.flatMap((r) => (r.quantity === "observation" ? [] : [r]));
    return askedSum(typed, drawn.network, numbers, meterData(meter), standing);
  }, [drawn, understood, typed, taken, meter, standing]);
  const questions = useMemo(() => lineQuestions(provisional, known, standing), [provisional, known, standing]);
  const current = useCurrentSteps(standing, point);
  const take = (reading: Reading, id?: string, echo?: string) => {
    const so = takenSo({ ...inUse.on(reading), ...(who === "" ? {} : { who }) }, standing);
    desk.addReading(so, id);
    const isInHand = reading.quantity === "current" && reading.through === standing.inHand?.through;
    if (isInHand) desk.changeJob({ standing: stepped(standing, CURRENT_STEPS.indexOf("read") + 1) });
    type("");
    // Until the next point is worked out nothing is proposed: a number typed meanwhile must not land at the old one.
    setPlanned(null);
    insist(null);
    setChosen(null);
    notice({
      text: `Recorded ${echo ?? `${placeOf(so)} ${valueOfReading(so)}`}`,
      action: { label: "Undo", run: () => desk.undo() },
    });
  };
  const takeBack = () => {
    const done = desk.undo();
    notice({ text: done ?? "There is nothing to take back" });
    type("");
  };
  const accept = (question = questions[0]) => {
    if (!question) return;
    if (question.instead) take(question.instead);
    else type("");
    field.current?.focus();
  };
  const record = () => {
    if (/^[-−]$/.test(typed.trim())) {
      takeBack();
      return;
    }
    if (typed.trim() === "" && current?.next && current.next !== "read") {
      current.tick();
      return;
    }
    if (understood.kind === "change") {
      const { change: made, after, echo } = understood;
      const next = afterChange(standing, made);
      change(next, echo);
      setPlanned(null);
      insist(null);
      if (after) desk.addReading(takenSo(after, next));
      type("");
      return;
    }
    if (understood.kind !== "reading") return;
    // What would be taken with a branch open, or with the meter in it, is asked about once.
    if ((isDoubtful || questions[0]?.key === "inHand") && confirmed !== typed) {
      setConfirmed(typed);
      return;
    }
    take(understood.reading, undefined, understood.echo);
    field.current?.focus();
  };
  const putOff = (key: string, how: "never" | "later") => {
    setPutOffs((before) => new Map(before).set(key, how));
    setChosen(null);
    field.current?.focus();
  };
  const choose = (key: string) => {
    setChosen(key);
    field.current?.focus();
  };
  return {
    typed,
    type,
    field,
    understood,
    steps,
    healthy,
    ranked,
    input,
    choose,
    putOff,
    nextKind,
    record,
    point,
    known,
    sum,
    questions,
    accept,
    take,
    takeBack,
    current,
    insist,
  };
}

/** When a reading was taken, and by whom, says nothing about the circuit. */
function withoutTime(reading: Reading): Reading {
  return { ...reading, takenAt: undefined, who: undefined };
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
