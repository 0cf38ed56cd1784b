import type { Network } from "@hound/core/circuit";
import { cornersOf, endsOf, type Window } from "@hound/core/rank";
import type { Unit } from "@hound/core/units";
import { bin, deviation, extent, mean, quantileSorted } from "d3-array";
import { scaleLinear } from "d3-scale";
import { useMemo } from "react";
import { print, printCount, printFixed } from "../words/print.ts";
import { percent, windowBy, withLimits } from "../words/quantities.ts";
import { DRAWS, useSpread } from "./useSpread.ts";

/** What is spread: a current through a branch, or a voltage or power across it. */
export type Quantity =
  | { readonly kind: "amps"; readonly branch: number }
  | { readonly kind: "volts" | "watts"; readonly branch: number; readonly from: number; readonly to: number };

interface SpreadProps {
  readonly network: Network;
  readonly window: Window;
  readonly quantity: Quantity;
}

const UNIT = { amps: "A", volts: "V", watts: "W" } as const satisfies Record<Quantity["kind"], Unit>;

/** How far tolerances may move a quantity: by sensitivities, in the worst corner, and by drawing thousands of circuits. */
export function Spread({ network, window, quantity }: SpreadProps) {
  const unit = UNIT[quantity.kind];
  const { state, start, stop } = useSpread(network);
  const corners = useMemo(() => {
    if (quantity.kind === "watts") return null;
    const { nodes, branches } = network;
    return cornersOf(
      network,
      quantity.kind === "amps"
        ? { quantity: "current", through: branches[quantity.branch].name, value: 0 }
        : { quantity: "voltage", from: nodes[quantity.from], to: nodes[quantity.to], value: 0 },
    );
  }, [network, quantity]);
  const samples = useMemo(
    () => (state.kind === "done" ? samplesOf(state, network, quantity) : null),
    [state, network, quantity],
  );
  const { value, worst, causes } = window;
  const [low, high] = endsOf(windowBy(window, "likely"));
  return (
    <div className="mt-3 flex flex-col gap-3">
      <dl className="grid grid-cols-[auto_1fr] gap-x-4 gap-y-0.5">
        <dt className="text-faint">Still healthy</dt>
        <dd className="font-bold">
          {print(low, unit, { digits: 4 })} to {print(high, unit, { digits: 4 })}
          <span className="font-normal text-faint">
            {window.drawn ? " (95 of 100 circuits: something bends sharply here)" : " (two standard deviations)"}
          </span>
        </dd>
        <dt className="text-faint">{corners ? "Worst case, solved" : "Worst case"}</dt>
        <dd>
          {corners
            ? `${print(corners[0], unit, { digits: 4 })} to ${print(corners[1], unit, { digits: 4 })}, every part at an edge of its tolerance`
            : withLimits(value, worst, unit)}
        </dd>
      </dl>
      {causes.length > 0 && (
        <div>
          <h3 className="text-faint">What causes it</h3>
          <ul>
            {causes.slice(0, 5).map(({ part, share }) => (
              <li key={part} className="flex items-center gap-2">
                <span className="w-14 font-bold">{part}</span>
                <span className="h-3 rounded-sm bg-copper" style={{ width: `${share * 55}%` }} aria-hidden />
                <span className="text-sm">{percent(share)}</span>
              </li>
            ))}
          </ul>
        </div>
      )}
      {state.kind === "running" ? (
        <div className="flex items-center gap-3">
          <progress value={state.share} className="h-3 grow accent-copper" aria-label="Circuits drawn" />
          <button type="button" onClick={stop} className="rounded-lg border border-rule px-3 py-1 hover:bg-band">
            Stop
          </button>
        </div>
      ) : (
        <button
          type="button"
          onClick={start}
          className="self-start rounded-lg border border-rule px-3 py-1.5 hover:bg-band"
        >
          {state.kind === "done" ? "Draw again" : `Draw ${printCount(DRAWS)} circuits`}
        </button>
      )}
      {samples && <Histogram samples={samples} window={window} unit={unit} />}
    </div>
  );
}

function samplesOf(
  { draws, volts, amps }: { draws: number; volts: Float64Array; amps: Float64Array },
  { nodes, branches }: Network,
  quantity: Quantity,
): Float64Array {
  const [N, B] = [nodes.length, branches.length];
  const sign = branches[quantity.branch].kind === "supply" ? -1 : 1;
  return Float64Array.from({ length: draws }, (_, d) => {
    const current = amps[d * B + quantity.branch];
    if (quantity.kind === "amps") return sign * current;
    const across = volts[d * N + quantity.from] - volts[d * N + quantity.to];
    return quantity.kind === "volts" ? across : across * current;
  });
}

const SIZE = { width: 380, height: 130, foot: 20 } as const;

/** How the drawn circuits fall, with the window as a bracket above. */
function Histogram({ samples, window, unit }: { samples: Float64Array; window: Window; unit: Unit }) {
  const sorted = useMemo(() => Array.from(samples.slice().sort()), [samples]);
  const [least = 0, most = 1] = extent(sorted);
  const x = scaleLinear([least, most], [4, SIZE.width - 4]);
  const bins = bin<number, number>().domain([least, most]).thresholds(x.ticks(36))(sorted);
  const y = scaleLinear([0, Math.max(...bins.map((b) => b.length))], [SIZE.height - SIZE.foot, 16]);
  const [low, high] = endsOf(windowBy(window, "likely"));
  const inside = sorted.filter((v) => v >= low && v <= high).length / sorted.length;
  const drawn = withLimits(mean(sorted) ?? 0, 2 * (deviation(sorted) ?? 0), unit);
  const range = [0.025, 0.975].map((q) => print(quantileSorted(sorted, q) ?? 0, unit, { digits: 4 }));
  return (
    <figure>
      <svg
        viewBox={`0 0 ${SIZE.width} ${SIZE.height}`}
        className="w-full"
        role="img"
        aria-label={`Histogram: ${drawn}`}
      >
        {bins.map((b) => (
          <rect
            key={b.x0}
            x={x(b.x0 ?? 0) + 0.5}
            width={Math.max(0.5, x(b.x1 ?? 0) - x(b.x0 ?? 0) - 1)}
            y={y(b.length)}
            height={SIZE.height - SIZE.foot - y(b.length)}
            className="fill-low"
          />
        ))}
        <path d={`M${x(low)} 14 V6 H${x(high)} V14`} fill="none" className="stroke-copper" strokeWidth={2.5} />
        {x.ticks(4).map((tick) => (
          <text
            key={tick}
            x={Math.min(SIZE.width - 30, Math.max(30, x(tick)))}
            y={SIZE.height - 4}
            textAnchor="middle"
            fontSize={12}
            className="fill-faint"
          >
            {print(tick, unit)}
          </text>
        ))}
      </svg>
      <figcaption className="text-sm text-faint">
        Drawn: {drawn}; 95{"\u00a0"}% between {range[0]} and {range[1]}. {printFixed(100 * inside, 1)}
        {"\u00a0"}% fall within the bracket, the window {window.drawn ? "of what was drawn before" : "by sensitivities"}
        .
      </figcaption>
    </figure>
  );
}
