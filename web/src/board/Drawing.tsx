import { currentPath } from "@hound/core/reduce";
import { solveNetwork } from "@hound/core/solve";
import { type KeyboardEvent, type RefObject, Suspense, useEffect, useMemo, useRef } from "react";
import { lazyNamed } from "../app/lazyNamed.ts";
import { isPlain } from "../app/letterKeys.ts";
import { useConventions } from "../desk/conventions.ts";
import { type Drawn, useDesk, useSelection } from "../desk/DeskContext.tsx";
import type { Selection } from "../desk/pointing.ts";
import { calledWords } from "../words/points.ts";
import { percent } from "../words/quantities.ts";
import { BoardText } from "./BoardText.tsx";
import { type BoardFacts, sayBranch, sayNode } from "./boardFacts.ts";
import { barLine, bowPath, type Frame, sizeOf } from "./geometry.ts";
import { Lit } from "./Lit.tsx";
import type { Leads } from "./leads.ts";
import { NodeBar } from "./NodeBar.tsx";
import { PartRow } from "./PartRow.tsx";
import { PathTrace } from "./PathTrace.tsx";
import { bridgeText, enlargement, nodeTexts } from "./texts.ts";

const Staircase = lazyNamed(() => import("./Staircase.tsx"), "Staircase");

/** Letters of a name follow each other within this time. */
const TYPED_FAST_MS = 900;

interface DrawingProps {
  readonly drawn: Drawn;
  readonly frames: readonly Frame[];
  readonly facts: BoardFacts;
  readonly scale: number;
  readonly traced: string | null;
  readonly staircase: boolean;
  /** What a picture of it says besides. */
  readonly legend: string;
  readonly svg: RefObject<SVGSVGElement | null>;
  /** Where the next measurement is taken; null where none is proposed. */
  readonly leads: Leads | null;
  /** What a click, Enter or a key does with the node or part selected. */
  readonly onUse: (selection: NonNullable<Selection>, by: "pointer" | "key") => void;
  readonly onKey: (event: KeyboardEvent, selection: Selection) => void;
}

/** The schematic: every node a bar, every part a row between two bars, in lanes where it is long. */
export function Drawing(props: DrawingProps) {
  const { drawn, frames, facts, scale, traced, staircase, legend, svg, leads, onUse, onKey } = props;
  const { select, pointing } = useDesk();
  const { selection, stretch } = useSelection();
  const { symbols, arrows } = useConventions();
  const { network, circuit, outdated } = drawn;
  const { width, height } = sizeOf(frames);
  const k = enlargement(scale);
  const items = useMemo(() => itemsOf(drawn), [drawn]);
  const path = useMemo(() => {
    const through = network.branches.findIndex((b) => b.name === traced);
    const solved = through >= 0 ? solveNetwork(network) : null;
    return solved?.kind === "solved" ? currentPath(network, solved.amps, through) : [];
  }, [network, traced]);
  // The proposed point is in sight, wherever the board was scrolled to.
  const target = leads && (leads.part ?? leads.red);
  const isPart = leads?.part !== null;
  useEffect(() => {
    if (target === null) return;
    const id = idOf({ kind: isPart ? "branch" : "node", name: target });
    svg.current?.querySelector(`#${id}`)?.scrollIntoView({ block: "nearest", inline: "nearest" });
  }, [svg, target, isPart]);
  const typedName = useRef({ text: "", at: 0 });
  const active = items.findIndex((i) => i.kind === selection?.kind && i.name === selection.name);
  const onKeyDown = (event: KeyboardEvent) => {
    const step = { ArrowRight: 1, ArrowDown: 1, ArrowLeft: -1, ArrowUp: -1 }[event.key];
    if (step !== undefined && !event.altKey && !event.ctrlKey) {
      event.preventDefault();
      const wanted = event.shiftKey
        ? nextBranch(items, active, step)
        : items[(active + step + items.length) % items.length];
      select(wanted, event.shiftKey);
      svg.current?.querySelector(`#${idOf(wanted)}`)?.scrollIntoView({ block: "nearest", inline: "nearest" });
    } else if ((event.key === "Home" || event.key === "End") && isPlain(event)) {
      event.preventDefault();
      goTo(event.key === "Home" ? items[0] : items[items.length - 1]);
    } else if (event.key === "Enter" && selection) {
      event.preventDefault();
      onUse(selection, "key");
    } else if (event.key === "Escape") {
      // A question that waits for a pick is left first.
      onKey(event, selection);
      if (!event.defaultPrevented) select(null);
    } else if (!typeAhead(event, false)) {
      onKey(event, selection);
      if (!event.defaultPrevented) typeAhead(event, true);
    }
  };
  const goTo = (item: NonNullable<Selection> | undefined) => {
    if (!item) return;
    select(item);
    svg.current?.querySelector(`#${idOf(item)}`)?.scrollIntoView({ block: "nearest", inline: "nearest" });
  };
  /** A name typed fast is gone to; one that begins with a capital is no key of a command. */
  const typeAhead = (event: KeyboardEvent, begins: boolean): boolean => {
    const now = event.timeStamp;
    const goesOn = typedName.current.text !== "" && now - typedName.current.at < TYPED_FAST_MS;
    const isSign = /^[\p{L}\d_+]$/u.test(event.key) && isPlain(event);
    if (!isSign || !(goesOn || begins || /^\p{Lu}$/u.test(event.key))) return false;
    const text = (goesOn ? typedName.current.text : "") + event.key.toLowerCase();
    typedName.current = { text, at: now };
    const named =
      items.find((i) => i.name.toLowerCase() === text) ?? items.find((i) => i.name.toLowerCase().startsWith(text));
    goTo(named);
    event.preventDefault();
    return true;
  };
  const isPicked = (item: NonNullable<Selection>) =>
    item.kind === "branch" ? stretch.includes(item.name) : selection?.kind === "node" && selection.name === item.name;
  const pointAt = (item: NonNullable<Selection>, isFirst: boolean) => ({
    id: isFirst ? idOf(item) : undefined,
    role: isFirst ? "option" : "presentation",
    ...(isFirst ? { "aria-selected": isPicked(item) } : {}),
    className: "cursor-pointer",
    onPointerEnter: () => pointing.hover(item),
    onPointerLeave: () => pointing.hover(null),
    onClick: (event: { shiftKey: boolean }) => {
      select(item, event.shiftKey);
      if (!event.shiftKey) onUse(item, "pointer");
    },
  });
  const seen = new Set<string>();
  const isFirst = (item: NonNullable<Selection>) => {
    const key = idOf(item);
    const first = !seen.has(key);
    seen.add(key);
    return first;
  };
  return (
    <div
      role="listbox"
      data-board
      aria-label={`Board of ${circuit.title || "the circuit"}`}
      aria-activedescendant={active >= 0 ? idOf(items[active]) : undefined}
      aria-multiselectable="true"
      // Groups of a drawing stand between: owned, they are options to the browser too, in the order of the trail.
      aria-owns={items.map(idOf).join(" ")}
      tabIndex={0}
      onKeyDown={onKeyDown}
      onFocus={() => {
        if (!selection && items[0]) select(items[0]);
      }}
      className={outdated ? "opacity-[.92] grayscale" : ""}
    >
      <svg
        ref={svg}
        data-legend={legend}
        viewBox={`0 0 ${width} ${height}`}
        role="presentation"
        width={width * scale}
        height={height * scale}
        className="mx-auto block"
      >
        {frames.map((frame) => (
          <g key={frame.lane.from}>
            {facts.bridges.map((bridge) => (
              <Bow key={`${bridge.a} ${bridge.b}`} bridge={bridge} frame={frame} nodes={facts.nodes} k={k} />
            ))}
            {frame.lane.strips.map((strip) => {
              const branch = network.branches[strip.strip.branch];
              const item = { kind: "branch", name: branch.name } as const;
              const own = facts.branches[strip.strip.branch];
              const says = strip.symbol !== null && isFirst(item);
              return (
                <g
                  key={branch.name}
                  {...pointAt(item, says)}
                  aria-label={says ? sayBranch(branch, network, own) : undefined}
                >
                  <Lit item={item} network={network}>
                    {(lit) => (
                      <PartRow
                        frame={frame}
                        strip={strip}
                        branch={branch}
                        facts={own}
                        lit={lit}
                        symbols={symbols}
                        k={k}
                        isNext={leads?.part === branch.name}
                        freed={leads?.part === branch.name ? leads.freed : undefined}
                      />
                    )}
                  </Lit>
                </g>
              );
            })}
            <PathTrace frame={frame} path={path} arrows={arrows} />
            {frame.lane.bars.map((bar) => {
              const item = { kind: "node", name: network.nodes[bar.bar.node] } as const;
              const own = facts.nodes[bar.bar.node];
              const says = isFirst(item);
              return (
                <g
                  key={bar.bar.node}
                  {...pointAt(item, says)}
                  aria-label={says ? sayNode(own, calledWords(drawn.written, item.name)) : undefined}
                >
                  <Lit item={item} network={network}>
                    {(lit) => (
                      <NodeBar frame={frame} bar={bar} facts={own} lit={lit} k={k} lead={leadAt(leads, item.name)} />
                    )}
                  </Lit>
                </g>
              );
            })}
            {staircase && (
              <Suspense>
                <Staircase
                  frame={frame}
                  network={network}
                  facts={facts}
                  path={path}
                  pointAt={(name) => pointAt({ kind: "branch", name }, false)}
                  k={k}
                />
              </Suspense>
            )}
          </g>
        ))}
      </svg>
    </div>
  );
}

function leadAt(leads: Leads | null, node: string): "red" | "black" | null {
  if (node === leads?.red) return "red";
  return node === leads?.black ? "black" : null;
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

/** The next part in a direction: a stretch is made of parts. */
function nextBranch(items: readonly NonNullable<Selection>[], active: number, step: number): NonNullable<Selection> {
  for (let i = 1; i <= items.length; i += 1) {
    const item = items[(active + step * i + items.length * i) % items.length];
    if (item.kind === "branch") return item;
  }
  return items[Math.max(0, active)];
}

interface BowProps {
  readonly bridge: BoardFacts["bridges"][number];
  readonly frame: Frame;
  readonly nodes: BoardFacts["nodes"];
  readonly k: number;
}

/** A bridge that is suspected or supposed, with how probable it is. */
function Bow({ bridge, frame, nodes, k }: BowProps) {
  const barOf = (node: number) => frame.lane.bars.find((b) => b.bar.node === node);
  const [a, b] = [barOf(bridge.a), barOf(bridge.b)];
  if (!a || !b) return null;
  const ends = [barLine(frame, a), barLine(frame, b)] as const;
  const { probability } = bridge;
  const names = [a, b].map((bar, i) => nodeTexts(ends[i], nodes[bar.bar.node], k).name);
  const words = bridgeText(probability === null ? "bridged" : percent(probability), ends, names);
  return (
    <g className={probability === null ? "text-suspect" : "text-doubt"}>
      <path
        d={bowPath(...ends)}
        fill="none"
        stroke="currentColor"
        strokeWidth={probability === null ? 4 : 2 + 5 * probability}
        strokeDasharray="7 5"
      />
      {words && <BoardText content={words} inherit isRimmed />}
    </g>
  );
}
