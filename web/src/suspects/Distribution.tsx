import type { RankInput } from "@hound/core/rank";
import type { Supposed, ValueDistribution } from "@hound/core/whatif";
import { scaleLinear, scaleLog } from "d3-scale";
import { area, curveLinear } from "d3-shape";
import { useMemo } from "react";
import { useLab } from "../lab/useLab.ts";
import { print } from "../words/print.ts";

interface DistributionProps {
  readonly input: RankInput;
  readonly supposed: readonly Supposed[];
  readonly which: number;
  /** The middle 80 % as the ranking has it. */
  readonly middle: readonly [number, number];
}

const SIZE = { width: 520, height: 110, side: 30, foot: 24 } as const;

/** How probable each value is, given that it is this fault; the middle 80 % darker. */
export function Distribution({ input, supposed, which, middle }: DistributionProps) {
  const question = useMemo(() => ({ kind: "distribution", input, supposed, which }) as const, [input, supposed, which]);
  const { answer } = useLab(question);
  if (answer?.kind !== "distribution") return null;
  const fault = supposed[which];
  const part = fault && "part" in fault ? fault.part : "";
  return <Plot found={answer} middle={middle} part={part} />;
}

interface PlotProps {
  readonly found: ValueDistribution;
  readonly middle: readonly [number, number];
  readonly part: string;
}

function Plot({ found: { xs, density, unit, isLogarithmic }, middle, part }: PlotProps) {
  const ends = [xs[0], xs[xs.length - 1]] as const;
  const edges = [SIZE.side, SIZE.width - SIZE.side] as const;
  const x = isLogarithmic ? scaleLog(ends, edges) : scaleLinear(ends, edges);
  const y = scaleLinear([0, 1], [SIZE.height - SIZE.foot, 6]);
  const shape = (at: readonly number[]) =>
    area<number>()
      .x((i) => x(xs[i]))
      .y0(y(0))
      .y1((i) => y(density[i]))
      .curve(curveLinear)(at as number[]) ?? "";
  const all = [...xs.keys()];
  const inner = all.filter((i) => xs[i] >= middle[0] && xs[i] <= middle[1]);
  const ticks = isLogarithmic ? [0, 0.25, 0.5, 0.75, 1].map((t) => ends[0] * (ends[1] / ends[0]) ** t) : x.ticks(4);
  return (
    <svg
      viewBox={`0 0 ${SIZE.width} ${SIZE.height}`}
      className="w-full"
      role="img"
      aria-label={`Distribution of the value of ${part}: the middle 80 % from ${print(middle[0], unit, { digits: 3 })} to ${print(middle[1], unit, { digits: 3 })}`}
    >
      <path d={shape(all)} className="fill-suspect" fillOpacity={0.25} />
      <path d={shape(inner)} className="fill-suspect" fillOpacity={0.55} />
      <path d={`M${edges[0]} ${y(0)} H${edges[1]}`} className="stroke-faint" />
      {ticks.map((tick) => (
        <text key={tick} x={x(tick)} y={SIZE.height - 6} textAnchor="middle" fontSize={13} className="fill-faint">
          {print(tick, unit, { digits: 3 })}
        </text>
      ))}
    </svg>
  );
}
