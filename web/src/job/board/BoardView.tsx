import type { Strip } from "@hound/core/layout";
import type { Ranking, RankProblem } from "@hound/core/rank";
import { type KeyboardEvent, useMemo, useRef, useState } from "react";
import { percent } from "../../words/quantities.ts";
import { type Drawn, type Selection, useDesk } from "../DeskContext.tsx";
import { type BoardFacts, type BranchFacts, boardFacts, type NodeFacts, sayBranch, sayNode } from "./boardFacts.ts";
import { barLine, bowPath, sizeOf, symbolX, wirePath, xOf, yOf } from "./geometry.ts";
import { PartSymbol } from "./PartSymbol.tsx";

interface BoardViewProps {
  readonly ranking: Ranking | RankProblem | null;
  /** What Enter or a double click on a part or node does. */
  readonly onUse: (selection: NonNullable<Selection>) => void;
}

/** The schematic: every node a bar, every part a row between two bars. */
export function BoardView({ ranking, onUse }: BoardViewProps) {
  const { drawn, notDrawn, state } = useDesk();
  if (!drawn) {
    return (
      <div className="grid h-full place-items-center p-8 text-center text-lg text-faint">
        <p>{notDrawn ?? "The board appears here as you write the trail."}</p>
      </div>
    );
  }
  return (
    <div className="relative h-full overflow-auto">
      {(drawn.outdated || notDrawn) && (
        <p
          role="status"
          className="sticky top-2 left-2 z-10 inline-block rounded-lg bg-doubt px-3 py-1 font-bold text-sheet"
        >
          {notDrawn ?? "The picture is from before the mistakes in the trail"}
        </p>
      )}
      <Drawing drawn={drawn} ranking={ranking} meterKey={state.job.meter} onUse={onUse} />
    </div>
  );
}

interface DrawingProps {
  readonly drawn: Drawn;
  readonly ranking: Ranking | RankProblem | null;
  readonly meterKey: Parameters<typeof boardFacts>[2];
  readonly onUse: BoardViewProps["onUse"];
}

function Drawing({ drawn, ranking, meterKey, onUse }: DrawingProps) {
  const { readings, selection, select } = useDesk();
  const { network, board, circuit, outdated } = drawn;
  const [hovered, setHovered] = useState<Selection>(null);
  const svg = useRef<SVGSVGElement>(null);
  const facts = useMemo(
    () =>
      boardFacts(
        network,
        readings.map((r) => r.reading),
        meterKey,
        ranking,
      ),
    [network, readings, meterKey, ranking],
  );
  const { width, height } = sizeOf(board);
  const items = useMemo(() => itemsOf(drawn), [drawn]);
  const lit = hovered ?? selection;
  const active = items.findIndex((i) => i.kind === selection?.kind && i.name === selection.name);
  const onKeyDown = (event: KeyboardEvent) => {
    const step = { ArrowRight: 1, ArrowDown: 1, ArrowLeft: -1, ArrowUp: -1 }[event.key];
    if (step !== undefined) {
      event.preventDefault();
      const next = items[(active + step + items.length) % items.length];
      select(next);
      svg.current?.querySelector(`#${idOf(next)}`)?.scrollIntoView({ block: "nearest", inline: "nearest" });
    } else if (event.key === "Enter" && selection) {
      event.preventDefault();
      onUse(selection);
    } else if (event.key === "Escape") select(null);
  };
  const pointAt = (item: NonNullable<Selection>) => ({
    id: idOf(item),
    role: "option",
    "aria-selected": selection?.kind === item.kind && selection.name === item.name,
    className: "cursor-pointer",
    onPointerEnter: () => setHovered(item),
    onPointerLeave: () => setHovered(null),
    onClick: () => {
      select(item);
      onUse(item);
    },
  });
  return (
    <div
      role="listbox"
      aria-label={`Board of ${circuit.title || "the circuit"}`}
      aria-activedescendant={active >= 0 ? idOf(items[active]) : undefined}
      tabIndex={0}
      onKeyDown={onKeyDown}
      onFocus={() => {
        if (!selection && items[0]) select(items[0]);
      }}
      className={outdated ? "opacity-45" : ""}
    >
      <svg
        ref={svg}
        viewBox={`0 0 ${width} ${height}`}
        role="presentation"
        style={{ width: "100%", minWidth: width * 0.72, maxWidth: width * 1.25, height: "auto", display: "block" }}
      >
        {facts.bridges.map((bridge) => (
          <Bow key={`${bridge.a} ${bridge.b}`} bridge={bridge} drawn={drawn} />
        ))}
        {board.strips.map((strip) => {
          const branch = network.branches[strip.branch];
          const item = { kind: "branch", name: branch.name } as const;
          return (
            <g
              key={branch.name}
              {...pointAt(item)}
              aria-label={sayBranch(branch, network, facts.branches[strip.branch])}
            >
              <PartRow strip={strip} drawn={drawn} facts={facts.branches[strip.branch]} lit={isLit(lit, item, drawn)} />
            </g>
          );
        })}
        {board.bars.map((bar) => {
          const item = { kind: "node", name: network.nodes[bar.node] } as const;
          return (
            <g key={bar.node} {...pointAt(item)} aria-label={sayNode(facts.nodes[bar.node])}>
              <NodeBar line={barLine(bar)} facts={facts.nodes[bar.node]} lit={isLit(lit, item, drawn)} />
            </g>
          );
        })}
      </svg>
    </div>
  );
}

function idOf(item: NonNullable<Selection>): string {
  return `board-${item.kind}-${item.name.replace(/[^A-Za-z0-9_]/g, (c) => `-${c.charCodeAt(0)}`)}`;
}

/** Parts in the order of the trail, each with the node it leads to. */
function itemsOf({ network }: Drawn): NonNullable<Selection>[] {
  const items: NonNullable<Selection>[] = [];
  const nodes = new Set<string>();
  const add = (node: number) => {
    const name = network.nodes[node];
    if (!nodes.has(name)) items.push({ kind: "node", name });
    nodes.add(name);
  };
  for (const branch of network.branches) {
    add(branch.from);
    items.push({ kind: "branch", name: branch.name });
    add(branch.to);
  }
  return items;
}

/** A node lights with all that hangs on it; a part with its two ends. */
function isLit(lit: Selection, item: NonNullable<Selection>, { network }: Drawn): boolean {
  if (!lit) return false;
  if (lit.kind === item.kind) return lit.name === item.name;
  const [branchName, nodeName] = lit.kind === "branch" ? [lit.name, item.name] : [item.name, lit.name];
  const branch = network.branches.find((b) => b.name === branchName);
  return (
    branch !== undefined && lit.kind === "node" && [branch.from, branch.to].some((n) => network.nodes[n] === nodeName)
  );
}

function Bow({ bridge, drawn }: { bridge: BoardFacts["bridges"][number]; drawn: Drawn }) {
  const lineOf = (node: number) => drawn.board.bars.find((b) => b.node === node);
  const [a, b] = [lineOf(bridge.a), lineOf(bridge.b)];
  if (!a || !b) return null;
  const [from, to] = [barLine(a), barLine(b)];
  const top = Math.min(from.badgeY, to.badgeY) - 30;
  return (
    <g className="text-doubt">
      <path
        d={bowPath(from, to)}
        fill="none"
        stroke="currentColor"
        strokeWidth={2 + 5 * bridge.probability}
        strokeDasharray="7 5"
      />
      <text
        x={(from.x + to.x) / 2}
        y={Math.max(14, top)}
        textAnchor="middle"
        fontSize={15}
        fontWeight={700}
        fill="currentColor"
      >
        {percent(bridge.probability)}
      </text>
    </g>
  );
}

function PartRow({ strip, drawn, facts, lit }: { strip: Strip; drawn: Drawn; facts: BranchFacts; lit: boolean }) {
  const branch = drawn.network.branches[strip.branch];
  const x = symbolX(strip);
  const y = yOf(strip.row);
  const suspected = facts.suspicion >= 0.01;
  const below = [
    suspected
      ? {
          text: percent(facts.suspicion),
          className: facts.suspicion >= 0.5 ? "text-suspect" : "text-doubt",
          bold: true,
        }
      : null,
    facts.read ? { text: facts.read, className: "text-copper", bold: true } : null,
    facts.expected && !suspected && !facts.read ? { text: facts.expected, className: "text-faint", bold: false } : null,
  ].filter((line) => line !== null);
  return (
    <>
      <rect x={x - 74} y={y - 34} width={148} height={74} fill="transparent" />
      <g className={lit ? "text-copper" : "text-ink"}>
        <path d={wirePath(strip)} fill="none" stroke="currentColor" strokeWidth={lit ? 3.6 : 2.2} />
        {suspected && (
          <rect
            x={x - 39}
            y={y - 24}
            width={78}
            height={48}
            rx={24}
            fill="none"
            className={facts.suspicion >= 0.5 ? "stroke-suspect" : "stroke-doubt"}
            strokeWidth={2 + 5 * facts.suspicion}
          />
        )}
        <g transform={`translate(${x} ${y})`}>
          <PartSymbol branch={branch} backward={strip.backward} />
        </g>
        <text x={x} y={y - 32} textAnchor="middle" fontSize={17} fontWeight={700} fill="currentColor">
          {shorten(facts.label, (xOf(strip.to) - xOf(strip.from)) / 8.6)}
        </text>
      </g>
      {below.map(({ text, className, bold }, i) => (
        <text
          key={text}
          x={x + (i - (below.length - 1) / 2) * 64}
          y={y + 40}
          textAnchor="middle"
          fontSize={16}
          fontWeight={bold ? 700 : 400}
          className={className}
          fill="currentColor"
        >
          {text}
        </text>
      ))}
    </>
  );
}

function NodeBar({ line, facts, lit }: { line: ReturnType<typeof barLine>; facts: NodeFacts; lit: boolean }) {
  const { x, y1, y2, badgeY } = line;
  const name = shorten(facts.name.endsWith(".tap") ? "" : facts.name, 12);
  const half = Math.max(15, name.length * 4.8 + 8);
  const lines = [
    facts.read ? { text: facts.read, className: "text-copper", size: 19, bold: true } : null,
    facts.expected ? { text: facts.expected, className: "text-faint", size: 15, bold: false } : null,
  ].filter((l) => l !== null);
  return (
    <g className={lit ? "text-copper" : "text-ink"}>
      <path d={`M${x} ${badgeY + 15} V${y2}`} stroke="currentColor" strokeWidth={lit ? 7 : 4.5} strokeLinecap="round" />
      <path d={`M${x} ${y1} V${y2}`} stroke="transparent" strokeWidth={22} />
      <rect
        x={x - half}
        y={badgeY - 15}
        width={half * 2}
        height={30}
        rx={15}
        className={lit ? "fill-copper" : "fill-sheet"}
        stroke="currentColor"
        strokeWidth={2}
      />
      <text
        x={x}
        y={badgeY + 5.5}
        textAnchor="middle"
        fontSize={16}
        fontWeight={700}
        className={lit ? "fill-sheet" : "fill-ink"}
      >
        {name}
      </text>
      {lines.map(({ text, className, size, bold }, i) => (
        <text
          key={text}
          x={x}
          y={badgeY - 21 - 19 * (lines.length - 1 - i)}
          textAnchor="middle"
          fontSize={size}
          fontWeight={bold ? 700 : 400}
          className={className}
          fill="currentColor"
        >
          {text}
        </text>
      ))}
      {facts.deviation !== 0 && (
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
}

function shorten(text: string, most: number): string {
  const limit = Math.max(4, Math.floor(most));
  return text.length > limit ? `${text.slice(0, limit - 1)}…` : text;
}
