import { z } from "zod";
import { KIND_NAMES, type Kind, MODES } from "../circuit/index.ts";

/** Why a circuit is looked at: something is known to be wrong, nobody said, or a new build or a repair is checked. */
export const Situation = z.enum(["complaint", "unsaid", "newBuild", "repaired"]);
export type Situation = z.infer<typeof Situation>;

/** A fault that was found and verified. */
export const Repaired = z.union([
  z.looseObject({ part: z.string(), mode: z.enum(MODES) }),
  z.looseObject({ nodes: z.tuple([z.string(), z.string()]), mode: z.literal("bridged") }),
]);
export type Repaired = z.infer<typeof Repaired>;

/** What somebody knows of one part, and why: “replaced last week”. */
export const Opinion = z.looseObject({ part: z.string(), reason: z.string().max(500).optional() });
export type Opinion = z.infer<typeof Opinion>;

const share = z.number().nonnegative();
const kindKey = z.enum(KIND_NAMES as [Kind, ...Kind[]]);
const modeKey = z.enum(MODES);

/** Habits: how often what fails. Keys left out take their defaults; a kind given in `modes` has just the modes listed. */
export const Priors = z.looseObject({
  /** Probability that nothing is wrong. */
  healthy: z.number().gt(0).lt(1).optional(),
  /** How likely a fault was noticed before it brought the job here, by the largest relative change that it makes. */
  noticed: z
    .looseObject({ least: z.number().gt(0).max(1), at: z.number().positive(), spread: z.number().positive() })
    .partial()
    .optional(),
  /** Share of two different faults in what is left. */
  doubleShare: z.number().min(0).lt(1).optional(),
  /** Drift reaches up to this factor, or down to its inverse. */
  driftFactorMax: z.number().gt(1).optional(),
  /** Probability that a reading was mis-taken. */
  blunder: z.number().min(0).lt(1).optional(),
  /** How, as shares; kinds left out do not happen. `exchanged`: of two readings taken one after the other, per blunder. */
  blunderKinds: z
    .looseObject({ sign: share, unit: share, decimal: share, zero: share, other: share, exchanged: share })
    .partial()
    .optional(),
  /** Relative rates; `bridge` counts for each candidate pair of nodes. */
  rates: z.partialRecord(z.union([kindKey, z.literal("bridge")]), share).optional(),
  modes: z.partialRecord(kindKey, z.partialRecord(modeKey, share)).optional(),
  /** How often parts of this very circuit failed, as closed jobs say. */
  failed: z
    .array(z.looseObject({ part: z.string(), mode: z.enum(MODES), count: z.number().nonnegative() }))
    .max(2000)
    .optional(),
  /** Parts that are as good as ruled out in this job, and parts that are suspected by somebody. */
  excluded: z.array(Opinion).max(500).optional(),
  pinned: z.array(Opinion).max(500).optional(),
});
export type Priors = z.infer<typeof Priors>;
