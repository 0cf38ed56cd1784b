import { branchCalled, designatorOf } from "@hound/core/circuit";
import { type Edited, keepNumbers, readTrail, withFreeDesignators } from "@hound/core/notation";
import { type KeyboardEvent, useCallback, useState } from "react";
import { isKeyOf } from "../app/letterKeys.ts";
import { useNotice } from "../app/Notice.tsx";
import { useDesk, useSelection } from "../desk/DeskContext.tsx";
import type { Selection } from "../desk/pointing.ts";
import { type Command, commandsFor, type Question, targetOf } from "./circuitEdits.ts";

export interface CircuitEdits {
  readonly question: Question | null;
  /** Why the last edit was refused. */
  readonly refusal: string | null;
  readonly run: (command: Command) => void;
  /** Runs the command of a key; false where there is none. */
  readonly runKey: (event: KeyboardEvent) => boolean;
  readonly make: (edited: Edited, did: string) => boolean;
  readonly answer: (words: string) => void;
  /** Gives a question that waits for a node or part what was picked; false where none waits. */
  readonly pick: (picked: NonNullable<Selection>) => boolean;
  readonly cancel: () => void;
}

/**
 * Edits of the circuit from the board: what is asked, what was refused, how to take it back.
 * @param sent words of parts that were brought along: the next new part begins with them
 */
export function useCircuitEdits(sent: string | null, onUsed: () => void): CircuitEdits {
  const { desk, state, select, edit, trailDocument } = useDesk();
  const { selection, stretch } = useSelection();
  const notice = useNotice();
  const [question, setQuestion] = useState<Question | null>(null);
  const [refusal, setRefusal] = useState<string | null>(null);
  const { trail } = state;
  const make = useCallback(
    (made: Edited, did: string) => {
      // What has no name keeps the number it is known by.
      const edited = keepNumbers(desk.snapshot().trail, made);
      const why = edit(edited);
      setRefusal(why);
      if (why === null) {
        setQuestion(null);
        notice({ text: did, action: { label: "Undo", run: () => trailDocument.undo() } });
      }
      return why === null;
    },
    [desk, edit, notice, trailDocument],
  );
  const take = useCallback(
    (result: Edited | Question | null, did: string) => {
      if (!result) return false;
      if (result.kind === "words" || result.kind === "pick") {
        const isFilled = sent !== null && result.kind === "words" && result.isNew;
        setQuestion(isFilled ? { ...result, start: withFreeDesignators(trail, sent) } : result);
        setRefusal(null);
      } else make(result, did);
      return true;
    },
    [make, sent, trail],
  );
  const target = targetOf(trail, selection, stretch);
  const name = target.parts[0] ?? target.node ?? "";
  const cancel = () => {
    setQuestion(null);
    setRefusal(null);
  };
  const run = (command: Command) => {
    if (!trail.circuit) setRefusal("mend the mistakes in the trail first");
    else take(command.run(target), `${command.label}: ${name}`);
  };
  return {
    question,
    refusal,
    run,
    make,
    runKey: (event) => {
      if (event.key === "Escape" && question) {
        cancel();
        return true;
      }
      const isDelete = event.key === "Backspace" || event.key === "Delete";
      const command = commandsFor(target).find((c) =>
        c.key === "Delete" ? isDelete && (c.shift ?? false) === event.shiftKey : isKeyOf(c.key, event),
      );
      if (!command) return false;
      run(command);
      return true;
    },
    answer: (words) => {
      if (question?.kind !== "words") return;
      // Who types the value alone takes the designator that was offered.
      const offered = question.isNew ? question.start.split(" ")[0] : "";
      const whole = offered !== "" && !/^\s*[A-Za-z([]+/.test(words) ? `${offered} ${words.trim()}` : words;
      const isIn = make(question.answer(whole), `${question.ask}: ${whole.trim()}`);
      if (!isIn || !question.isNew) return;
      onUsed();
      // The new part is the one to go on from.
      const before = state.trail.places;
      const added = [...readTrail(desk.snapshot().text).places.values()].filter((p) => !before.has(p.designator));
      const last = added.at(-1);
      if (last) select({ kind: "branch", name: branchCalled(last.designator, last.kind) });
      document.querySelector<HTMLElement>("[data-board]")?.focus();
    },
    pick: (picked) => {
      if (question?.kind !== "pick") return false;
      if ((question.wants === "node") !== (picked.kind === "node")) {
        setRefusal(question.wants === "node" ? "pick a node: one of the bars" : "pick a part, not a node");
        return true;
      }
      const chosen = picked.kind === "node" ? picked.name : designatorOf(picked.name);
      take(question.answer(chosen), question.ask.replace(/\?.*/, `: ${chosen}`));
      return true;
    },
    cancel,
  };
}
