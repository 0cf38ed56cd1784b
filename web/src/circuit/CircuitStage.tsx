import { calledAs, designatorOf, KIND_NAMES, KINDS } from "@hound/core/circuit";
import { type Mistake, mendAll } from "@hound/core/notation";
import { Tabs } from "radix-ui";
import { memo, Suspense, startTransition, useDeferredValue, useMemo, useState } from "react";
import { Link } from "react-router";
import { Loading } from "../app/Loading.tsx";
import { lazyNamed } from "../app/lazyNamed.ts";
import { Spoken } from "../app/Spoken.tsx";
import { TabStrip } from "../app/TabStrip.tsx";
import { useDesk } from "../desk/DeskContext.tsx";
import { usePointed } from "../desk/pointing.ts";
import { inWords } from "../words/print.ts";
import { Brought } from "./Brought.tsx";
import { nameOnBoard } from "./circuitEdits.ts";
import { Exchange } from "./Exchange.tsx";
import { Oddities } from "./Oddities.tsx";
import { TrailEditor } from "./TrailEditor.tsx";
import { Unknowns } from "./Unknowns.tsx";
import type { CircuitEdits } from "./useCircuitEdits.ts";

const PartsTable = lazyNamed(() => import("./PartsTable.tsx"), "PartsTable");
const Breadboard = lazyNamed(() => import("./Breadboard.tsx"), "Breadboard");

interface CircuitStageProps {
  readonly goTo: { readonly offset: number } | null;
  readonly onGoTo: (offset: number) => void;
  readonly edits: CircuitEdits;
  /** Parts brought along from elsewhere. */
  readonly sent: string | null;
  readonly onUsed: () => void;
}

/** Stage Circuit: follow the drawing with a finger, write what comes next; or fill in the table, or draw on the board. */
export function CircuitStage({ goTo, onGoTo, edits, sent, onUsed }: CircuitStageProps) {
  const { desk, state, drawn } = useDesk();
  const [tab, setTab] = useState("trail");
  const { trail, text } = state;
  return (
    <Tabs.Root value={tab} onValueChange={setTab} className="flex h-full min-h-0 flex-col gap-3">
      <Ways />
      {sent !== null && <Brought words={sent} edits={edits} onUsed={onUsed} />}
      <Tabs.Content value="trail" className="flex min-h-0 grow basis-1/2 flex-col gap-3 data-[state=inactive]:hidden">
        <Signs />
        <div className="min-h-40 grow">
          <Text goTo={goTo} />
        </div>
        <Spoken text={text.trim() === "" ? "" : inWords(spokenOf(trail.mistakes))} />
        {trail.mistakes.length > 0 && text.trim() !== "" && (
          <Mistakes onGoTo={onGoTo} onFix={desk.applyEdits.bind(desk)} />
        )}
      </Tabs.Content>
      <Tabs.Content value="parts" className="min-h-0 grow basis-1/2 data-[state=inactive]:hidden">
        <Suspense fallback={<Loading what="the table" />}>
          <PartsTable edits={edits} />
        </Suspense>
      </Tabs.Content>
      <Tabs.Content value="breadboard" className="data-[state=inactive]:hidden">
        <Suspense fallback={<Loading what="the breadboard" />}>
          {drawn ? <Breadboard drawn={drawn} /> : <p className="p-4 text-faint">There is no circuit to build yet.</p>}
        </Suspense>
      </Tabs.Content>
      {drawn?.settled && <Unknowns drawn={drawn} settled={drawn.settled} />}
      {drawn && !drawn.outdated && <Oddities drawn={drawn} />}
      <Primer />
    </Tabs.Root>
  );
}

/** The trail, with the part that is pointed at on the board lit up in it, and the other way round. */
function Text({ goTo }: Pick<CircuitStageProps, "goTo">) {
  const { state, select, hover, pointing, trailDocument } = useDesk();
  const { places } = state.trail;
  const lit = usePointed(pointing, ({ selection }, hovered) => {
    const pointed = hovered ?? selection;
    return pointed?.kind === "branch" ? designatorOf(pointed.name) : null;
  });
  const partOf = (designator: string) => ({ kind: "branch", name: nameOnBoard(places, designator) }) as const;
  return (
    <TrailEditor
      document={trailDocument}
      places={places}
      goTo={goTo}
      lit={lit}
      onCursor={(designator) => startTransition(() => select(partOf(designator)))}
      onPoint={(designator) => hover(designator === null ? null : partOf(designator))}
    />
  );
}

/** What stays as it is while the trail is typed. */
const Ways = memo(function Ways() {
  return (
    <div className="flex flex-wrap items-end justify-between gap-2 border-b border-rule">
      <TabStrip label="Ways to enter the circuit" tabs={{ trail: "Trail", parts: "Parts", breadboard: "Breadboard" }} />
      <Exchange />
    </div>
  );
});

/** Signs of a trail to be pressed: some keyboards have them far away, some screens have no keyboard. */
const Signs = memo(function Signs() {
  const { trailDocument } = useDesk();
  return (
    <div role="toolbar" aria-label="Signs of a trail" className="flex flex-wrap items-center gap-1">
      {["[", "]", "(", "|", ")", "+", ":"].map((sign) => (
        <button
          key={sign}
          type="button"
          // The editor keeps the focus.
          onMouseDown={(e) => e.preventDefault()}
          onClick={() => trailDocument.insert(sign)}
          className="min-w-8 rounded border border-field px-2 py-0.5 font-mono hover:bg-band"
        >
          {sign}
        </button>
      ))}
      <span className="ml-2 text-sm text-faint">Keys &lt; &gt; ! type [ ] | here.</span>
    </div>
  );
});

/** The first of what is wrong, and how much there is. */
function spokenOf(mistakes: readonly Mistake[]): string {
  const [first] = mistakes;
  if (!first) return "";
  const fix = first.fix ? ` Alt+Enter: ${first.fix.label}.` : "";
  const more = mistakes.length > 1 ? `${mistakes.length} to look at. ` : "";
  return `${more}Line ${first.line}, column ${first.column}: ${first.message}.${fix}`;
}

function Mistakes({
  onGoTo,
  onFix,
}: {
  onGoTo: (offset: number) => void;
  onFix: ReturnType<typeof useDesk>["desk"]["applyEdits"];
}) {
  const { state } = useDesk();
  const { mistakes, text } = state.trail;
  // Typing does not wait for it.
  const later = useDeferredValue(state.trail);
  const mendedLater = useMemo(
    () => (later.mistakes.filter((m) => m.severity === "mistake").length > 1 ? mendAll(later.text) : null),
    [later],
  );
  const mended = later.text === text ? mendedLater : null;
  return (
    <ul
      id="trail-mistakes"
      tabIndex={0}
      aria-label="Mistakes in the trail"
      className="max-h-60 shrink-0 overflow-auto rounded-lg border border-rule bg-sheet"
    >
      {mended && (
        <li className="border-b border-rule px-3 py-2">
          <button
            type="button"
            className="rounded border border-copper px-2 py-1 font-bold hover:bg-band"
            onClick={() => onFix([{ from: 0, to: text.length, insert: mended.text }])}
          >
            Mend all
          </button>{" "}
          <code className="break-words text-faint">{mended.text}</code>
        </li>
      )}
      {mistakes.map((m) => (
        <li
          key={`${m.from} ${m.message}`}
          className="flex items-start gap-2 border-b border-rule px-3 py-2 last:border-0"
        >
          <button type="button" className="grow text-left" onClick={() => onGoTo(m.from)}>
            <span className={`font-bold ${m.severity === "mistake" ? "text-wrong" : "text-doubt"}`}>
              Line {m.line}, column {m.column}
            </span>{" "}
            {inWords(m.message)}
          </button>
          {m.fix && (
            <button
              type="button"
              className="shrink-0 rounded border border-rule px-2 py-1 hover:bg-band"
              onClick={() => onFix(m.fix?.edits ?? [])}
            >
              {m.fix.label}
            </button>
          )}
        </li>
      ))}
    </ul>
  );
}

function Primer() {
  const letters = KIND_NAMES.map((kind) => `${calledAs(kind)[0]} ${KINDS[kind].word}`);
  return (
    <details className="shrink-0 rounded-lg border border-rule bg-sheet px-4 py-3">
      <summary className="font-bold">How a trail is written</summary>
      <div className="mt-2 space-y-2 text-faint">
        <p>
          Start at a supply’s plus and write what you meet until you are back at its minus. Fork with ( | ), name
          junctions with [ ]. A value you do not know is written ? and estimated from the readings.
        </p>
        <pre tabIndex={0} className="overflow-auto rounded bg-band p-3 font-mono text-ink">
          {
            "BT1 12V: F1 2A + [A] R1 220 5% + [B]\n  (R2 1k | LA1 12V 5W) + [C] R3 47\n[A] R4 10k [C]   # another line between two nodes"
          }
        </pre>
        <p>Letters give the kind: {letters.join(", ")}.</p>
        <p>
          On the board: select a part, Shift extends to its neighbours, then type a for after, b for before, p for
          parallel, s to swap, m to move, Delete to remove. In the trail: Tab takes a suggestion, Alt+Enter mends the
          mistake at the cursor, Alt+Shift+F puts spaces in order. What a node is called where you probe it:{" "}
          <span className="font-mono text-ink">point C TB2-4, blue wire</span>.
        </p>
        <p>
          <Link to="/help/circuit" className="underline">
            Every line, with examples to try
          </Link>
        </p>
      </div>
    </details>
  );
}
