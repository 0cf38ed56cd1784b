import type { Circuit } from "@hound/core/circuit";
import { writeTrail } from "@hound/core/notation";
import {
  CarefulHands,
  COSTS,
  drawWorld,
  type FaultCount,
  type FaultKind,
  follow,
  hiddenOf,
  type Outcome,
  WAYS,
  type WayName,
  type World,
} from "@hound/core/practice";
import { type Meter, meterData, SHIPPED_METERS } from "@hound/core/record";
import { drawCircuit, seededRandom } from "@hound/core/simulate";
import { InputError } from "./failure.ts";
import { readFile } from "./files.ts";

export interface PracticeOptions {
  readonly worlds: number;
  readonly seed: number;
  /** Parts besides the supply of circuits that are drawn. */
  readonly parts: number;
  readonly way: readonly WayName[];
  readonly kind: readonly FaultKind[];
  readonly faults: FaultCount;
  /** Each act too, not the end alone. */
  readonly steps: boolean;
}

/** What hands did in one world in one way. */
type Line = Readonly<Record<string, unknown>>;

/**
 * `hound practice`: hides faults in a circuit, or in drawn ones, and lets simulated hands hunt each of them in several
 * ways at the stand-in bench: a line a world and way, then a line a way with what a right name cost.
 */
export function* practice(path: string | undefined, options: PracticeOptions): Generator<Line> {
  const { worlds, seed, way, steps } = options;
  const given = path === undefined ? null : readFile(path);
  if (given && !given.circuit) throw new InputError(`${path}: there is no circuit in this file`);
  const meter = given?.file?.meter ?? SHIPPED_METERS[0].meter;
  const ways = way.length > 0 ? way : (Object.keys(WAYS) as WayName[]);
  const outcomes = new Map<WayName, Outcome[]>(ways.map((name) => [name, []]));
  for (let n = 0; n < worlds; n += 1) {
    const circuit = given?.circuit ?? drawCircuit(options.parts, seededRandom(seed + n));
    const world = drawWorld(circuit, seed + n, { kinds: options.kind, count: options.faults });
    if (typeof world === "string") {
      // A drawn circuit may have no such fault; one that was given has none in any world.
      if (given) throw new InputError(`${path}: ${world}`);
      yield { world: seed + n, left: world };
      continue;
    }
    for (const name of ways) {
      const outcome = handsIn(world, meter, name);
      if ("kind" in outcome) {
        yield { world: seed + n, way: name, left: outcome.message };
        continue;
      }
      outcomes.get(name)?.push(outcome);
      yield lineOf(world, name, outcome, { circuit: given ? null : circuit, steps });
    }
  }
  for (const [name, own] of outcomes) yield summaryOf(name, own);
}

function handsIn(world: World, meter: Meter, name: WayName) {
  const hands = new CarefulHands(world, meterData(meter));
  return follow(world, hands, { ...WAYS[name].way(world.seed), meter });
}

interface Shown {
  readonly circuit: Circuit | null;
  readonly steps: boolean;
}

function lineOf(world: World, way: WayName, outcome: Outcome, { circuit, steps }: Shown): Line {
  const { minutes, count, verdict, named, right } = outcome;
  return {
    world: world.seed,
    way,
    hidden: hiddenOf(world),
    named,
    right,
    verdict,
    minutes,
    acts: count,
    ...(steps ? { steps: outcome.steps } : {}),
    ...(circuit ? { circuit: writeTrail(circuit) } : {}),
  };
}

/** Minutes a right name, where a wrong one costs a swap besides; null where none was right. */
function summaryOf(way: WayName, own: readonly Outcome[]): Line {
  const right = own.reduce((sum, o) => sum + o.right, 0);
  const spent = own.reduce((sum, o) => sum + o.minutes + (1 - o.right) * COSTS.swap, 0);
  return { way, worlds: own.length, right, minutesARightOne: right > 0 ? spent / right : null };
}
