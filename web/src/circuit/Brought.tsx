import { setWord, withFreeDesignators, wordsOfPart } from "@hound/core/notation";
import { useDesk, useSelection } from "../desk/DeskContext.tsx";
import { targetOf } from "./circuitEdits.ts";
import type { CircuitEdits } from "./useCircuitEdits.ts";

/** Parts that a pocket sum sent here, until they are put in or put away. */
export function Brought({ words, edits, onUsed }: { words: string; edits: CircuitEdits; onUsed: () => void }) {
  const { state, trailDocument } = useDesk();
  const { selection, stretch } = useSelection();
  const { trail } = state;
  const parts = withFreeDesignators(trail, words);
  const [selected] = targetOf(trail, selection, stretch).parts;
  const [, value] = /^R\d+ (\S+)( \S+%)?$/.exec(words) ?? [];
  const takesValue = selected !== undefined && wordsOfPart(trail, selected).some((w) => w.role === "value");
  const write = () => {
    trailDocument.insert(trail.text.trim() === "" ? `[A] ${parts} [B]` : parts);
    onUsed();
  };
  const setValue = () => {
    if (edits.make(setWord(trail, selected, "value", value), `${selected} ${value}`)) onUsed();
  };
  return (
    <section aria-label="From the pocket sums" className="rounded-lg border-2 border-copper bg-sheet px-4 py-3">
      <p>
        From the pocket sums: <strong className="font-mono">{parts}</strong>
      </p>
      <p className="text-sm text-faint">
        Select a part on the board: Before, After and Parallel then begin with it. Or:
      </p>
      <div className="mt-2 flex flex-wrap gap-2">
        {value !== undefined && takesValue && <Take words={`As the value of ${selected}`} run={setValue} />}
        <Take words="Into the trail, at the cursor" run={write} />
        <Take words="Put away" run={onUsed} />
      </div>
    </section>
  );
}

function Take({ words, run }: { words: string; run: () => void }) {
  return (
    <button type="button" onClick={run} className="rounded-lg border border-rule px-3 py-1.5 hover:bg-band">
      {words}
    </button>
  );
}
