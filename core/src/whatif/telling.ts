import type { Prediction, RankInput, RankProblem } from "../rank/index.ts";
import type { NumericReading } from "../record/index.ts";
import { testPoints } from "./points.ts";
import { predictionsUnder, preparedFor } from "./prepared.ts";
import type { Supposed } from "./supposed.ts";

/** One measurement that proves faults or rules them out. */
export interface Telling {
  readonly kind: "telling";
  readonly reading: NumericReading;
  /** What it shows if it is these faults, and the nearest that any of the others would show. */
  readonly ifSo: Prediction;
  readonly ifNot: Prediction;
  /** Number of that other among those given. */
  readonly nearest: number;
  /** How far apart the two are, in limits of both together. */
  readonly apart: number;
}

/** Below this the two are not told apart for sure. */
const CLEAR = 1.5;

/**
 * The volts reading at which these faults lie farthest from all the others; ohms across a part, then a current, where no
 * volts tell.
 * @param others what it might be instead; nothing wrong is an empty list
 * @returns null where no reading without dismantling tells them apart
 */
export function tellingPoint(
  input: RankInput,
  supposed: readonly Supposed[],
  others: readonly (readonly Supposed[])[],
): Telling | RankProblem | null {
  if (others.length === 0) return null;
  const all = [supposed, ...others];
  const bridges = all.flat().filter((f) => "nodes" in f);
  const bare = { ...input, readings: [] };
  const plain = preparedFor(bare, [], []);
  if (plain.kind === "problem") return plain;
  const { network } = plain.prepared;
  const state = input.standing && Object.keys(input.standing).length > 0 ? { state: input.standing } : {};
  const volts = testPoints(network, input.standing);
  const amps = network.branches.flatMap((b): NumericReading[] =>
    b.name.includes(".") || b.isAdded ? [] : [{ quantity: "current", through: b.name, value: 0, ...state }],
  );
  const ohms = network.branches.flatMap((b): NumericReading[] =>
    b.kind === "supply" || b.isAdded
      ? []
      : [{ quantity: "resistance", from: network.nodes[b.from], to: network.nodes[b.to], value: 0, ...state }],
  );
  for (const points of [volts, ohms, amps]) {
    const made = preparedFor(bare, points, bridges);
    if (made.kind === "problem") return made;
    const shows = all.map((faults) => predictionsUnder(made.prepared, faults.map(made.faultOf)));
    const best = points
      .map((reading, r) =>
        nearestOther(
          reading,
          shows.map((s) => s[r]),
        ),
      )
      .sort((a, b) => b.apart - a.apart)[0];
    if (best && best.apart >= CLEAR) return best;
  }
  return null;
}

function nearestOther(reading: NumericReading, [own, ...others]: readonly Prediction[]): Telling {
  const apart = others.map((o) => Math.abs(own.value - o.value) / Math.hypot(own.plusMinus, o.plusMinus));
  const nearest = apart.indexOf(Math.min(...apart));
  return { kind: "telling", reading, ifSo: own, ifNot: others[nearest], nearest, apart: apart[nearest] };
}
