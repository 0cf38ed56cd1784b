import type { Network } from "@hound/core/circuit";
import type { LaneBar } from "@hound/core/layout";
import { endsOf } from "@hound/core/rank";
import type { PathStep } from "@hound/core/reduce";
import { extent } from "d3-array";
import { scaleLinear } from "d3-scale";
import { print } from "../words/print.ts";
import type { BoardFacts } from "./boardFacts.ts";
import { type Frame, SIZES, xOf } from "./geometry.ts";
import { Lit } from "./Lit.tsx";

interface StaircaseProps {
  readonly frame: Frame;
  readonly network: Network;
  readonly facts: BoardFacts;
  /** A path to be singled out. */
  readonly path: readonly PathStep[];
  /** What a line does under the pointer: the same as its part on the board above. */
  readonly pointAt: (branch: string) => object;
  /** How much larger figures are written than usual. */
  readonly k: number;
}

const MARGIN = 22;
/** Half the width of a window's bracket. */
const BRACKET = 8;

/** Potential against place, on the board's own horizontal positions: parts as lines, windows as brackets, readings as marks. */
export function Staircase({ frame, network, facts, path, pointAt, k }: StaircaseProps) {
  const { lane } = frame;
  const top = frame.top + frame.height - SIZES.staircase;
  const isImagined = facts.nodes.some((n) => n.imagined);
  const all = facts.nodes.flatMap(({ volts, readVolts, imagined }) => [
    ...(imagined ? [imagined.volts] : []),
    ...(volts ? endsOf(volts) : []),
    ...(readVolts === null ? [] : [readVolts]),
  ]);
  const [low = 0, high = 1] = extent(all.filter(Number.isFinite));
  const y = scaleLinear([low, high === low ? low + 1 : high], [top + SIZES.staircase - MARGIN, top + MARGIN]).nice(4);
  const voltsOf = (node: number) => facts.nodes[node].volts?.value ?? Number.NaN;
  const imaginedOf = (node: number) => facts.nodes[node].imagined?.volts ?? voltsOf(node);
  const [left, right] = [xOf(frame, lane.from) - 34, xOf(frame, lane.to) + 34];
  const singled = new Set(path.map((s) => s.branch));
  return (
    <g>
      {y.ticks(4).map((tick) => (
        <g key={tick} className="text-rule">
          <path d={`M${left} ${y(tick)} H${right}`} stroke="currentColor" strokeWidth={1} />
          <text x={left} y={y(tick) - 4} fontSize={13 * k} className="fill-faint">
            {print(tick, "V")}
          </text>
        </g>
      ))}
      {lane.strips.map(({ strip, left: from, right: to }) => {
        const branch = network.branches[strip.branch];
        if (branch.kind === "supply") return null;
        const [start, end] = strip.backward ? [branch.to, branch.from] : [branch.from, branch.to];
        const lineOf = (a: number, b: number) => {
          const at = (column: number) =>
            strip.right > strip.left ? a + ((b - a) * (column - strip.left)) / (strip.right - strip.left) : a;
          return `M${xOf(frame, from)} ${y(at(from))} L${xOf(frame, to)} ${y(at(to))}`;
        };
        const [a, b] = [voltsOf(start), voltsOf(end)];
        if (!Number.isFinite(a + b)) return null;
        const line = lineOf(a, b);
        const [c, d] = [imaginedOf(start), imaginedOf(end)];
        return (
          <g key={strip.branch} {...pointAt(branch.name)}>
            <path d={line} stroke="transparent" strokeWidth={16} fill="none" />
            <Lit item={{ kind: "branch", name: branch.name }} network={network}>
              {(pointed) => {
                const lit = pointed || singled.has(strip.branch);
                return (
                  <>
                    <path
                      d={line}
                      className={lit ? "stroke-copper" : "stroke-ink"}
                      strokeWidth={lit ? 4 : 2}
                      strokeOpacity={(singled.size > 0 && !lit) || isImagined ? 0.3 : 1}
                      strokeDasharray={branch.law.kind === "open" ? "5 5" : undefined}
                      fill="none"
                    />
                    {isImagined && Number.isFinite(c + d) && (
                      <path
                        d={lineOf(c, d)}
                        className="stroke-suspect"
                        strokeWidth={lit ? 5 : 3.5}
                        strokeDasharray="9 5"
                        fill="none"
                      />
                    )}
                  </>
                );
              }}
            </Lit>
          </g>
        );
      })}
      {lane.bars.map((bar) => (
        <Mark key={bar.bar.node} frame={frame} bar={bar} facts={facts} y={y} />
      ))}
    </g>
  );
}

interface MarkProps {
  readonly frame: Frame;
  readonly bar: LaneBar;
  readonly facts: BoardFacts;
  readonly y: (volts: number) => number;
}

/** A node's window as a bracket, and its reading as a filled mark. */
function Mark({ frame, bar, facts, y }: MarkProps) {
  const { volts, readVolts } = facts.nodes[bar.bar.node];
  const x = xOf(frame, bar.bar.column);
  if (!volts || !Number.isFinite(volts.value)) return null;
  const [low, high] = endsOf(volts).map(y);
  return (
    <g>
      <path
        d={`M${x - BRACKET} ${high} H${x + BRACKET} M${x} ${high} V${low} M${x - BRACKET} ${low} H${x + BRACKET}`}
        fill="none"
        className="stroke-faint"
        strokeWidth={2}
      />
      {readVolts !== null && (
        <circle cx={x} cy={y(readVolts)} r={6} className="fill-copper stroke-sheet" strokeWidth={1.5} />
      )}
    </g>
  );
}
