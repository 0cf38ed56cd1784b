import type { Asked, Place } from "@hound/core/claims";
import { Check, CircleX, CornerDownRight } from "lucide-react";
import { useState } from "react";
import { useDesk } from "../desk/DeskContext.tsx";
import { useKept } from "../desk/useKept.ts";
import { claimName, markWords } from "../words/claims.ts";
import { inWords } from "../words/print.ts";
import type { OwnFigures } from "./useClaims.ts";

interface OwnCellProps {
  readonly own: OwnFigures;
  readonly place: Place;
  readonly of: Asked;
  readonly onAsk?: (cell: { place: string; of: Asked }) => void;
}

/** A cell for one own figure, marked at once. */
export function OwnCell({ own, place: { name }, of, onAsk }: OwnCellProps) {
  const { state } = useDesk();
  const saved = own.typed(name, of);
  const { value: text, set, forget } = useKept(`own ${of} ${name} ${state.job.id}`, saved);
  const [why, setWhy] = useState<string | null>(null);
  const commit = () => {
    const refused = own.write(name, of, text.trim());
    setWhy(refused);
    if (refused === null) forget();
  };
  const mark = own.marked.find((m) => m.claim.place === name && m.claim.of === of);
  const said = mark && text.trim() === saved ? markWords(mark) : null;
  const isGood = mark?.mark.kind === "right" || mark?.mark.kind === "rounded";
  return (
    <span className="inline-flex flex-col items-end">
      <span className="flex items-center gap-0.5">
        {said &&
          (isGood ? (
            <Check size={16} className="text-low" aria-hidden />
          ) : mark?.mark.kind === "follows" ? (
            <CornerDownRight size={16} className="text-doubt" aria-hidden />
          ) : (
            <CircleX size={16} className="text-wrong" aria-hidden />
          ))}
        <input
          value={text}
          aria-label={`My ${claimName({ place: name, of })}`}
          aria-invalid={why !== null}
          autoComplete="off"
          inputMode="text"
          onChange={(e) => set(e.target.value)}
          onFocus={() => onAsk?.({ place: name, of })}
          onBlur={commit}
          onKeyDown={(e) => e.key === "Enter" && commit()}
          className={`w-20 rounded border bg-paper px-1.5 py-0.5 text-right font-mono ${why !== null ? "border-wrong" : "border-field"}`}
        />
      </span>
      {(why ?? said) && (
        <span
          className={`text-sm ${isGood ? "text-faint" : why !== null || mark?.mark.kind === "wrong" ? "text-wrong" : "text-doubt"}`}
        >
          {why !== null ? inWords(why) : said?.word}
        </span>
      )}
    </span>
  );
}

/** What is wrong, with what probably made it so, in the order in which it was written. */
export function LookAgain({ own }: { own: OwnFigures }) {
  const odd = own.marked.filter(({ mark }) => mark.kind !== "right");
  if (odd.length === 0) return null;
  return (
    <ul
      aria-label="What to look at again"
      className="flex flex-col gap-1.5 rounded-lg border border-rule bg-sheet px-3 py-2"
    >
      {odd.map((one) => {
        const { word, more } = markWords(one);
        return (
          <li key={`${one.claim.of} ${one.claim.place}`}>
            <b>
              {claimName(one.claim)} {one.claim.typed}
            </b>
            : {word}
            {more && `: ${more}`}.
          </li>
        );
      })}
    </ul>
  );
}
