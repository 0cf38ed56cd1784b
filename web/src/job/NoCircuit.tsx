import type { Trail } from "@hound/core/notation";
import { inWords } from "../words/print.ts";

interface NoCircuitProps {
  readonly trail: Trail;
  /** @param offset in the trail of what is to be mended; null where there is none yet */
  readonly onGo: (offset: number | null) => void;
}

/** What a stage says while there is no circuit to work on: that none is written, or which mistake stands in the way. */
export function NoCircuit({ trail, onGo }: NoCircuitProps) {
  const mistakes = trail.mistakes.filter((m) => m.severity === "mistake");
  const [first] = mistakes;
  const isEmpty = trail.text.trim() === "" || first === undefined;
  return (
    <div className="rounded-xl border border-dashed border-rule p-6 text-center">
      <p className="text-xl font-bold">
        {isEmpty
          ? "No circuit yet"
          : mistakes.length === 1
            ? "The trail has a mistake"
            : `The trail has ${mistakes.length} mistakes`}
      </p>
      <p className="mt-2 break-words text-faint">
        {isEmpty
          ? "Readings need to know what they were taken on."
          : `Line ${first.line}, column ${first.column}: ${inWords(first.message)}. Nothing is worked out from half of it; what was read is kept.`}
      </p>
      <button
        type="button"
        onClick={() => onGo(isEmpty ? null : first.from)}
        className="mt-4 rounded-lg bg-copper px-4 py-2.5 font-bold text-sheet"
      >
        {isEmpty ? "Write the trail" : "Mend it"}
      </button>
    </div>
  );
}
