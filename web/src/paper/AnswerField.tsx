import type { Answer, Question } from "@hound/core/paper";
import { type FormEvent, useEffect, useRef, useState } from "react";
import { isPlain } from "../app/letterKeys.ts";
import { isTyping } from "../app/typing.ts";
import { useKeys } from "../app/useKeys.ts";
import { useKept } from "../desk/useKept.ts";
import { inWords } from "../words/print.ts";

interface AnswerFieldProps {
  readonly question: Question;
  /** What was answered; null where it is still asked. */
  readonly given: Answer | null;
  /** Under which what is half typed is kept. */
  readonly formKey: string;
  /** @returns why it cannot be read, null where it was taken */
  readonly onAnswer: (answer: Answer) => string | null;
}

/** Where a question is answered: one of several by click or number, several to tick, a figure, or a circuit. */
export function AnswerField(props: AnswerFieldProps) {
  switch (props.question.wanted.kind) {
    case "choice":
      return <Choice {...props} />;
    case "ticks":
      return <Ticks {...props} />;
    default:
      return <Typed {...props} />;
  }
}

const OPTION = "min-h-12 w-full rounded-xl border-2 px-4 py-2 text-left text-bench disabled:opacity-100";

function Choice({ question: { wanted }, given, onAnswer }: AnswerFieldProps) {
  const options = wanted.kind === "choice" ? wanted.options : [];
  useKeys((event) => {
    const n = Number(event.key);
    if (given !== null || !isPlain(event) || isTyping(event) || !(n >= 1 && n <= options.length)) return;
    event.preventDefault();
    onAnswer(n - 1);
  });
  const isRight = (i: number) => wanted.kind === "choice" && wanted.right.includes(i);
  return (
    <ol className="flex flex-col gap-2">
      {options.map((option, i) => (
        <li key={option}>
          <button
            type="button"
            disabled={given !== null}
            aria-pressed={given === i}
            className={`${OPTION} ${toneOf(given !== null, given === i, isRight(i))}`}
            onClick={() => onAnswer(i)}
          >
            <span aria-hidden className="mr-3 text-faint">
              {i + 1}
            </span>
            {option}
            {given !== null && isRight(i) && <span className="sr-only">, right</span>}
          </button>
        </li>
      ))}
    </ol>
  );
}

function toneOf(isGiven: boolean, isOwn: boolean, isRight: boolean): string {
  if (!isGiven) return "border-rule bg-sheet hover:bg-copper-wash";
  if (isRight) return "border-low bg-sheet font-bold text-low";
  return isOwn ? "border-doubt bg-sheet text-doubt" : "border-rule bg-sheet text-faint";
}

function Ticks({ question: { wanted }, given, formKey, onAnswer }: AnswerFieldProps) {
  const options = wanted.kind === "ticks" ? wanted.options : [];
  const { value: own, set, forget } = useKept<Readonly<Record<string, boolean>>>(formKey, {});
  const ticked = (i: number) => (given !== null ? (given as readonly boolean[])[i] : (own[options[i]] ?? false));
  return (
    <form
      className="flex flex-col gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        onAnswer(options.map((_, i) => ticked(i)));
        forget();
      }}
    >
      {options.map((option, i) => {
        const isRight = wanted.kind === "ticks" && wanted.right[i] === ticked(i);
        return (
          <label
            key={option}
            className={`${OPTION} flex items-center gap-3 ${given === null ? "border-rule bg-sheet" : isRight ? "border-low bg-sheet" : "border-doubt bg-sheet text-doubt"}`}
          >
            <input
              type="checkbox"
              className="size-6 accent-copper"
              disabled={given !== null}
              checked={ticked(i)}
              onChange={(e) => set({ ...own, [option]: e.target.checked })}
            />
            {option}
          </label>
        );
      })}
      {given === null && <Send />}
    </form>
  );
}

function Typed({ question: { wanted }, given, formKey, onAnswer }: AnswerFieldProps) {
  const { value: text, set, forget } = useKept(formKey, "");
  const [why, setWhy] = useState("");
  const isCircuit = wanted.kind === "circuit";
  const field = useRef<HTMLInputElement & HTMLTextAreaElement>(null);
  // Who types has the line at once; under a finger the board stays in sight.
  useEffect(() => {
    if (given === null && matchMedia("(pointer: fine)").matches) field.current?.focus();
  }, [given]);
  const shown = given === null ? text : String(given);
  const submit = (event?: FormEvent) => {
    event?.preventDefault();
    if (text.trim() === "") return;
    const refused = onAnswer(text.trim());
    setWhy(refused ?? "");
    if (refused === null) forget();
  };
  const shared = {
    ref: field,
    value: shown,
    readOnly: given !== null,
    spellCheck: false,
    autoComplete: "off",
    "aria-invalid": why !== "",
    onChange: (e: { target: { value: string } }) => set(e.target.value),
    className: "w-full rounded-xl border-2 border-field bg-paper px-4 py-2 font-mono text-2xl",
  };
  return (
    <form className="flex flex-col gap-2" onSubmit={submit}>
      {isCircuit ? (
        <>
          <textarea
            {...shared}
            rows={4}
            aria-label="The circuit as a trail"
            className={`${shared.className} text-xl`}
          />
          <p className="text-faint">
            As in a job: <code>BT1: R1 + (R2 | R3) + R4</code>. Names alone will do.
          </p>
        </>
      ) : (
        <input {...shared} aria-label="Your figure" inputMode="text" />
      )}
      {why !== "" && (
        <p role="alert" className="text-wrong">
          {inWords(why)}
        </p>
      )}
      {given === null && <Send />}
    </form>
  );
}

function Send() {
  return (
    <button type="submit" className="self-start rounded-lg bg-copper px-6 py-2.5 text-bench font-bold text-sheet">
      Mark it
    </button>
  );
}
