import { ASKED, type Asked, isDrawn } from "@hound/core/claims";
import type { Conventions } from "@hound/core/record";
import { useEffect, useState } from "react";
import { Scroll } from "../app/Scroll.tsx";
import { claimName, placeWords } from "../words/claims.ts";
import { Between, Equations, Next } from "./MineBeside.tsx";
import { LookAgain, OwnCell } from "./OwnCell.tsx";
import { useClaims } from "./useClaims.ts";
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
                      <OwnCell own={own} place={place} of={of} onAsk={setAsked} />
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
            <OwnCell own={own} place={place} of="volts" onAsk={setAsked} />
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
