import type { EditorState } from "@codemirror/state";
import { KINDS } from "@hound/core/circuit";
import { useDesk } from "../DeskContext.tsx";
import { TrailEditor } from "./TrailEditor.tsx";

interface CircuitStageProps {
  readonly goTo: { readonly offset: number } | null;
  readonly onGoTo: (offset: number) => void;
  readonly memory: { current: EditorState | null };
}

/** Stage Circuit: follow the drawing with a finger, write what comes next. */
export function CircuitStage({ goTo, onGoTo, memory }: CircuitStageProps) {
  const { desk, state, select } = useDesk();
  const { trail, text } = state;
  const onCursor = (offset: number) => {
    const part = [...trail.places.values()].find((p) => p.from <= offset && offset <= p.to);
    if (part)
      select({ kind: "branch", name: part.kind === "potentiometer" ? `${part.designator}.top` : part.designator });
  };
  const mistakes = trail.mistakes;
  return (
    <div className="flex h-full min-h-0 flex-col gap-3">
      <div className="min-h-48 grow basis-1/2">
        <TrailEditor text={text} onChange={(t) => desk.setText(t)} onCursor={onCursor} goTo={goTo} memory={memory} />
      </div>
      {mistakes.length > 0 && text.trim() !== "" && (
        <ul
          aria-label="Mistakes in the trail"
          className="max-h-60 shrink-0 overflow-auto rounded-lg border border-rule bg-sheet"
        >
          {mistakes.map((m) => (
            <li
              key={`${m.from} ${m.message}`}
              className="flex items-start gap-2 border-b border-rule px-3 py-2 last:border-0"
            >
              <button type="button" className="grow text-left" onClick={() => onGoTo(m.from)}>
                <span className={`font-bold ${m.severity === "mistake" ? "text-wrong" : "text-doubt"}`}>
                  Line {m.line}, column {m.column}
                </span>{" "}
                {m.message}
              </button>
              {m.fix && (
                <button
                  type="button"
                  className="shrink-0 rounded border border-rule px-2 py-1 hover:bg-band"
                  onClick={() => desk.applyEdits(m.fix?.edits ?? [])}
                >
                  {m.fix.label}
                </button>
              )}
            </li>
          ))}
        </ul>
      )}
      <Primer />
    </div>
  );
}

function Primer() {
  const letters = Object.values(KINDS).map(({ letters: [first], word }) => `${first} ${word}`);
  return (
    <details className="shrink-0 rounded-lg border border-rule bg-sheet px-4 py-3">
      <summary className="font-bold">How a trail is written</summary>
      <div className="mt-2 space-y-2 text-faint">
        <p>
          Start at a supply’s plus and write what you meet until you are back at its minus. Fork with ( | ), name
          junctions with [ ].
        </p>
        <pre className="overflow-auto rounded bg-band p-3 font-mono text-ink">
          {
            "BT1 12V: F1 2A + [A] R1 220 5% + [B]\n  (R2 1k | LA1 12V 5W) + [C] R3 47\n[A] R4 10k [C]   # another line between two nodes"
          }
        </pre>
        <p>Letters give the kind: {letters.join(", ")}.</p>
      </div>
    </details>
  );
}
