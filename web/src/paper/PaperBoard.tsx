import type { Circuit } from "@hound/core/circuit";
import type { Question } from "@hound/core/paper";
import { useEffect, useMemo } from "react";
import { PlainBoard } from "../board/PlainBoard.tsx";
import { useDesk } from "../desk/DeskContext.tsx";
import { foldedBoard } from "../expected/foldedBoard.ts";
import { PaperDesk } from "./PaperDesk.tsx";

/** The board of a question: without figures, what it is about lit, the leads where they are held. */
export function PaperBoard({ id, circuit, question }: { id: string; circuit: Circuit; question: Question | null }) {
  return (
    <PaperDesk id={id} circuit={circuit}>
      <Board question={question} />
    </PaperDesk>
  );
}

export function Board({ question }: { question: Question | null }) {
  const { drawn, pointing } = useDesk();
  const { parts, fold = 0, leads = null } = question ?? {};
  const folded = useMemo(
    () => (drawn && fold > 0 ? foldedBoard(drawn, { at: fold, seen: null }) : null),
    [drawn, fold],
  );
  const held = useMemo(() => leads && { red: leads.red, black: leads.black, part: null }, [leads]);
  useEffect(() => {
    pointing.select(null);
    for (const name of parts ?? []) pointing.select({ kind: "branch", name }, true);
  }, [pointing, parts]);
  return <PlainBoard instead={folded?.drawn ?? null} isHushed held={held} />;
}
