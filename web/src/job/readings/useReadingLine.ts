import { type Proposal, type QuickReading, readQuick } from "@hound/core/notation";
import type { RankInput } from "@hound/core/rank";
import { afterChange, type NumericReading, type Reading, takenSo } from "@hound/core/record";
import { type RefObject, useCallback, useMemo, useRef, useState } from "react";
import { useConventions } from "../../app/conventions.ts";
import { useNotice } from "../../app/Notice.tsx";
import { useDesk } from "../DeskContext.tsx";
import type { NextReadings } from "../ranking/messages.ts";
import { type Ranked, useRanking } from "../ranking/useRanking.ts";
import { useSame } from "../useSame.ts";
import { healthyWords } from "./healthy.ts";
import { type NextStep, nextSteps, type PutOff, settled } from "./proposal.ts";
import type { StandingState } from "./Standing.tsx";

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
  readonly record: () => void;
}

/** @param isRanked false where nobody sees the ranking: it waits */
export function useReadingLine(isRanked: boolean, { standing, change }: StandingState): ReadingLine {
  const { desk, state, readings, drawn, meter } = useDesk();
  const { attack } = useConventions();
  const notice = useNotice();
  const { job } = state;
  const [typed, type] = useState("");
  const field = useRef<HTMLInputElement>(null);
  const taken = useMemo(() => readings.map((r) => r.reading), [readings]);
  const [planned, setPlanned] = useState<NextReadings | null>(null);
  const [chosen, setChosen] = useState<string | null>(null);
  const [putOffs, setPutOffs] = useState<PutOff>(new Map());
  const onNext = useCallback((next: NextReadings) => setPlanned((before) => settled(before, next)), []);
  const steps = useMemo(() => {
    if (!drawn || !planned) return null;
    const found = nextSteps(drawn.circuit, taken, planned, putOffs);
    return [...found.filter((s) => s.key === chosen), ...found.filter((s) => s.key !== chosen)];
  }, [drawn, taken, planned, putOffs, chosen]);
  const proposal = steps?.[0]?.proposal ?? null;
  const understood = useMemo(
    () =>
      drawn
        ? readQuick(typed, drawn.circuit, proposal ?? undefined, { standing, meter })
        : ({ kind: "empty" } as const),
    [typed, drawn, proposal, standing, meter],
  );
  const provisional = useSame(understood.kind === "reading" ? understood.reading : null);
  // A reading that is recorded as it was typed, or comes back saved, changes nothing: its ranking stands.
  const wanted = useMemo(() => {
    if (!drawn || !isRanked) return null;
    return {
      circuit: drawn.circuit,
      readings: (provisional ? [...taken, takenSo(provisional, standing)] : taken).map(withoutTime),
      meter,
      priors: job.priors,
      situation: job.situation,
      standing,
    };
  }, [drawn, isRanked, taken, provisional, standing, meter, job.priors, job.situation]);
  const input = useSame(wanted);
  const ranked = useRanking(input, provisional === null, standing, attack, onNext);
  const healthy = useMemo(() => {
    const point = proposal && pointOf(proposal);
    return drawn && point ? healthyWords(drawn.network, { ...point, state: standing }, meter) : null;
  }, [drawn, proposal, meter, standing]);
  const record = () => {
    if (understood.kind === "change") {
      const { change: made, after, echo } = understood;
      const next = afterChange(standing, made);
      change(next, echo);
      if (after) desk.addReading(takenSo(after, next));
      type("");
      return;
    }
    if (understood.kind !== "reading") return;
    desk.addReading(takenSo(understood.reading, standing));
    type("");
    // Until the next point is worked out nothing is proposed: a number typed meanwhile must not land at the old one.
    setPlanned(null);
    setChosen(null);
    notice({ text: `Recorded ${understood.echo}`, action: { label: "Undo", run: () => desk.undo() } });
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
  return { typed, type, field, understood, steps, healthy, ranked, input, choose, putOff, record };
}

/** When a reading was taken says nothing about the circuit. */
function withoutTime(reading: Reading): Reading {
  return { ...reading, takenAt: undefined };
}

function pointOf(proposal: Proposal): NumericReading | null {
  return proposal.quantity === "look" ? null : { ...proposal, value: 0 };
}
