import { z } from "zod";
import { NodeName } from "../circuit/index.ts";

/** How the circuit stands where it differs from the drawing; unknown keys are kept. */
export const Configuration = z.looseObject({
  /** Switches that are not as drawn. */
  switches: z.record(z.string(), z.enum(["open", "closed"])).optional(),
  /** Parts with one lead lifted. */
  lifted: z.array(z.string()).optional(),
  /** Parts replaced by known-good ones. */
  swapped: z.array(z.string()).optional(),
  /** Parts taken out for a test, parts given another value on purpose, resistances put between two nodes. */
  out: z.array(z.string()).optional(),
  values: z.record(z.string(), z.number()).optional(),
  added: z.array(z.looseObject({ from: NodeName, to: NodeName.optional(), ohms: z.number().positive() })).optional(),
  /** Stray bridges that were cleared, by the nodes they joined. */
  cleared: z.array(z.tuple([NodeName, NodeName])).optional(),
  /** Ohms of the leads, taken off what the meter shows. */
  leads: z.number().nonnegative().optional(),
  /** Supplies that are off or disconnected. */
  off: z.array(z.string()).optional(),
  /** A branch that is opened to put the meter into it: at which node, and how many of the steps are done. */
  inHand: z.looseObject({ through: z.string(), at: NodeName, done: z.number().int().nonnegative() }).optional(),
  /** Other meters in the circuit: in a part's branch, or across two nodes. Ohms left out, as this meter's own. */
  meters: z
    .array(
      z.union([
        z.looseObject({ through: z.string(), ohms: z.number().nonnegative().optional() }),
        z.looseObject({ from: NodeName, to: NodeName.optional(), ohms: z.number().positive().optional() }),
      ]),
    )
    .optional(),
});
export type Configuration = z.infer<typeof Configuration>;
