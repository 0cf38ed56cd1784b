import type { Explanation, Prediction } from "@hound/core/rank";
import type { NumericReading } from "@hound/core/record";
import { scaleSymlog } from "d3-scale";
import type { ReactNode } from "react";
import { bitsWords } from "../words/bits.ts";
import { placeOf, valueOfReading } from "../words/quantities.ts";

interface DotPlotProps {
  readonly readings: readonly { readonly reading: NumericReading; readonly place: number }[];
  readonly says: readonly Prediction[];
  readonly healthy: readonly Prediction[];
  readonly explanation: Explanation | undefined;
}

const SIZE = { width: 520, row: 30, left: 92, plot: 270, bits: 130 } as const;
/** Limits at the ends of the axis. */
const FAR = 30;
/** Bits at which an evidence bar is as long as it gets. */
const MANY = 20;

/**
 * Each reading on a line of its own: the measured value in the middle, this suspect's and the healthy circuit's beside
 * it, in the limits of this suspect; and how many bits it speaks for or against.
 */
export function DotPlot({ readings, says, healthy, explanation }: DotPlotProps) {
  const x = scaleSymlog()
    .domain([-FAR, FAR])
    .range([SIZE.left, SIZE.left + SIZE.plot])
    .clamp(true);
  const bitsAt = SIZE.left + SIZE.plot + SIZE.bits / 2 + 6;
  const height = SIZE.row * (readings.length + 1) + 6;
  const [from, to] = [x(-1), x(1)];
  return (
    <svg
      viewBox={`0 0 ${SIZE.width} ${height}`}
      className="w-full"
      role="img"
      aria-label={`Measured, healthy and this suspect in limits, and evidence in bits, of ${readings.length} readings`}
    >
      <rect x={from} y={SIZE.row - 8} width={to - from} height={height - SIZE.row} className="fill-band" />
      {[-10, -1, 1, 10].map((limit) => (
        <text key={limit} x={x(limit)} y={15} textAnchor="middle" fontSize={13} className="fill-faint">
          {limit > 0 ? `+${limit}` : `−${-limit}`}
        </text>
      ))}
      <text x={bitsAt} y={15} textAnchor="middle" fontSize={13} className="fill-faint">
        against · bits · for
      </text>
      {readings.map(({ reading, place }, i) => {
        const y = SIZE.row * (i + 1) + 12;
        const own = says[i];
        const good = healthy[i];
        const off = (p: Prediction | undefined) =>
          p && own && own.plusMinus > 0 ? (p.value - reading.value) / own.plusMinus : Number.NaN;
        const bits = explanation?.bits.find((b) => b.index === place)?.bits;
        const length = bits === undefined ? 0 : (Math.min(MANY, Math.abs(bits)) / MANY) * (SIZE.bits / 2);
        return (
          <g key={place}>
            <title>{`${placeOf(reading)} ${valueOfReading(reading)}: ${bitsWords(bits)}`}</title>
            <text x={0} y={y + 5} fontSize={14} fontWeight={700} className="fill-ink">
              {placeOf(reading)}
            </text>
            <path d={`M${SIZE.left} ${y} H${SIZE.left + SIZE.plot}`} className="stroke-rule" />
            {Number.isFinite(off(good)) && (
              <rect
                x={x(off(good)) - 5}
                y={y - 5}
                width={10}
                height={10}
                className="fill-sheet stroke-faint"
                strokeWidth={2}
              />
            )}
            <circle cx={x(0)} cy={y} r={6} className="fill-copper" />
            {Number.isFinite(off(own)) && (
              <path
                d={`M${x(off(own))} ${y - 9} l7 9 l-7 9 l-7 -9 z`}
                className="stroke-suspect"
                fill="none"
                strokeWidth={2.6}
              />
            )}
            <path d={`M${bitsAt} ${y - 10} v20`} className="stroke-faint" />
            {bits !== undefined && (
              <rect
                x={bits < 0 ? bitsAt - length : bitsAt}
                y={y - 6}
                width={Math.max(1, length)}
                height={12}
                className={bits < 0 ? "fill-low" : "fill-high"}
              />
            )}
          </g>
        );
      })}
    </svg>
  );
}

/** What the marks of the plot are. */
export function DotLegend() {
  return (
    <p className="flex flex-wrap items-center gap-x-4 text-sm text-faint">
      <Mark label="measured">
        <circle r="6" className="fill-copper" />
      </Mark>
      <Mark label="this suspect">
        <path d="M0 -8 l6 8 l-6 8 l-6 -8 z" className="stroke-suspect" fill="none" strokeWidth={2.4} />
      </Mark>
      <Mark label="healthy">
        <rect x="-5" y="-5" width="10" height="10" className="fill-sheet stroke-faint" strokeWidth={2} />
      </Mark>
    </p>
  );
}

function Mark({ label, children }: { label: string; children: ReactNode }) {
  return (
    <span className="inline-flex items-center gap-1.5">
      <svg width="18" height="18" viewBox="-9 -9 18 18" aria-hidden>
        {children}
      </svg>
      {label}
    </span>
  );
}
