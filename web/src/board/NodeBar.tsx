import type { LaneBar } from "@hound/core/layout";
import { memo } from "react";
import { BoardText } from "./BoardText.tsx";
import type { NodeFacts } from "./boardFacts.ts";
import { barLine, type Frame, SIZES } from "./geometry.ts";
import { LeadMark } from "./LeadMark.tsx";
import { halfBadge, nodeTexts } from "./texts.ts";

interface NodeBarProps {
  readonly frame: Frame;
  readonly bar: LaneBar;
  readonly facts: NodeFacts;
  readonly lit: boolean;
  /** How much larger figures are written than usual. */
  readonly k: number;
  /** Which lead the next measurement puts here. */
  readonly lead: "red" | "black" | null;
}

/** A node: one vertical bar with its name, what it should read and what was read. */
export const NodeBar = memo(function NodeBar({ frame, bar, facts, lit, k, lead }: NodeBarProps) {
  const { goesOn } = bar;
  const line = barLine(frame, bar);
  const { x, y1, y2, badgeY } = line;
  const { name, values } = nodeTexts(line, facts, k);
  const half = halfBadge(name);
  return (
    <g className={lit ? "text-copper" : "text-ink"}>
      <path
        d={`M${x} ${badgeY + SIZES.halfBadge} V${y2}`}
        stroke="currentColor"
        strokeWidth={lit ? 7 : 4.5}
        strokeLinecap="round"
      />
      <path d={`M${x} ${y1} V${y2}`} stroke="transparent" strokeWidth={22} />
      {/* A potentiometer's tap has no name that one could write. */}
      {name.text !== "" && (
        <>
          <rect
            x={x - half}
            y={badgeY - SIZES.halfBadge}
            width={half * 2}
            height={2 * SIZES.halfBadge}
            rx={SIZES.halfBadge}
            className={lit ? "fill-copper" : "fill-sheet"}
            stroke="currentColor"
            strokeWidth={2}
            strokeDasharray={goesOn ? "5 3" : undefined}
          />
          {lead && <Lead which={lead} x={x - half} y={badgeY} width={half * 2} />}
          <g className={lit ? "text-sheet" : "text-ink"}>
            <BoardText content={name} inherit />
          </g>
        </>
      )}
      {values.map((content) => (
        <BoardText key={content.tone} content={content} isRimmed />
      ))}
      {(goesOn === "after" || goesOn === "both") && (
        <path d={`M${x + half + 5} ${badgeY - 5} l7 5 l-7 5`} fill="none" stroke="currentColor" strokeWidth={2} />
      )}
      {(goesOn === "before" || goesOn === "both") && (
        <path d={`M${x - half - 5} ${badgeY - 5} l-7 5 l7 5`} fill="none" stroke="currentColor" strokeWidth={2} />
      )}
      {facts.imagined && <Change limits={facts.imagined.limits} x={x} half={half + 3} y={badgeY} />}
      {facts.deviation !== 0 && !facts.imagined && (
        <path
          d={
            facts.deviation > 0
              ? `M${x + half + 4} ${badgeY + 7} l8 -14 l8 14 z`
              : `M${x + half + 4} ${badgeY - 7} l8 14 l8 -14 z`
          }
          className={facts.deviation > 0 ? "fill-high" : "fill-low"}
        />
      )}
    </g>
  );
});

/** Longest bar of a change, in the drawing's units, and the limits that it stands for. */
const LONGEST = { bar: 24, limits: 30 } as const;

/** How far it changes, in limits: to the right it rises, to the left it falls; the tick is one limit. */
function Change({ limits, x, half, y }: { limits: number; x: number; half: number; y: number }) {
  if (!(Math.abs(limits) > 0.05)) return null;
  const long = (size: number) => (LONGEST.bar * Math.log1p(size)) / Math.log1p(LONGEST.limits);
  const [width, one] = [Math.min(LONGEST.bar, long(Math.abs(limits))), long(1)];
  const side = Math.sign(limits);
  const from = x + side * half;
  return (
    <g className={side > 0 ? "text-high" : "text-low"}>
      <rect x={side > 0 ? from : from - width} y={y - 3.5} width={width} height={7} fill="currentColor" />
      <path d={`M${from + side * one} ${y - 7} v14`} stroke="currentColor" strokeWidth={1.6} />
    </g>
  );
}

/** A lead of the next measurement: a second ring in copper, and a mark in the lead's colour of which one it is. */
function Lead({ which, x, y, width }: { which: "red" | "black"; x: number; y: number; width: number }) {
  return (
    <g>
      <rect
        x={x - 3.5}
        y={y - SIZES.halfBadge - 3.5}
        width={width + 7}
        height={2 * SIZES.halfBadge + 7}
        rx={SIZES.halfBadge + 3.5}
        fill="none"
        className="stroke-copper"
        strokeWidth={3.5}
      />
      <LeadMark which={which} x={x - 15} y={y} />
    </g>
  );
}
