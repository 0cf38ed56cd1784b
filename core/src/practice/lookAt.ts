import { type Kind, rowOf } from "../circuit/index.ts";
import type { Configuration } from "../configuration/index.ts";
import type { FaultAt } from "../faults/index.ts";
import { type Observation, prepare } from "../rank/index.ts";
import { type Priors, type Seen, takenSo } from "../record/index.ts";
import type { Random } from "../simulate/index.ts";
import type { World } from "./world.ts";

/** One that a look may find each, the dimmest first. */
export const looksOf = (kind: Kind): readonly Seen[] => rowOf(kind).looks ?? [];

export interface LookedAt {
  readonly part: string;
  /** Held directly to the supply. */
  readonly alone: boolean;
}

/** What is looked at, and how often an eye is mistaken where that is not as usual. */
type Sight = Pick<World, "circuit" | "situation"> & { readonly priors?: Pick<Priors, "blunder"> };

/** What the eye finds at a part, each answer with its chance. @returns null of a part that shows nothing */
export function chancesOfLook(
  { circuit, situation, priors }: Sight,
  faults: readonly FaultAt[],
  { part, alone }: LookedAt,
  standing: Configuration,
): readonly { readonly look: Observation; readonly chance: number }[] | null {
  const kind = circuit.parts.find((p) => p.designator === part)?.kind;
  const seen = kind ? looksOf(kind) : [];
  if (seen.length === 0) return null;
  const looks = seen.map((s) =>
    takenSo({ quantity: "observation", part, seen: s, ...(alone ? { alone } : {}) } as Observation, standing),
  );
  const input = { circuit, readings: [], ...(situation ? { situation } : {}), ...(priors ? { priors } : {}) };
  const prepared = prepare(input, [], undefined, looks);
  if (prepared.kind === "problem" || !prepared.observations) return null;
  const { observations, integrator } = prepared;
  const { y } = integrator.predictor.predict(faults, "values");
  return looks.map((look, i) => ({ look, chance: observations.chanceOf(i, y, faults) }));
}

/** What a look finds, drawn as likely as it is; null of a part that shows nothing. */
export function lookAt(
  world: Sight,
  faults: readonly FaultAt[],
  what: LookedAt,
  standing: Configuration,
  random: Random,
): Observation | null {
  const found = chancesOfLook(world, faults, what, standing);
  if (!found) return null;
  let left = random.next();
  for (const { look, chance } of found) {
    left -= chance;
    if (left < 0) return look;
  }
  return found[0].look;
}

/** What whoever only looks notices: parts that look otherwise than they would if all were well. */
export function noticedIn(world: World): Observation[] {
  const likeliest = (faults: readonly FaultAt[], part: string) => {
    const found = chancesOfLook(world, faults, { part, alone: false }, {});
    return found?.reduce((a, b) => (b.chance > a.chance ? b : a)).look ?? null;
  };
  return world.circuit.parts.flatMap(({ designator, kind }) => {
    // A fuse is not seen from outside.
    if (rowOf(kind).role !== "consumer") return [];
    const [due, is] = [likeliest([], designator), likeliest(world.faults, designator)];
    return due && is && due.seen !== is.seen ? [is] : [];
  });
}

/**
 * What brought the job here, as somebody would say it who only looks. Where nothing shows, that something was found off
 * when it was checked.
 */
export function complaintOf({ situation }: Pick<World, "situation">, noticed: readonly Observation[]): string {
  if (noticed.length > 0) return `${noticed.map(({ part, seen }) => `${part} ${SAID[seen] ?? seen}`).join(", ")}.`;
  return situation === "complaint"
    ? "Something was off when it was last checked; nothing is to be seen from outside."
    : "Brought in for a check.";
}

/** What is said of a look. */
const SAID: Partial<Record<Seen, string>> = {
  dark: "stays dark",
  dim: "is only dim",
  lit: "is lit",
  bright: "is too bright",
  silent: "does not pull in",
  pulls: "pulls in",
  cold: "stays cold",
  hot: "gets hot",
};
