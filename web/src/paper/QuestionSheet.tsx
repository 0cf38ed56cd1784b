import { buildNetwork } from "@hound/core/circuit";
import { type Answer, type AnswerMark, type Exercise, markAnswer, type Question } from "@hound/core/paper";
import { useEffect, useMemo, useRef } from "react";
import { useKept } from "../desk/useKept.ts";
import { inWords } from "../words/print.ts";
import { AnswerField } from "./AnswerField.tsx";
import { Done } from "./Done.tsx";
import type { Origin } from "./origin.ts";
import { PaperBoard } from "./PaperBoard.tsx";
import { TangleView } from "./TangleView.tsx";

export interface SheetProps {
  readonly exercise: Exercise;
  readonly origin: Origin;
  /** Draws another one like it; null where it is one of a set. */
  readonly onAnother: (() => void) | null;
}

interface Going {
  /** As they were given, in turn. */
  readonly answers: readonly Answer[];
  /** Whether the last one was looked at, and the next question is asked. */
  readonly isNext: boolean;
  readonly isSent: boolean;
}
const FRESH: Going = { answers: [], isNext: true, isSent: false };

/** One question after the other beside its board, each marked at once with the reason. */
export function QuestionSheet({ exercise, origin, onAnother }: SheetProps) {
  const { kind, seed, questions, circuit } = exercise;
  const id = `${kind} ${seed} ${origin.title}`;
  const { value: going, set } = useKept<Going>(`paper ${id}`, FRESH);
  const { answers, isNext } = going;
  const marks = useMemo(() => answers.map((a, i) => markAnswer(questions[i], a) as AnswerMark), [answers, questions]);
  const isOver = answers.length === questions.length && isNext;
  const at = isOver ? questions.length - 1 : isNext ? answers.length : answers.length - 1;
  const question = questions[at];
  const mark = isNext ? null : marks[at];
  const answer = (given: Answer): string | null => {
    const read = markAnswer(question, given);
    if (typeof read === "string") return read;
    set({ ...going, answers: [...answers, given], isNext: false });
    return null;
  };
  const share = marks.reduce((sum, m) => sum + m.share, 0) / Math.max(1, questions.length);
  // A drawing to be walked has no board beside it before it was.
  const shown = question.circuit ?? (mark || isOver ? circuit : null);
  const network = useMemo(() => buildNetwork(circuit), [circuit]);
  return (
    <div className="relative flex min-h-0 grow flex-col overflow-auto lg:flex-row lg:overflow-visible">
      <section
        aria-label={question.tangle ? "Drawing and board" : "Board"}
        className="flex min-h-64 min-w-0 shrink-0 flex-col border-b border-rule lg:min-h-0 lg:flex-1 lg:shrink lg:border-b-0"
      >
        {question.tangle && (
          <div className="h-[42vh] shrink-0 p-2 lg:h-auto lg:min-h-0 lg:flex-1">
            <TangleView tangle={question.tangle} network={network} />
          </div>
        )}
        {shown && (
          <div
            className={`min-h-0 ${question.tangle ? "h-[38vh] border-t border-rule lg:flex-1" : "h-[42vh] grow lg:h-auto"}`}
          >
            <PaperBoard key={`${id} ${at}`} id={`${id} ${at}`} circuit={shown} question={isOver ? null : question} />
          </div>
        )}
      </section>
      <main className="relative flex w-full shrink-0 flex-col gap-3 p-3 pb-8 lg:w-[27rem] lg:overflow-auto lg:border-l lg:border-rule xl:w-[30rem]">
        {isOver ? (
          <Done
            {...{ exercise, origin, onAnother, share }}
            isSent={going.isSent}
            onSent={() => set({ ...going, isSent: true })}
          >
            <Looked questions={questions} marks={marks} />
          </Done>
        ) : (
          <>
            <p className="text-faint" role="status">
              Question {at + 1} of {questions.length}
              {marks.length > 0 && `, ${marks.filter((m) => m.share === 1).length} right so far`}
            </p>
            <h2 className="text-2xl font-bold">{question.ask}</h2>
            <AnswerField
              key={at}
              formKey={`paper ${id} ${at}`}
              question={question}
              given={isNext ? null : answers[at]}
              onAnswer={answer}
            />
            {mark && (
              <Marked
                question={question}
                mark={mark}
                isLast={at === questions.length - 1}
                onNext={() => set({ ...going, isNext: true })}
              />
            )}
          </>
        )}
      </main>
    </div>
  );
}

interface MarkedProps {
  readonly question: Question;
  readonly mark: AnswerMark;
  readonly isLast: boolean;
  readonly onNext: () => void;
}

function Marked({ question: { why }, mark: { share, said }, isLast, onNext }: MarkedProps) {
  const next = useRef<HTMLButtonElement>(null);
  // Enter goes on.
  useEffect(() => next.current?.focus(), []);
  return (
    <div role="alert" className={`rounded-xl border-2 px-4 py-3 ${share === 1 ? "border-low" : "border-doubt"}`}>
      <p className={`text-xl font-bold ${share === 1 ? "text-low" : "text-doubt"}`}>
        {share === 1 ? "Right" : share > 0 ? "In part" : "No"}
        {said !== "" && <span className="font-normal">: {inWords(said)}</span>}
      </p>
      <p className="mt-1 text-bench">{inWords(why)}</p>
      <button
        ref={next}
        type="button"
        className="mt-3 rounded-lg bg-copper px-6 py-2.5 text-bench font-bold text-sheet"
        onClick={onNext}
      >
        {isLast ? "How it went" : "Next"}
      </button>
    </div>
  );
}

/** What was not right, once more with the reason. */
function Looked({ questions, marks }: { questions: readonly Question[]; marks: readonly AnswerMark[] }) {
  const wrong = questions.filter((_, i) => marks[i].share < 1);
  if (wrong.length === 0) return null;
  return (
    <section aria-label="To look at again">
      <h3 className="text-lg font-bold">To look at again</h3>
      <ul className="flex flex-col gap-2">
        {wrong.map(({ ask, why }) => (
          <li key={ask} className="border-t border-rule pt-1.5">
            <strong>{ask}</strong> {inWords(why)}
          </li>
        ))}
      </ul>
    </section>
  );
}
