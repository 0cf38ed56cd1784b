import {
  type BreadboardPlan,
  COLUMNS,
  drawParts,
  type Hole,
  LABEL,
  nameOfHole,
  type PartDrawn,
  type Place,
  placeOf,
  SPAN,
} from "@hound/core/layout";
import type { Ref } from "react";

const PITCH = 24;
/** Left of the plus rail are the row numbers, above row 1 the columns' letters. */
const LEFT = 46;
const TOP = 20;
const COLOURS: Readonly<Record<BreadboardPlan["jumpers"][number]["colour"], string>> = {
  yellow: "#c79a00",
  green: "#2c7a3f",
  blue: "#1f5fa8",
  orange: "#c2571a",
  white: "#8a8a8a",
};

const at = ({ x, y }: Place) => ({ x: LEFT + x * PITCH, y: TOP + y * PITCH });
const line = (places: readonly Place[]) => `M${places.map((p) => `${at(p).x} ${at(p).y}`).join(" L")}`;

interface Props {
  readonly plan: BreadboardPlan;
  readonly ref: Ref<SVGSVGElement>;
  readonly selected: string | null;
  readonly onSelect: (part: string) => void;
}

/** The plan as one sees it from above; a selected part shows the lead to pull and where a meter goes. */
export function BreadboardPicture({ plan, ref, selected, onSelect }: Props) {
  const parts = drawParts(plan);
  const [width, height] = [LEFT + SPAN * PITCH + 14, TOP + (plan.rows + 0.7) * PITCH];
  const pull = plan.pulls.find((p) => p.part === selected);
  return (
    <svg
      ref={ref}
      viewBox={`0 0 ${width} ${height}`}
      className="w-full rounded-lg border border-rule bg-sheet"
      role="img"
      aria-label={`Breadboard with ${parts.length} parts and ${plan.jumpers.length} jumpers`}
    >
      <Holes rows={plan.rows} />
      {plan.jumpers.map((j) => (
        <g key={`${nameOfHole(j.from)} ${nameOfHole(j.to)}`} stroke={COLOURS[j.colour]} fill={COLOURS[j.colour]}>
          <path d={line(j.way)} fill="none" strokeWidth={3.2} strokeLinejoin="round" />
          {[j.from, j.to].map((hole) => (
            <circle key={nameOfHole(hole)} cx={at(placeOf(hole)).x} cy={at(placeOf(hole)).y} r={4.5} stroke="none" />
          ))}
        </g>
      ))}
      {pull && (
        <path
          d={line([parts.find((p) => p.part === pull.part)?.at ?? placeOf(pull.from), placeOf(pull.to)])}
          className="stroke-copper"
          strokeWidth={3.2}
          strokeDasharray="6 4"
        />
      )}
      {parts.map((drawn) => (
        <PartLine
          key={drawn.part}
          drawn={drawn}
          isLit={drawn.part === selected}
          isPulled={drawn.part === pull?.part}
          onSelect={() => onSelect(drawn.part)}
        />
      ))}
      {pull && (
        <g className="text-copper">
          <circle cx={at(placeOf(pull.to)).x} cy={at(placeOf(pull.to)).y} r={5} fill="currentColor" />
          <LeadMark hole={pull.red} sign="+" />
          <LeadMark hole={pull.black} sign="−" />
        </g>
      )}
    </svg>
  );
}

function Holes({ rows }: { rows: number }) {
  const all = Array.from({ length: rows }, (_, i) => i + 1);
  const rails = (["left", "right"] as const).flatMap((side) =>
    (["+", "-"] as const).map((rail) => ({ on: "rail", rail, side, row: 1 }) as const),
  );
  return (
    <g>
      {rails.map((hole) => {
        const { x, y } = at(placeOf(hole));
        return (
          <g key={`${hole.side}${hole.rail}`}>
            <path
              d={`M${x} ${y - 10} v${rows * PITCH}`}
              className={hole.rail === "+" ? "stroke-high" : "stroke-low"}
              strokeWidth={9}
              strokeOpacity={0.22}
            />
            <text x={x} y={21} textAnchor="middle" fontSize={17} fontWeight={700} className="fill-ink">
              {hole.rail === "+" ? "+" : "−"}
            </text>
          </g>
        );
      })}
      {COLUMNS.map((column) => (
        <text
          key={column}
          x={at(placeOf({ on: "strip", row: 1, column })).x}
          y={20}
          textAnchor="middle"
          fontSize={14}
          className="fill-faint"
        >
          {column}
        </text>
      ))}
      {all.map((row) => (
        <g key={row}>
          <text x={LEFT - 14} y={TOP + row * PITCH + 5} textAnchor="end" fontSize={14} className="fill-faint">
            {row}
          </text>
          {[...COLUMNS.map((column): Hole => ({ on: "strip", row, column })), ...rails.map((r) => ({ ...r, row }))].map(
            (hole) => {
              const { x, y } = at(placeOf(hole));
              return (
                <rect key={nameOfHole(hole)} x={x - 3} y={y - 3} width={6} height={6} rx={2} className="fill-rule" />
              );
            },
          )}
        </g>
      ))}
    </g>
  );
}

interface PartLineProps {
  readonly drawn: PartDrawn;
  readonly isLit: boolean;
  readonly isPulled: boolean;
  readonly onSelect: () => void;
}

function PartLine({ drawn: { part, at: middle, leads }, isLit, isPulled, onSelect }: PartLineProps) {
  const { x, y } = at(middle);
  const [width, height] = [LABEL.width * PITCH, LABEL.height * PITCH];
  return (
    <g className={`cursor-pointer ${isLit ? "text-copper" : "text-ink"}`} onPointerDown={onSelect}>
      {leads.map((lead) => (
        <g key={lead.lead} opacity={isPulled && lead.lead === "second" ? 0.25 : 1}>
          <path d={line([middle, lead])} stroke="currentColor" strokeWidth={isLit ? 3.2 : 2.2} />
          <circle cx={at(lead).x} cy={at(lead).y} r={5} fill="currentColor" />
        </g>
      ))}
      <rect
        x={x - width / 2}
        y={y - height / 2}
        width={width}
        height={height}
        rx={6}
        className="fill-sheet"
        stroke="currentColor"
        strokeWidth={1.8}
      />
      <text
        x={x}
        y={y + 5}
        textAnchor="middle"
        fontSize={Math.min(15, (1.7 * width) / part.length)}
        fontWeight={700}
        fill="currentColor"
      >
        {part}
      </text>
    </g>
  );
}

/** Where a lead of the meter goes. */
function LeadMark({ hole, sign }: { hole: Hole; sign: "+" | "−" }) {
  const { x, y } = at(placeOf(hole));
  return (
    <g>
      <circle cx={x} cy={y} r={9} fill="currentColor" />
      <text x={x} y={y + 5.5} textAnchor="middle" fontSize={16} fontWeight={700} className="fill-sheet">
        {sign}
      </text>
    </g>
  );
}
