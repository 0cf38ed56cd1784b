import { bendsSharply } from "../../circuit/index.ts";
import { seededRandom } from "../../kernels/index.ts";
import { isValue } from "../prediction/moved.ts";
import type { Predictor } from "../prediction/predictor.ts";
import type { Prediction } from "./describe.ts";
import type { Reach } from "./reach.ts";

/** Limits of a figure that no line tells: something bends sharply within tolerance. */
export interface Drawn {
  /** Between what 95 of 100 circuits lie. */
  readonly likely: Reach;
  /** The farthest that parts within tolerance take it. */
  readonly worst: Reach;
}

/** Between what a figure lies by its limits. */
export function endsOf({ value, plusMinus, drawn }: Prediction): readonly [number, number] {
  return drawn ? [drawn.likely.low, drawn.likely.high] : [value - plusMinus, value + plusMinus];
}

/** A figure as its line has it: its value, what each parameter moves it by, and two standard deviations of all together. */
interface Lined {
  readonly value: number;
  readonly row: ArrayLike<number>;
  readonly two: number;
}

/** Circuits drawn to see whether a line tells everything, and to draw a window where it does not. */
const FEW = 40;
const MANY = 200;
/** Share of a window's half by which a figure, or the window's end, may be off its line. */
const OFF = 0.15;
/** Less than this share of a figure, or so many volts, amperes or watts, nobody could see. */
const UNSEEN = { share: 1e-4, least: 1e-6 } as const;

/**
 * Limits of figures that a line does not tell, from drawn circuits, each solved. The end of a window is the value at which
 * as large a share of them lies beyond as of their lines lies beyond the line's own end: where a line does tell, that is it.
 * @param figures of a set of readings, with their lines at the solved point
 * @returns for each figure its limits, null where its line tells them; null where nothing bends sharply
 */
export function drawnLimits(
  predictor: Predictor,
  lines: readonly Lined[],
  figures: (y: Float64Array) => ArrayLike<number>,
): (Drawn | null)[] | null {
  const { set, parameters } = predictor;
  if (!set.settings.some(({ ports }) => ports.laws.some(bendsSharply))) return null;
  const random = seededRandom(1);
  const outcome = predictor.newOutcome();
  const z = new Float64Array(parameters.length);
  const drawn: Float64Array[] = [];
  const lined: Float64Array[] = [];
  const rough = parameters.map(({ acts }) => !isValue(acts));
  // What is known but roughly has its line and no more.
  const solved = () => {
    predictor.predictMoved(z, outcome);
    const found = figures(outcome.y);
    return Float64Array.from(lines, ({ row }, k) => found[k] + sum(row, (d, p) => (rough[p] ? d * z[p] : 0)));
  };
  const draw = () => {
    for (let p = 0; p < z.length; p += 1) z[p] = random.normal();
    drawn.push(solved());
    lined.push(Float64Array.from(lines, ({ value, row }) => value + sum(row, (d, p) => d * z[p])));
  };
  const isOff = (k: number) => {
    const { value, two } = lines[k];
    const most = OFF * two + UNSEEN.share * Math.abs(value) + UNSEEN.least;
    return drawn.some((values, d) => Math.abs(values[k] - lined[d][k]) > most);
  };
  for (let n = 0; n < FEW; n += 1) draw();
  const some = lines.flatMap((_, k) => (isOff(k) ? [k] : []));
  if (some.length === 0) return lines.map(() => null);
  while (drawn.length < MANY) draw();
  const limits = lines.map((): Drawn | null => null);
  for (const k of some) {
    const { value, row, two } = lines[k];
    const values = drawn.map((v) => v[k]).sort((a, b) => a - b);
    const own = lined.map((v) => v[k]).sort((a, b) => a - b);
    const likely = {
      low: atRank(values, rankOf(own, value - two)),
      high: atRank(values, rankOf(own, value + two)),
    };
    const off = Math.max(Math.abs(likely.low - (value - two)), Math.abs(likely.high - (value + two)));
    if (!(off > OFF * two && Number.isFinite(off))) continue;
    const corners = [-2, 2].map((side) => {
      for (let p = 0; p < z.length; p += 1) z[p] = side * Math.sign(row[p]);
      return solved()[k];
    });
    const ends = [...corners, likely.low, likely.high].filter(Number.isFinite);
    limits[k] = { likely, worst: { low: Math.min(...ends), high: Math.max(...ends) } };
  }
  return limits;
}

function sum(row: ArrayLike<number>, of: (d: number, p: number) => number): number {
  let total = 0;
  for (let p = 0; p < row.length; p += 1) total += of(row[p], p);
  return total;
}

/** How many of a rising list lie below a value, and what share of the way it is to the next. */
function rankOf(rising: readonly number[], value: number): number {
  const next = rising.findIndex((v) => v > value);
  if (next <= 0) return next < 0 ? rising.length - 1 : 0;
  return next - 1 + (value - rising[next - 1]) / (rising[next] - rising[next - 1]);
}

/** The value of a rising list at a rank between its own. */
function atRank(rising: readonly number[], rank: number): number {
  const below = Math.floor(rank);
  const above = Math.min(rising.length - 1, below + 1);
  return rising[below] + (rank - below) * (rising[above] - rising[below]);
}
