import { KINDS, type NodeName, type Part, rowOf } from "@hound/core/circuit";
import { setPoint, setWord, type WordRole, wordsOfPart } from "@hound/core/notation";
import { describeStretch } from "@hound/core/reduce";
import { useEffect, useRef, useState } from "react";
import { keyOf } from "../app/letterKeys.ts";
import { type Drawn, useDesk, useSelection } from "../desk/DeskContext.tsx";
import { useKept } from "../desk/useKept.ts";
import { calledWords } from "../words/points.ts";
import { type Command, commandsFor, type Question, targetOf } from "./circuitEdits.ts";
import type { CircuitEdits } from "./useCircuitEdits.ts";

/** Under the board in stage Circuit: what is selected, its values to be changed, and what can be done with it. */
export function PartBar({ edits, drawn }: { edits: CircuitEdits; drawn: Drawn }) {
  const { state } = useDesk();
  const { selection, stretch } = useSelection();
  const { trail } = state;
  const target = targetOf(trail, selection, stretch);
  const [name] = target.parts;
  const part = drawn.written.parts.find((p) => p.designator === name);
  if (!part && target.node === null && !edits.question) return null;
  const offered = trail.circuit ? commandsFor(target) : [];
  return (
    <section
      aria-label="Selected on the board"
      className="shrink-0 border-t border-rule bg-sheet px-4 py-2.5 print:hidden"
    >
      {edits.question ? (
        <QuestionLine key={edits.question.ask} question={edits.question} edits={edits} />
      ) : (
        <>
          <div className="flex flex-wrap items-center gap-x-4 gap-y-2">
            {part ? (
              <PartFields key={part.designator} part={part} edits={edits} />
            ) : (
              <NodeFields key={target.node} node={target.node as NodeName} edits={edits} />
            )}
            <div className="flex flex-wrap gap-1.5">
              {offered.map((command) => (
                <button
                  key={command.label}
                  type="button"
                  title={`${command.does}${keyWords(command)}`}
                  onClick={() => edits.run(command)}
                  className="rounded-lg border border-rule px-2.5 py-1.5 hover:bg-band"
                >
                  {command.label}
                </button>
              ))}
            </div>
          </div>
          {stretch.length > 1 && <p className="mt-1.5 text-faint">{stretchWords(drawn, stretch)}</p>}
        </>
      )}
      {edits.refusal && (
        <p id="edit-refused" role="alert" className="mt-1.5 font-bold text-wrong">
          Not done: {edits.refusal}
        </p>
      )}
    </section>
  );
}

function keyWords({ key, shift }: Command): string {
  const pressed = key === "Delete" ? key : keyOf(key);
  return pressed === null ? "" : ` (${shift ? "Shift+" : ""}${pressed})`;
}

function stretchWords({ network }: Drawn, stretch: readonly string[]): string {
  const branches = stretch.map((name) => network.branches.findIndex((b) => b.name === name)).filter((k) => k >= 0);
  const words = branches.length > 1 ? describeStretch(network, branches.reverse()) : "";
  return words.charAt(0).toUpperCase() + words.slice(1);
}

/** Of one bought by volts and watts those are its value. */
function isRatedInWatts(part: Part): boolean {
  return rowOf(part.kind).rating === "power" && !("resistance" in part && part.resistance.by === "rating");
}

/** What may stand for the value of kinds that need none, and of those that take no ohms. */
const VALUE_HINTS: Readonly<Partial<Record<Part["kind"], string>>> = {
  diode: "schottky",
  led: "red",
  zener: "5V1",
  capacitor: "100u 25V",
};

const FIELDS: readonly {
  readonly role: WordRole;
  readonly label: string;
  readonly fits?: (part: Part) => boolean;
  readonly hint: string;
}[] = [
  {
    role: "value",
    label: "Value",
    hint: "4k7",
    fits: ({ kind }) => rowOf(kind).needs !== "nothing" || kind in VALUE_HINTS,
  },
  { role: "current", label: "Rated", hint: "1A", fits: ({ kind }) => rowOf(kind).rating === "current" },
  { role: "tolerance", label: "Tolerance", hint: "5%" },
  { role: "power", label: "Power", hint: "0.25W", fits: isRatedInWatts },
  { role: "internalResistance", label: "Inside", hint: "ri=0.3", fits: ({ kind }) => kind === "supply" },
  { role: "position", label: "Position", hint: "closed", fits: ({ kind }) => kind === "switch" },
];

function PartFields({ part, edits }: { part: Part; edits: CircuitEdits }) {
  const { state, drawn } = useDesk();
  const { trail } = state;
  const words = wordsOfPart(trail, part.designator);
  const fields = FIELDS.filter((f) => !f.fits || f.fits(part));
  const main = fields.find((f) => f.role === "value" || f.role === "current")?.role;
  return (
    <div className="flex flex-wrap items-end gap-3">
      <p>
        <span className="text-lg font-bold">{part.designator}</span>{" "}
        <span className="text-faint">
          {KINDS[part.kind].word}, {part.from} to {part.to}
          {drawn?.settled?.estimates.some((e) => e.designator === part.designator) ? ", value unknown" : ""}
        </span>
      </p>
      {fields.map(({ role, label, hint }) => {
        const now = words
          .filter((w) => w.role === role)
          .map((w) => w.text)
          .join(" ");
        return (
          <WordField
            key={role}
            of={part.designator}
            id={role === main ? "part-value" : undefined}
            label={label}
            hint={role === "value" ? (VALUE_HINTS[part.kind] ?? hint) : hint}
            value={now}
            onCommit={(text) => edits.make(setWord(trail, part.designator, role, text), `${part.designator} ${text}`)}
          />
        );
      })}
    </div>
  );
}

/** A node's name, and what it is called where one probes it. */
function NodeFields({ node, edits }: { node: NodeName; edits: CircuitEdits }) {
  const { state } = useDesk();
  const { trail } = state;
  const called = trail.circuit ? calledWords(trail.circuit, node) : "";
  return (
    <div className="flex flex-wrap items-end gap-3">
      <p className="text-lg font-bold">Node {node}</p>
      <WordField
        of={node}
        label="Known as"
        hint="TB2-4, blue wire"
        isWide
        value={called}
        onCommit={(text) => edits.make(setPoint(trail, node, text), `${node}: ${text || "no other name"}`)}
      />
    </div>
  );
}

/** Who leaves a small form by a key goes on at the board. */
function toBoard() {
  document.querySelector<HTMLElement>("[data-board]")?.focus();
}

interface WordFieldProps {
  readonly id?: string;
  /** The part or node that it is of. */
  readonly of: string;
  readonly label: string;
  readonly hint: string;
  readonly isWide?: boolean;
  readonly value: string;
  /** @returns false where it was refused: the field keeps what was typed */
  readonly onCommit: (text: string) => boolean;
}

function WordField({ id, of, label, hint, isWide = false, value, onCommit }: WordFieldProps) {
  const { state } = useDesk();
  const { value: text, set: setText, forget } = useKept(`${label} of ${of} ${state.job.id}`, value);
  const [wrong, setWrong] = useState(false);
  // What Escape gives up is not written by the leaving of the field.
  const isGivenUp = useRef(false);
  const commit = () => {
    if (isGivenUp.current) return;
    const isKept = text.trim() === value || onCommit(text.trim());
    setWrong(!isKept);
    if (isKept) forget();
  };
  return (
    <label className="text-sm">
      <span className="block text-faint">{label}</span>
      <input
        id={id}
        value={text}
        placeholder={hint}
        data-typed={text === value ? "no" : "yes"}
        aria-invalid={wrong}
        onChange={(e) => setText(e.target.value)}
        onBlur={commit}
        onKeyDown={(e) => {
          if (e.key === "Enter") commit();
          if (e.key === "Escape") {
            forget();
            setWrong(false);
            isGivenUp.current = true;
            toBoard();
            isGivenUp.current = false;
          }
        }}
        aria-describedby={wrong ? "edit-refused" : undefined}
        className={`rounded border bg-paper px-2 py-1 font-mono text-base ${isWide ? "w-52" : "w-24"} ${wrong ? "border-wrong" : "border-field"}`}
      />
    </label>
  );
}

function QuestionLine({ question, edits }: { question: Question; edits: CircuitEdits }) {
  const { state } = useDesk();
  const start = question.kind === "words" ? question.start : "";
  const { value: words, set: setWords, forget } = useKept(`${question.ask} ${state.job.id}`, start);
  const leave = () => {
    forget();
    edits.cancel();
    toBoard();
  };
  const field = useRef<HTMLInputElement>(null);
  useEffect(() => {
    // What is offered is there to be typed over.
    field.current?.select();
  }, []);
  return (
    <form
      className="flex flex-wrap items-center gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        edits.answer(words);
        forget();
      }}
      onKeyDown={(event) => {
        if (event.key === "Escape") leave();
      }}
    >
      <label htmlFor="board-question" className="text-lg font-bold">
        {question.ask}
      </label>
      {question.kind === "words" && (
        <>
          <input
            id="board-question"
            ref={field}
            value={words}
            autoComplete="off"
            onChange={(e) => setWords(e.target.value)}
            className="w-64 rounded-lg border border-copper bg-paper px-3 py-1.5 font-mono text-lg"
          />
          <button type="submit" className="rounded-lg bg-copper px-4 py-1.5 font-bold text-sheet">
            Put it in
          </button>
        </>
      )}
      <button type="button" onClick={leave} className="rounded-lg border border-rule px-3 py-1.5 hover:bg-band">
        Leave it (Esc)
      </button>
    </form>
  );
}
