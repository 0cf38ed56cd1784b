import type { Statistics } from "@hound/core/record";
import { scaleLinear } from "d3-scale";
import { printFixed } from "../words/print.ts";

const SIZE = { width: 520, height: 300, left: 56, right: 32, top: 14, bottom: 46 } as const;
const TICKS = [0, 0.25, 0.5, 0.75, 1] as const;
const percentOf = (share: number) => `${printFixed(100 * share, 0)}\u00a0%`;

/** How often what was said with a probability was so: on the line where the ranking's word is worth what it says. */
export function Calibration({ classes }: { classes: Statistics["calibration"] }) {
  if (classes.length === 0)
    return <p className="text-faint">No repair was chosen from the suspects yet: there is nothing to hold them to.</p>;
  const x = scaleLinear([0, 1], [SIZE.left, SIZE.width - SIZE.right]);
  const y = scaleLinear([0, 1], [SIZE.height - SIZE.bottom, SIZE.top]);
  const words = classes.map((c) => `said ${percentOf(c.said)}: ${c.rate.times} of ${c.rate.of}`).join("; ");
  return (
    <>
      <p className="text-faint">
        Repairs by the probability that was said of them, when it was decided. A mark is how often they were so, its
        line within what that may be by chance (95 %). On the slanted line a word is worth what it says.
      </p>
      <svg viewBox={`0 0 ${SIZE.width} ${SIZE.height}`} className="mt-2 w-full max-w-xl" role="img" aria-label={words}>
        {TICKS.map((tick) => (
          <g key={tick}>
            <path d={`M${SIZE.left} ${y(tick)} H${SIZE.width - SIZE.right}`} className="stroke-rule" />
            <text x={SIZE.left - 8} y={y(tick) + 5} textAnchor="end" fontSize={14} className="fill-faint">
              {percentOf(tick)}
            </text>
            <text x={x(tick)} y={SIZE.height - 24} textAnchor="middle" fontSize={14} className="fill-faint">
              {percentOf(tick)}
            </text>
          </g>
        ))}
        <path d={`M${x(0)} ${y(0)} L${x(1)} ${y(1)}`} className="stroke-faint" strokeWidth={2} strokeDasharray="6 5" />
        <text
          x={(SIZE.left + SIZE.width) / 2}
          y={SIZE.height - 4}
          textAnchor="middle"
          fontSize={14}
          className="fill-ink"
        >
          said
        </text>
        {classes.map(({ said, rate }) => (
          <g key={said} className="stroke-suspect">
            <path d={`M${x(said)} ${y(rate.low)} V${y(rate.high)}`} strokeWidth={3} />
            <circle cx={x(said)} cy={y(rate.of > 0 ? rate.times / rate.of : 0)} r={6} className="fill-suspect" />
            <text
              x={x(said) + (said > 0.85 ? -10 : 10)}
              y={y(rate.of > 0 ? rate.times / rate.of : 0) + 5}
              textAnchor={said > 0.85 ? "end" : "start"}
              fontSize={14}
              stroke="none"
              className="fill-ink"
            >
              {rate.times} of {rate.of}
            </text>
          </g>
        ))}
      </svg>
    </>
  );
}
