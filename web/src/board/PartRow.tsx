import type { Branch } from "@hound/core/circuit";
import type { LaneStrip } from "@hound/core/layout";
import type { Conventions } from "@hound/core/record";
import { memo } from "react";
import { BoardText } from "./BoardText.tsx";
import type { BranchFacts } from "./boardFacts.ts";
import { cutsOf, type Frame, symbolAt, wirePath } from "./geometry.ts";
import { LeadMark } from "./LeadMark.tsx";
import type { Leads } from "./leads.ts";
import { PartSymbol } from "./PartSymbol.tsx";
import { fitted, partTexts, widthOf } from "./texts.ts";

interface PartRowProps {
  readonly frame: Frame;
  readonly strip: LaneStrip;
  readonly branch: Branch;
  readonly facts: BranchFacts;
  readonly lit: boolean;
  readonly symbols: Conventions["symbols"];
  /** How much larger figures are written than usual. */
  readonly k: number;
  /** True where the next measurement is about it. */
  readonly isNext: boolean;
  /** The lead that goes to its freed end. */
  readonly freed?: Leads["freed"] | undefined;
}

/** A part in its row: wire, symbol, what it is and what the stage shows; a ring where it is suspected. */
export const PartRow = memo(function PartRow({
  frame,
  strip,
  branch,
  facts,
  lit,
  symbols,
  k,
  isNext,
  freed,
}: PartRowProps) {
  const at = symbolAt(frame, strip);
  const wire = (
    <>
      <path d={wirePath(frame, strip)} fill="none" stroke="currentColor" strokeWidth={lit ? 3.6 : 2.2} />
      {cutsOf(frame, strip).map(({ x, y, direction }) => (
        <g key={direction} fill="currentColor">
          <path d={`M${x} ${y} l${-9 * direction} -7 v14 z`} />
          <text x={x - 6 * direction} y={y - 11} textAnchor="middle" fontSize={13}>
            {fitted(branch.name, 52, 13, false)}
          </text>
        </g>
      ))}
    </>
  );
  if (!at) return <g className={lit ? "text-copper" : "text-ink"}>{wire}</g>;
  const { x, y } = at;
  const [label, ...below] = partTexts(at, facts, k);
  const ring = { x: x - 39, y: y - 24, width: 78, height: 48, rx: 24, fill: "none" };
  return (
    <>
      <rect x={x - 74} y={y - 46} width={148} height={96} fill="transparent" />
      <g className={lit ? "text-copper" : "text-ink"}>
        {wire}
        {isNext && (
          <path
            d={`M${x - 42} ${y - 22} h-10 v44 h10 M${x + 42} ${y - 22} h10 v44 h-10`}
            fill="none"
            className="stroke-copper"
            strokeWidth={4.5}
          />
        )}
        {freed && <LeadMark which={freed.which} x={x + (freed.isFirstEnd !== strip.strip.backward ? -52 : 52)} y={y} />}
        {facts.imagined?.mark && <rect {...ring} className="stroke-suspect" strokeWidth={4} strokeDasharray="9 5" />}
        {facts.suspicion >= 0.01 && (
          <rect
            {...ring}
            className={facts.suspicion >= 0.5 ? "stroke-suspect" : "stroke-doubt"}
            strokeWidth={2 + 5 * facts.suspicion}
          />
        )}
        <g transform={`translate(${x} ${y})`}>
          <PartSymbol branch={branch} backward={strip.strip.backward} symbols={symbols} />
        </g>
        <BoardText content={label} inherit={label.tone === "ink"} />
        {facts.odd && (
          <g
            transform={`translate(${x + widthOf(label.text, label.size, true) / 2 + 12} ${label.y - 6})`}
            className="text-doubt"
          >
            <title>{facts.odd}</title>
            <path d="M0 -9 L9 7 H-9 z" fill="currentColor" />
            <text y={5.5} textAnchor="middle" fontSize={12} fontWeight={700} className="fill-sheet">
              !
            </text>
          </g>
        )}
      </g>
      {below.map((content) => (
        <BoardText key={content.text} content={content} isRimmed />
      ))}
    </>
  );
});
