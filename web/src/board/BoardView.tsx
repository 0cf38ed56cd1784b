import type { Network } from "@hound/core/circuit";
import type { Configuration } from "@hound/core/configuration";
import { wrapLanes } from "@hound/core/layout";
import type { Measurement } from "@hound/core/plan";
import type { Ranking, RankProblem } from "@hound/core/rank";
import { writeSupposed } from "@hound/core/whatif";
import { type KeyboardEvent, Suspense, useEffect, useMemo, useRef, useState } from "react";
import { lazyNamed } from "../app/lazyNamed.ts";
import { isKeyOf, isPlain } from "../app/letterKeys.ts";
import { useConventions } from "../desk/conventions.ts";
import { type Drawn, useDesk, useSelection } from "../desk/DeskContext.tsx";
import type { Selection } from "../desk/pointing.ts";
import { BoardTools } from "./BoardTools.tsx";
import { type BoardFacts, boardFacts, hushed } from "./boardFacts.ts";
import { Drawing } from "./Drawing.tsx";
import { columnFor, columnsIn, framesOf, sizeOf } from "./geometry.ts";
import { type Imagined, withImagined } from "./imagined.ts";
import { type Leads, leadsOf } from "./leads.ts";
import { Overview } from "./Overview.tsx";
import { useFigures, useOddities } from "./useFigures.ts";

const FirstParts = lazyNamed(() => import("./FirstParts.tsx"), "FirstParts");

/** The smallest and largest scale, and those between which the board chooses for itself. */
const SCALES = { least: 0.2, readable: 0.7, unbroken: 0.85, roomy: 1.25, most: 2.5, step: 1.2 } as const;

interface BoardViewProps {
  readonly ranking: Ranking | RankProblem | null;
  /** How the circuit stands, where that differs from the drawing. */
  readonly standing: Configuration;
  /** Stage Circuit marks what is odd about the circuit. */
  readonly showOdd: boolean;
  /** Stage Expected draws potential against place below the board, and the circuit as far as it is reduced. */
  readonly showStaircase: boolean;
  readonly instead: Drawn | null;
  /** What is expected is not shown: somebody works it out. */
  readonly isHushed?: boolean;
  /** What is to be measured next: its place is marked. */
  readonly next: Measurement | null;
  /** Where the leads are held; left out, where they go for what is next. */
  readonly held?: Leads | null;
  /** Faults whose figures stand beside the healthy ones; null where there are none. */
  readonly imagined: Imagined | null;
  /** Shows what is supposed in What-if, in stages that are not about it; null where nothing is. */
  readonly whatIf: { readonly isOn: boolean; readonly turn: () => void } | null;
  /** Stage Circuit begins on the empty board: told of the part to go on from. */
  readonly onBegun: ((designator: string) => void) | null;
  readonly onUse: (selection: NonNullable<Selection>, by: "pointer" | "key") => void;
  readonly onKey: (event: KeyboardEvent, selection: Selection) => void;
}

/** The board in its pane: as large as fits, wrapped into lanes, zoomed by hand where wanted. */
export function BoardView(props: BoardViewProps) {
  const { drawn } = useDesk();
  if (!drawn && props.onBegun)
    return (
      <div className="grid h-full place-items-center overflow-auto">
        <Suspense>
          <FirstParts onBegun={props.onBegun} />
        </Suspense>
      </div>
    );
  if (!drawn) {
    return (
      <div className="grid h-full place-items-center p-8 text-center text-lg text-faint">
        <p>The board appears here as you write the trail.</p>
      </div>
    );
  }
  return <Pane {...props} drawn={props.instead ?? drawn} whole={drawn} />;
}

function Pane(props: BoardViewProps & { drawn: Drawn; whole: Drawn }) {
  const { drawn, ranking, standing, showOdd, showStaircase, next, imagined, whatIf, onUse, onKey } = props;
  const { readings, meter } = useDesk();
  const { limits } = useConventions();
  const { selection } = useSelection();
  const { network: whole } = props.whole;
  const { network, board, settled, outdated } = drawn;
  const [zoom, setZoom] = useState<number | null>(null);
  const [traced, setTraced] = useState<string | null>(null);
  const [turned, setTurned] = useState(false);
  // Without a supply there are no volts to draw.
  const isDriven = network.branches.some((b) => b.kind === "supply");
  const { isHushed = false } = props;
  const staircase = isDriven && !isHushed && showStaircase !== turned;
  const pane = useRef<HTMLDivElement>(null);
  const svg = useRef<SVGSVGElement>(null);
  const size = useSize(pane);
  const figures = useFigures(drawn, meter, standing);
  const wholeFigures = useFigures(whole === network ? null : props.whole, meter, standing);
  const odd = useOddities(drawn, showOdd);
  const plain = useMemo(() => {
    const taken = readings.map((r) => r.reading);
    const shared = { readings: taken, meter, ranking, standing, limits };
    const own = boardFacts({ ...shared, network, settled, odd, figures });
    // A composite has no tolerance of its own: what nodes should read is told by the circuit as it is.
    return whole === network
      ? own
      : {
          ...own,
          nodes: withMiddles(boardFacts({ ...shared, network: whole, figures: wholeFigures }).nodes, own.nodes),
        };
  }, [whole, network, readings, meter, ranking, standing, settled, odd, figures, wholeFigures, limits]);
  const facts = useMemo(
    () => (isHushed ? hushed(plain) : imagined ? withImagined(plain, imagined, network) : plain),
    [plain, imagined, network, isHushed],
  );
  const fitting = useMemo(() => fitScale(board, size, staircase), [board, size, staircase]);
  // Who has larger text has a larger board: it scrolls and wraps rather than staying small.
  const text = Math.max(1, textScale());
  const scale = zoom ?? Math.max(fitting, SCALES.readable) * text;
  const frames = useMemo(() => {
    const width = Math.max(size.width, 320) / scale;
    const lanes = wrapLanes(board, columnsIn(width));
    return framesOf(lanes, staircase, columnFor(lanes, width));
  }, [board, size.width, scale, staircase]);
  const total = sizeOf(frames);
  const legend = imagined && imagined.supposed.length > 0 ? legendOf(imagined, network) : "";
  const { held } = props;
  const leads = useMemo(() => (held !== undefined ? held : next && leadsOf(next, whole)), [held, next, whole]);
  const zoomBy = (factor: number) => setZoom(clamp(scale * factor, SCALES.least, SCALES.most));
  const fit = () => setZoom(fitting);
  useEffect(() => {
    const element = pane.current;
    if (!element) return;
    const onWheel = (event: WheelEvent) => {
      if (!event.ctrlKey) return;
      event.preventDefault();
      setZoom((z) => clamp((z ?? scale) * (event.deltaY < 0 ? 1.1 : 1 / 1.1), SCALES.least, SCALES.most));
    };
    element.addEventListener("wheel", onWheel, { passive: false });
    return () => element.removeEventListener("wheel", onWheel);
  }, [scale]);
  const keys = (event: KeyboardEvent, chosen: Selection) => {
    if (!isPlain(event)) return;
    if (isKeyOf("larger", event) || event.key === "=") zoomBy(SCALES.step);
    else if (isKeyOf("smaller", event)) zoomBy(1 / SCALES.step);
    else if (isKeyOf("usual", event)) setZoom(null);
    else if (isKeyOf("fit", event)) fit();
    else if (isKeyOf("staircase", event)) setTurned(!turned);
    else if (isKeyOf("whatIf", event) && whatIf) whatIf.turn();
    else if (isKeyOf("trace", event)) setTraced((t) => (t === null && chosen?.kind === "branch" ? chosen.name : null));
    else {
      onKey(event, chosen);
      return;
    }
    event.preventDefault();
  };
  return (
    <div className="flex h-full flex-col">
      <div className="relative min-h-0 grow">
        <div ref={pane} className="board-pane h-full overflow-auto">
          {outdated && (
            <p
              role="status"
              className="sticky top-2 left-2 z-10 inline-block rounded-lg bg-doubt px-3 py-1 font-bold text-sheet"
            >
              The picture is from before the mistakes in the trail
            </p>
          )}
          {legend !== "" && (
            <p className="sticky top-0 left-0 z-10 w-fit max-w-full truncate rounded-br-lg bg-sheet/95 px-3 py-0.5 text-faint">
              {legend}
            </p>
          )}
          <Drawing
            drawn={drawn}
            frames={frames}
            facts={facts}
            scale={scale}
            traced={traced}
            staircase={staircase}
            legend={legend}
            leads={leads}
            svg={svg}
            onUse={onUse}
            onKey={keys}
          />
        </div>
        <Overview pane={pane} frames={frames} width={total.width * scale} height={total.height * scale} size={size} />
      </div>
      <BoardTools
        svg={svg}
        onZoom={(direction) => zoomBy(direction > 0 ? SCALES.step : 1 / SCALES.step)}
        onFit={fit}
        onUsual={() => setZoom(null)}
        traced={traced}
        onTrace={() => setTraced((t) => (t === null && selection?.kind === "branch" ? selection.name : null))}
        canTrace={selection?.kind === "branch"}
        staircase={staircase}
        onStaircase={() => setTurned(!turned)}
        whatIf={whatIf}
      />
    </div>
  );
}

/** Of the circuit as it is, and of the middles of stars that only its reduction has. */
function withMiddles(whole: BoardFacts["nodes"], folded: BoardFacts["nodes"]): BoardFacts["nodes"] {
  return [...whole, ...folded.slice(whole.length)];
}

/** What the colours mean, and which faults are imagined. */
function legendOf({ supposed, isSuspect }: Imagined, network: Network): string {
  const words = supposed.map((f) => writeSupposed(f, network)).join(", ");
  return `Violet: ${isSuspect ? "if it is" : "with"} ${words}. Grey: healthy.`;
}

/** How much larger than usual the reader has text, by the convention or by the browser. */
function textScale(): number {
  return Number.parseFloat(getComputedStyle(document.documentElement).fontSize) / 16 || 1;
}

function clamp(value: number, least: number, most: number): number {
  return Math.min(most, Math.max(least, value));
}

/** The largest scale at which all lanes are in sight; what can be read in one lane is not broken into two. */
function fitScale(board: Drawn["board"], { width, height }: Size, staircase: boolean): number {
  const lanesAt = (scale: number) => wrapLanes(board, columnsIn(width / scale));
  const isOneLane = lanesAt(SCALES.unbroken).length === 1;
  const fits = (step: number) => {
    const scale = SCALES.roomy / 1.05 ** step;
    const lanes = lanesAt(scale);
    const whole = sizeOf(framesOf(lanes, staircase));
    return whole.width * scale <= width && whole.height * scale <= height && (!isOneLane || lanes.length === 1);
  };
  // What fits at one scale fits at every smaller one: halved down to the first step that does.
  let [low, high] = [0, Math.ceil(Math.log(SCALES.roomy / SCALES.least) / Math.log(1.05))];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (fits(middle)) high = middle;
    else low = middle + 1;
  }
  return Math.max(SCALES.least, SCALES.roomy / 1.05 ** low);
}

interface Size {
  readonly width: number;
  readonly height: number;
}

function useSize(element: { current: HTMLElement | null }): Size {
  const [size, setSize] = useState<Size>({ width: 800, height: 600 });
  useEffect(() => {
    if (!element.current) return;
    const observer = new ResizeObserver(([entry]) => {
      const { width, height } = entry.contentRect;
      setSize((before) => (before.width === width && before.height === height ? before : { width, height }));
    });
    observer.observe(element.current);
    return () => observer.disconnect();
  }, [element]);
  return size;
}
