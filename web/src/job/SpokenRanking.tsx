import { useEffect, useRef, useState } from "react";
import { Spoken } from "../app/Spoken.tsx";
import { useDesk } from "../desk/DeskContext.tsx";
import type { Ranked } from "../ranking/useRanking.ts";
import { headlineOf } from "../readings/WhereItStands.tsx";
import type { NextStep } from "../session/proposal.ts";
import { repairRows } from "../session/suspectRows.ts";
import { measurementWords } from "../words/measurements.ts";
import { percent } from "../words/quantities.ts";

/** What a new ranking says, in one sentence: “R3 open 92 %, was 47 %. Next: volts at C.” */
export function SpokenRanking({ ranked, steps }: { ranked: Ranked; steps: readonly NextStep[] | null }) {
  const { drawn } = useDesk();
  const { ranking, judgement, isCurrent, isTyped } = ranked;
  /** What it says now, and what it said before that was something else. */
  const said = useRef<{ now: ReadonlyMap<string, string>; was: ReadonlyMap<string, string> }>({
    now: new Map(),
    was: new Map(),
  });
  const [text, setText] = useState("");
  const next = steps?.[0] ?? null;
  useEffect(() => {
    if (!drawn || !isCurrent || isTyped || ranking?.kind !== "ranking" || steps === null) return;
    const rows = repairRows(ranking, drawn.network);
    const [first] = rows;
    if (!first) return;
    const all = new Map(rows.map((r) => [r.key, percent(r.probability)]));
    const isOther = all.size !== said.current.now.size || [...all].some(([key, p]) => said.current.now.get(key) !== p);
    if (isOther) said.current = { now: all, was: said.current.now };
    const now = percent(first.probability);
    const was = said.current.was.get(first.key);
    const how = next && measurementWords(next.measurement);
    const moved = was === undefined || was === now ? "" : `, was ${was}`;
    const isOver = judgement?.toSettle === 0;
    const stands = judgement && isOver ? `${headlineOf(judgement.verdict, rows)}. ` : "";
    const then = how && !isOver ? ` Next: ${how.how} ${how.where}.` : "";
    setText(`${stands}${first.modes[0].name} ${now}${moved}.${then}`);
  }, [drawn, ranking, judgement, isCurrent, isTyped, steps, next]);
  return <Spoken text={text} />;
}
