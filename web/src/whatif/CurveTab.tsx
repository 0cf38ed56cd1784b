import type { Network } from "@hound/core/circuit";
import { endsOf, type RankInput } from "@hound/core/rank";
import { isVolts, type NumericReading } from "@hound/core/record";
import type { Curve, Supposed } from "@hound/core/whatif";
import { extent } from "d3-array";
import { scaleLinear, scaleLog } from "d3-scale";
import { area, line } from "d3-shape";
import { useMemo, useState } from "react";
import { useSelection } from "../desk/DeskContext.tsx";
import { useLab } from "../lab/useLab.ts";
import { print } from "../words/print.ts";
import { placeOf, valueOfReading } from "../words/quantities.ts";

interface CurveTabProps {
  readonly input: RankInput;
  readonly network: Network;
  readonly supposed: readonly Supposed[];
}

/** Any reading against any part's value: the curve, the healthy window, what was read, and where they cross. */
export function CurveTab({ input, network, supposed }: CurveTabProps) {
  const { selection } = useSelection();
  const parts = network.branches.filter((b) => b.law.kind !== "open" && !b.name.endsWith(".wiper")).map((b) => b.name);
  const own = supposed.findLast((f) => "part" in f && parts.includes(f.part));
  const points = network.nodes.filter((n, k) => k !== network.reference && !n.includes("."));
  const [chosenPart, setPart] = useState<string | null>(null);
  const [chosenNode, setNode] = useState<string | null>(null);
  const part =
    chosenPart ??
    (own && "part" in own
      ? own.part
      : selection?.kind === "branch" && parts.includes(selection.name)
        ? selection.name
        : (parts.find((p) => network.branches.find((b) => b.name === p)?.kind === "resistor") ?? parts[0]));
  const lastRead = input.readings.findLast((r) => isVolts(r) && r.to === undefined);
  const node = chosenNode ?? (lastRead?.quantity === "voltage" ? lastRead.from : null) ?? points.at(-1) ?? points[0];
  const read = input.readings.findLast((r): r is NumericReading => isVolts(r) && r.to === undefined && r.from === node);
  const { circuit, readings, meter, priors, habits, situation, standing } = input;
  const question = useMemo(() => {
    const state = standing && Object.keys(standing).length > 0 ? { state: standing } : {};
    const point: NumericReading = read ?? ({ quantity: "voltage", from: node, value: 0, ...state } as NumericReading);
    const bare = { circuit, readings: readings.slice(0, 0), meter, priors, habits, situation, standing };
    return { kind: "curve", input: bare, point, isRead: read !== undefined, part, supposed } as const;
  }, [circuit, readings, meter, priors, habits, situation, standing, read, node, part, supposed]);
  const { answer, isCurrent } = useLab(question);
  return (
    <div className="flex flex-col gap-2">
      <div className="flex flex-wrap items-center gap-2">
        <Choice label="Volts at" value={node} options={points} onChange={setNode} />
        <Choice label="against the value of" value={part} options={parts} onChange={setPart} />
      </div>
      {answer?.kind === "problem" && <p className="text-doubt">{answer.message}.</p>}
      {answer?.kind === "curve" && (
        <div className={isCurrent ? "" : "grayscale"}>
          <Plot curve={answer} read={read ?? null} names={{ part, node }} />
          <p className="mt-2 text-lg">
            <strong>{crossingWords(answer, part, read ?? null)}</strong>
          </p>
        </div>
      )}
    </div>
  );
}

interface ChoiceProps {
  readonly label: string;
  readonly value: string;
  readonly options: readonly string[];
  readonly onChange: (value: string) => void;
}

function Choice({ label, value, options, onChange }: ChoiceProps) {
  return (
    <label className="flex items-center gap-1.5">
      {label}
      <select
        value={value}
        onChange={(e) => onChange(e.target.value)}
        className="rounded border border-rule bg-sheet px-2 py-1 font-bold"
      >
        {options.map((name) => (
          <option key={name}>{name}</option>
        ))}
      </select>
    </label>
  );
}

/** `R4 between 1.9 and 2.3 kΩ`. */
export function crossingWords({ agrees, unit }: Curve, part: string, read: NumericReading | null): string {
  if (!read) return "Nothing was read there yet.";
  const what = `${placeOf(read)} ${valueOfReading(read)}`;
  if (agrees.length === 0) return `No value of ${part} alone gives ${what}.`;
  const between = agrees.map(([a, b]) => `${print(a, unit, { digits: 3 })} and ${print(b, unit, { digits: 3 })}`);
  return `${what} says: ${part} between ${between.join(", or between ")}.`;
}

const SIZE = { width: 520, height: 300, left: 64, right: 12, top: 12, bottom: 44 } as const;

interface PlotProps {
  readonly curve: Curve;
  readonly read: NumericReading | null;
  readonly names: { readonly part: string; readonly node: string };
}

function Plot({ curve, read, names }: PlotProps) {
  const { xs, ys, twos, healthy, nominal, unit, agrees } = curve;
  const at = [...xs.keys()];
  const edges = [SIZE.left, SIZE.width - SIZE.right] as const;
  const ends = [xs[0], xs[xs.length - 1]] as const;
  const x = unit === "ohm" ? scaleLog(ends, edges) : scaleLinear(ends, edges);
  const readBand = read ? [read.value - (read.plusMinus ?? 0), read.value + (read.plusMinus ?? 0)] : [];
  const [low = 0, high = 1] = extent([
    ...at.flatMap((i) => [ys[i] - twos[i], ys[i] + twos[i]]),
    ...endsOf(healthy),
    ...readBand,
  ]);
  const y = scaleLinear([low, high === low ? low + 1 : high], [SIZE.height - SIZE.bottom, SIZE.top]).nice(5);
  const band = area<number>()
    .x((i) => x(xs[i]))
    .y0((i) => y(ys[i] - twos[i]))
    .y1((i) => y(ys[i] + twos[i]))(at);
  const path = line<number>()
    .x((i) => x(xs[i]))
    .y((i) => y(ys[i]))(at);
  const xTicks = unit === "ohm" ? decades(ends) : x.ticks(5);
  return (
    <svg
      viewBox={`0 0 ${SIZE.width} ${SIZE.height}`}
      className="w-full rounded-lg border border-rule bg-sheet"
      role="img"
      aria-label={`Volts at ${names.node} against the value of ${names.part}`}
    >
      {y.ticks(5).map((tick) => (
        <g key={tick}>
          <path d={`M${edges[0]} ${y(tick)} H${edges[1]}`} className="stroke-rule" />
          <text x={edges[0] - 6} y={y(tick) + 5} textAnchor="end" fontSize={14} className="fill-faint">
            {print(tick, "V")}
          </text>
        </g>
      ))}
      {xTicks.map((tick) => (
        <text key={tick} x={x(tick)} y={SIZE.height - 24} textAnchor="middle" fontSize={14} className="fill-faint">
          {print(tick, unit)}
        </text>
      ))}
      <text x={edges[1]} y={SIZE.height - 6} textAnchor="end" fontSize={14} fontWeight={700} className="fill-ink">
        {names.part}
      </text>
      <rect
        x={edges[0]}
        width={edges[1] - edges[0]}
        y={y(endsOf(healthy)[1])}
        height={Math.max(1.5, y(endsOf(healthy)[0]) - y(endsOf(healthy)[1]))}
        className="fill-faint"
        fillOpacity={0.22}
      />
      <path
        d={`M${x(nominal)} ${SIZE.top} V${SIZE.height - SIZE.bottom}`}
        className="stroke-faint"
        strokeDasharray="3 4"
      />
      <text x={x(nominal)} y={SIZE.height - 6} textAnchor="middle" fontSize={13} className="fill-faint">
        as drawn
      </text>
      {agrees.map(([from, to]) => (
        <rect
          key={from}
          x={x(from)}
          width={Math.max(2, x(to) - x(from))}
          y={SIZE.top}
          height={SIZE.height - SIZE.bottom - SIZE.top}
          className="fill-copper"
          fillOpacity={0.18}
        />
      ))}
      <path d={band ?? ""} className="fill-suspect" fillOpacity={0.18} />
      <path d={path ?? ""} className="stroke-suspect" strokeWidth={3} fill="none" />
      {read && (
        <path
          d={`M${edges[0]} ${y(read.value)} H${edges[1]}`}
          className="stroke-copper"
          strokeWidth={3}
          strokeDasharray="8 4"
        />
      )}
    </svg>
  );
}

function decades([from, to]: readonly [number, number]): number[] {
  const first = Math.ceil(Math.log10(from) - 1e-9);
  const last = Math.floor(Math.log10(to) + 1e-9);
  return Array.from({ length: last - first + 1 }, (_, i) => 10 ** (first + i));
}
