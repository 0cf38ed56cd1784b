import { z } from "zod";

/** Where practitioners differ: how the product shows things. Storage and computation never depend on it. */
export const Conventions = z.strictObject({
  /** Arrows of current: from plus to minus, or the way electrons drift. */
  arrows: z.enum(["conventional", "electron"]).default("conventional"),
  /** Resistors as rectangles (IEC 60617) or zigzags (ANSI Y32.2). */
  symbols: z.enum(["iec", "ansi"]).default("iec"),
});
export type Conventions = z.infer<typeof Conventions>;

export const DEFAULT_CONVENTIONS: Conventions = Conventions.parse({});
