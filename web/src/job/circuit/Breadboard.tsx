import {
  type BreadboardPlan,
  COLUMNS,
  checkBreadboard,
  type Hole,
  nameOfHole,
  planBreadboard,
} from "@hound/core/layout";
import { ImageDown } from "lucide-react";
import { useMemo, useRef, useState } from "react";
import { useNotice } from "../../app/Notice.tsx";
import { pictureOf } from "../board/picture.ts";
import { type Drawn, useDesk } from "../DeskContext.tsx";
import { breadboardCautions, breadboardSteps } from "./breadboardSteps.ts";

/** The circuit on a solderless breadboard, to try a fault on the bench: where every lead goes, and in which order. */
export function Breadboard({ drawn }: { drawn: Drawn }) {
  const { state, selection, select } = useDesk();
  const { network } = drawn;
  const plan = useMemo(() => planBreadboard(network), [network]);
  const cautions = useMemo(() => breadboardCautions(network), [network]);
  const notice = useNotice();
  const svg = useRef<SVGSVGElement>(null);
  if (plan.kind === "refused") return <p className="p-4 text-faint">Not on a breadboard: {plan.why}.</p>;
  const wrong = checkBreadboard(plan);
  const save = async () => {
    if (!svg.current) return;
    const blob = await pictureOf(svg.current, `${state.job.title}, breadboard`, "svg");
    const link = document.createElement("a");
    link.href = URL.createObjectURL(blob);
    link.download = "breadboard.svg";
    link.click();
    setTimeout(() => URL.revokeObjectURL(link.href), 5000);
    notice({ text: "Saved the breadboard as SVG" });
  };
  return (
    <div className="flex flex-col gap-3">
      <p className="rounded-lg border border-doubt px-3 py-2">
        Low voltage and small currents only. Supply off while a lead moves; local rules and licensed practice come
        first.
        {cautions.map((caution) => (
          <b key={caution} className="block text-wrong">
            {caution}
          </b>
        ))}
      </p>
      {wrong.length > 0 && (
        <p role="alert" className="font-bold text-wrong">
          The plan is not the circuit: {wrong.join("; ")}.
        </p>
      )}
      <button
        type="button"
        onClick={save}
        className="flex items-center gap-1.5 self-start rounded-lg border border-rule px-3 py-1.5 hover:bg-band"
      >
        <ImageDown size={18} aria-hidden /> Save as SVG
      </button>
      <Picture
        plan={plan}
        svg={svg}
        selected={selection?.kind === "branch" ? selection.name.split(".")[0] : null}
        onSelect={(part) =>
          select({ kind: "branch", name: network.branches.find((b) => b.part.designator === part)?.name ?? part })
        }
      />
      <Steps drawn={drawn} plan={plan} />
      <section aria-label="Where to probe" className="rounded-lg border border-rule bg-sheet px-3 py-2">
        <h2 className="font-bold">Where to probe</h2>
        <p>{[...plan.probes].map(([node, hole]) => `${network.nodes[node]}: ${nameOfHole(hole)}`).join(" · ")}</p>
      </section>
    </div>
  );
}

const PITCH = 24;
const LEFT = 30;
const TOP = 26;
const COLOURS: Readonly<Record<string, string>> = {
  yellow: "#c79a00",
  green: "#2c7a3f",
  blue: "#1f5fa8",
  orange: "#c2571a",
  white: "#8a8a8a",
};

function placeOf(hole: Hole): { x: number; y: number } {
  const y = TOP + hole.row * PITCH;
  if (hole.on === "rail") return { x: LEFT + (hole.rail === "+" ? 0 : 1) * PITCH, y };
  const column = COLUMNS.indexOf(hole.column);
  return { x: LEFT + (3 + column + (column > 4 ? 1.4 : 0)) * PITCH, y };
}

interface PictureProps {
  readonly plan: BreadboardPlan;
  readonly svg: { current: SVGSVGElement | null };
  readonly selected: string | null;
  readonly onSelect: (part: string) => void;
}

function Picture({ plan, svg, selected, onSelect }: PictureProps) {
  const rows = Array.from({ length: plan.rows }, (_, i) => i + 1);
  const parts = [...new Set(plan.leads.map((l) => l.part))];
  const [width, height] = [LEFT + 15 * PITCH, TOP + (plan.rows + 1) * PITCH];
  return (
    <svg
      ref={svg}
      viewBox={`0 0 ${width} ${height}`}
      className="w-full rounded-lg border border-rule bg-sheet"
      role="img"
      aria-label={`Breadboard with ${parts.length} parts and ${plan.jumpers.length} jumpers`}
    >
      {(["+", "-"] as const).map((rail) => {
        const top = placeOf({ on: "rail", rail, row: 1 });
        return (
          <g key={rail}>
            <path
              d={`M${top.x} ${top.y - 8} V${height - PITCH}`}
              className={rail === "+" ? "stroke-high" : "stroke-low"}
              strokeWidth={9}
              strokeOpacity={0.22}
            />
            <text x={top.x} y={20} textAnchor="middle" fontSize={17} fontWeight={700} className="fill-ink">
              {rail === "+" ? "+" : "−"}
            </text>
          </g>
        );
      })}
      {COLUMNS.map((column) => (
        <text
          key={column}
          x={placeOf({ on: "strip", row: 1, column }).x}
          y={18}
          textAnchor="middle"
          fontSize={13}
          className="fill-faint"
        >
          {column}
        </text>
      ))}
      {rows.map((row) => (
        <g key={row}>
          <text
            x={placeOf({ on: "strip", row, column: "a" }).x - 18}
            y={TOP + row * PITCH + 4.5}
            textAnchor="end"
            fontSize={12}
            className="fill-faint"
          >
            {row}
          </text>
          {COLUMNS.map((column) => {
            const { x, y } = placeOf({ on: "strip", row, column });
            return <rect key={column} x={x - 3.5} y={y - 3.5} width={7} height={7} rx={2} className="fill-rule" />;
          })}
          {(["+", "-"] as const).map((rail) => {
            const { x, y } = placeOf({ on: "rail", rail, row });
            return <rect key={rail} x={x - 3.5} y={y - 3.5} width={7} height={7} rx={2} className="fill-rule" />;
          })}
        </g>
      ))}
      {plan.jumpers.map((j) => {
        const [a, b] = [placeOf(j.from), placeOf(j.to)];
        return (
          <path
            key={`${nameOfHole(j.from)} ${nameOfHole(j.to)}`}
            d={`M${a.x} ${a.y} Q${(a.x + b.x) / 2} ${Math.min(a.y, b.y) - 14} ${b.x} ${b.y}`}
            fill="none"
            stroke={COLOURS[j.colour]}
            strokeWidth={4}
            strokeLinecap="round"
          />
        );
      })}
      {parts.map((part) => (
        <PartLine key={part} part={part} plan={plan} isLit={part === selected} onSelect={() => onSelect(part)} />
      ))}
    </svg>
  );
}

function PartLine({
  part,
  plan,
  isLit,
  onSelect,
}: {
  part: string;
  plan: BreadboardPlan;
  isLit: boolean;
  onSelect: () => void;
}) {
  const ends = plan.leads.filter((l) => l.part === part).map((l) => placeOf(l.hole));
  const mean = (pick: (e: { x: number; y: number }) => number) => ends.reduce((s, e) => s + pick(e), 0) / ends.length;
  const middle = { x: mean((e) => e.x), y: mean((e) => e.y) };
  const width = part.length * 8.4 + 10;
  return (
    <g className={`cursor-pointer ${isLit ? "text-copper" : "text-ink"}`} onPointerDown={onSelect}>
      {ends.map(({ x, y }) => (
        <g key={`${x} ${y}`}>
          <path d={`M${x} ${y} L${middle.x} ${middle.y}`} stroke="currentColor" strokeWidth={isLit ? 3.5 : 2.2} />
          <circle cx={x} cy={y} r={5} fill="currentColor" />
        </g>
      ))}
      <rect
        x={middle.x - width / 2}
        y={middle.y - 10}
        width={width}
        height={20}
        rx={6}
        className="fill-sheet"
        stroke="currentColor"
        strokeWidth={1.8}
      />
      <text x={middle.x} y={middle.y + 5} textAnchor="middle" fontSize={14} fontWeight={700} fill="currentColor">
        {part}
      </text>
    </g>
  );
}

function Steps({ drawn, plan }: { drawn: Drawn; plan: BreadboardPlan }) {
  const groups = useMemo(() => breadboardSteps(drawn.network, plan), [drawn.network, plan]);
  const [done, setDone] = useState<ReadonlySet<string>>(new Set());
  const toggle = (key: string) => {
    const next = new Set(done);
    if (!next.delete(key)) next.add(key);
    setDone(next);
  };
  return (
    <div className="flex flex-col gap-2">
      {groups.map(({ title, steps }) => (
        <section key={title} aria-label={title} className="rounded-lg border border-rule bg-sheet px-3 py-2">
          <h2 className="font-bold">{title}</h2>
          {steps.map((step) => (
            <label key={step} className="flex items-start gap-2.5 py-1">
              <input
                type="checkbox"
                checked={done.has(`${title} ${step}`)}
                onChange={() => toggle(`${title} ${step}`)}
                className="mt-1 size-4 accent-copper"
              />
              <span className={done.has(`${title} ${step}`) ? "text-faint line-through" : ""}>{step}</span>
            </label>
          ))}
        </section>
      ))}
    </div>
  );
}
