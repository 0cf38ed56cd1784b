import { Spoken } from "../app/Spoken.tsx";
import type { LineQuestion } from "../session/lineQuestions.ts";
import { inWords } from "../words/print.ts";

interface QuestionsProps {
  readonly questions: readonly LineQuestion[];
  readonly onAccept: (question: LineQuestion) => void;
  readonly isLarge?: boolean;
  /** It waits to be said once more; where it is not large that stands above, beside what is understood. */
  readonly isAsked?: boolean;
}

/** What the first Enter says of an entry that no single fault brings about. */
export const NOT_YET = "Not recorded yet: Enter again records it.";

/** What is asked beside an entry: Enter records it all the same, one key takes the correction. */
export function Questions({ questions, onAccept, isLarge = false, isAsked = false }: QuestionsProps) {
  const [first] = questions;
  return (
    <>
      <Spoken text={first ? `${isAsked ? `${NOT_YET} ` : ""}${inWords(first.ask)} ${inWords(first.accept)}?` : ""} />
      {first && (
        <ul aria-label="Asked" className={`flex flex-col gap-1.5 ${isLarge ? "text-3xl" : "py-1"}`}>
          {isAsked && isLarge && <li className="font-bold">{NOT_YET}</li>}
          {questions.map((question, i) => (
            <li key={question.key} className="flex flex-wrap items-center gap-x-3 gap-y-1">
              <span className="min-w-0 grow text-doubt">{inWords(question.ask)}</span>
              <button
                type="button"
                className="rounded-lg border border-doubt px-3 py-1 font-bold hover:bg-band"
                onClick={() => onAccept(question)}
              >
                {inWords(question.accept)}
                {i === 0 && <kbd className="ml-2 font-normal text-faint">+ or Alt Enter</kbd>}
              </button>
            </li>
          ))}
        </ul>
      )}
    </>
  );
}
