import { ASKED, type Asked, isDrawn, type Place } from "@hound/core/claims";
import type { Conventions } from "@hound/core/record";
import { Check, CircleX, CornerDownRight } from "lucide-react";
import { useEffect, useState } from "react";
import { Scroll } from "../app/Scroll.tsx";
import { useDesk } from "../desk/DeskContext.tsx";
import { useKept } from "../desk/useKept.ts";
import { claimName, markWords, placeWords } from "../words/claims.ts";
import { inWords } from "../words/print.ts";
import { Between, Equations, Next } from "./MineBeside.tsx";
import { type OwnFigures, useClaims } from "./useClaims.ts";
import type { Expected } from "./useExpected.ts";

const HEADS: Readonly<Record<Asked, string>> = { volts: "V", amps: "I", ohms: "R", watts: "P" };

/** A person's own figures in the chart's cells, each marked at once, with what probably went wrong; never weighed as readings. */
export function Mine({
  expected,
  conventions,
  onHush,
}: {
  readonly expected: Expected;
  readonly conventions: Conventions;
  /** Told whether the board shows no figures; null where it never shows any. */
  readonly onHush: ((isHushed: boolean) => void) | null;
}) {
  const own = useClaims(expected);
  const [isOpen, setOpen] = useState(false);
  // Whoever works it out does not have the answers beside it.
  useEffect(() => {
    onHush?.(!isOpen);
    return () => onHush?.(false);
  }, [onHush, isOpen]);
  const { places, marked } = own;
  const rows = places.filter((p) => p.kind !== "node");
  const nodes = places.filter((p) => p.kind === "node");
  const [asked, setAsked] = useState<{ readonly place: string; readonly of: Asked } | null>(null);
  const count = (...kinds: readonly string[]) => marked.filter((m) => kinds.includes(m.mark.kind)).length;
  return (
    <div className="flex flex-col gap-3">
      <p role="status" className="rounded-lg border border-rule px-3 py-2">
        {marked.length === 0
          ? "Type your own figures, in any order, with units or without: each is marked at once. They are no readings."
          : `${count("right", "rounded")} right, ${count("wrong")} wrong${count("follows") > 0 ? `, ${count("follows")} right from what was wrong before` : ""}.`}
      </p>
      {onHush && (
        <label className="flex items-center gap-2">
          <input
            type="checkbox"
            checked={isOpen}
            onChange={(e) => setOpen(e.target.checked)}
            className="size-5 accent-copper"
          />
          Show the figures on the board
        </label>
      )}
      <Scroll label="Own figures">
        <table className="w-full border-collapse text-[0.94rem]" aria-label="My own figures">
          <thead className="bg-band">
            <tr>
              {["Part", ...ASKED.map((of) => HEADS[of])].map((head, n) => (
                <th key={head} scope="col" className={`px-2 py-2 ${n === 0 ? "text-left" : "text-right"}`}>
                  {head}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {rows.map((place) => (
              <tr key={place.name} className="border-t border-rule align-top">
                <th scope="row" className="py-1.5 pr-1 pl-3 text-left">
                  {place.name}
                  <span className="block text-sm font-normal text-faint">{placeWords(place)}</span>
                </th>
                {ASKED.map((of) => (
                  <td key={of} className="px-1 py-1 text-right">
                    {place.truth[of] === undefined ? (
                      <span className="text-faint">–</span>
                    ) : isDrawn(expected.network, place, of) ? (
                      <span className="text-faint">drawn</span>
                    ) : (
                      <Cell own={own} place={place} of={of} onAsk={setAsked} />
                    )}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </Scroll>
      <section aria-label="Own figures at nodes" className="flex flex-wrap gap-3">
        {nodes.map((place) => (
          <div key={place.name} className="flex items-start gap-1.5">
            <span className="pt-1">{claimName({ place: place.name, of: "volts" })}</span>
            <Cell own={own} place={place} of="volts" onAsk={setAsked} />
          </div>
        ))}
      </section>
      <Between expected={expected} own={own} />
      <LookAgain own={own} />
      <Next expected={expected} own={own} asked={asked} letter={conventions.sourceLetter} />
      <Equations own={own} network={expected.network} />
    </div>
  );
}

interface CellProps {
  readonly own: OwnFigures;
  readonly place: Place;
  readonly of: Asked;
  readonly onAsk: (cell: { place: string; of: Asked }) => void;
}

function Cell({ own, place: { name }, of, onAsk }: CellProps) {
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
          onFocus={() => onAsk({ place: name, of })}
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
function LookAgain({ own }: { own: OwnFigures }) {
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
