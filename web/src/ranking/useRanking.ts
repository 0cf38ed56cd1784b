import type { Configuration } from "@hound/core/configuration";
import type { Judgement } from "@hound/core/judgement";
import type { School } from "@hound/core/plan";
import type { RankInput, Ranking, RankProblem } from "@hound/core/rank";
import { useCallback, useEffect, useRef, useState } from "react";
import { useSame } from "../desk/useSame.ts";
import type { BenchAnswer, BenchQuestion, Insight } from "./messages.ts";
import { RankClient } from "./rankClient.ts";

/** A ranking on display, and how it stands to what is known by now. */
export interface Ranked {
  readonly ranking: Ranking | RankProblem | null;
  readonly insight: Insight | null;
  /** Readings that it counts, and readings that there are. */
  readonly counts: number;
  readonly asked: number;
  /** False while it is of an older input, or while hypotheses are left to be weighed. */
  readonly isCurrent: boolean;
  /** True while it counts a reading that is still being typed. */
  readonly isTyped: boolean;
  /** Where the job stands, what to do next, how it is proved, of this very input; null until that is known. */
  readonly judgement: Judgement | null;
  /** How far single faults are, where that takes its time. */
  readonly share: number | null;
  /** Somebody ended the work on this input; what was weighed until then is shown. */
  readonly isStopped: boolean;
  readonly stop: () => void;
  readonly goOn: () => void;
  /** Asks something besides; the same function all the time. */
  readonly ask: (question: BenchQuestion) => Promise<BenchAnswer | null>;
}

/**
 * The ranking for an input, redone whenever it changes; the one before stays until the next is there, and says so.
 * @param onJudged told where the job stands and what to measure next, where asked for by `plan`: not while a reading is half typed
 */
export function useRanking(
  input: RankInput | null,
  plan: boolean,
  stands: Configuration,
  school: School,
  onJudged: (judgement: Judgement) => void,
): Ranked {
  const [shown, setShown] = useState<{ ranking: Ranking | RankProblem; input: RankInput | null } | null>(null);
  const [insight, setInsight] = useState<Insight | null>(null);
  const [judged, setJudged] = useState<{ judgement: Judgement; input: RankInput | null } | null>(null);
  const [share, setShare] = useState<number | null>(null);
  const [stopped, setStopped] = useState<RankInput | null>(null);
  const worker = useRef<RankClient | null>(null);
  const standing = useSame(stands);
  useEffect(() => {
    const own = new RankClient({
      share: setShare,
      result: (ranking, of) => {
        setShare(null);
        setShown({ ranking, input: of });
      },
      proposed: onJudged,
      judged: (judgement, of) => {
        setJudged({ judgement, input: of });
        onJudged(judgement);
      },
      insight: setInsight,
    });
    worker.current = own;
    return () => {
      own.stop();
      worker.current = null;
    };
  }, [onJudged]);
  useEffect(() => {
    if (!input) setShown(null);
    else if (input !== stopped) worker.current?.rank(input, plan, standing, school);
  }, [input, stopped, plan, standing, school]);
  const stop = () => {
    worker.current?.stop();
    setShare(null);
    setStopped(input);
  };
  const ask = useCallback((question: BenchQuestion) => worker.current?.ask(question) ?? Promise.resolve(null), []);
  useEffect(() => {
    if (shown) performance.mark("hound:ranked");
  }, [shown]);
  const ranking = shown?.ranking ?? null;
  const isCurrent = shown?.input === input && (ranking?.kind !== "ranking" || ranking.progress === 1);
  return {
    ranking,
    insight,
    counts: shown?.input?.readings.length ?? 0,
    asked: input?.readings.length ?? 0,
    isCurrent,
    isTyped: !plan,
    judgement: isCurrent && judged?.input === input ? judged.judgement : null,
    share,
    isStopped: input !== null && input === stopped,
    stop,
    goOn: () => setStopped(null),
    ask,
  };
}
