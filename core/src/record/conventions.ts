import { z } from "zod";

/** Where practitioners differ: how the product shows things, and what it takes for granted. Storage never depends on it. */
export const Conventions = z.strictObject({
  /** Arrows of current: from plus to minus, or the way electrons drift. */
  arrows: z.enum(["conventional", "electron"]).default("conventional"),
  /** Resistors as rectangles (IEC 60617) or zigzags (ANSI Y32.2). */
  symbols: z.enum(["iec", "ansi"]).default("iec"),
  /** Letter of a source's voltage in sums. */
  sourceLetter: z.enum(["E", "V"]).default("E"),
  decimal: z.enum(["point", "comma"]).default("point"),
  /** How parallel resistances are summed on paper; equal ones as R ÷ n. */
  sums: z.enum(["reciprocals", "product", "conductances"]).default("reciprocals"),
  equalShortcut: z.enum(["on", "off"]).default("on"),
  /** Exact figures carried and shown rounded, or the rounded figure carried on as on paper. */
  rounding: z.enum(["exact", "paper"]).default("exact"),
  /** Meters as they load the circuit, or as if they were not there: of every reading, expected or weighed. */
  meters: z.enum(["ideal", "real"]).default("real"),
  /** Supplies with their internal resistance, and contacts and wires with theirs, or without, in every view. */
  supplies: z.enum(["real", "ideal"]).default("real"),
  wires: z.enum(["real", "ideal"]).default("real"),
  /** How far expected figures may go, in chart, board and sheets: two deviations, every part at its edge, or not at all. */
  limits: z.enum(["likely", "worst", "none"]).default("likely"),
  /** Drops with the sign of their direction, or by size alone. */
  signs: z.enum(["shown", "hidden"]).default("shown"),
  /** What to measure next: the best information a minute, or as another school goes about it. */
  attack: z.enum(["information", "halfSplit", "fromSupply", "swapOne"]).default("information"),
  /** Where new jobs stand: in a wet place lower voltages are a shock hazard. */
  place: z.enum(["dry", "wet"]).default("dry"),
  textSize: z.enum(["usual", "large"]).default("usual"),
  /** What a device starts with; the button on each page changes it there. */
  theme: z.enum(["system", "light", "dark"]).default("system"),
});
export type Conventions = z.infer<typeof Conventions>;

export const DEFAULT_CONVENTIONS: Conventions = Conventions.parse({});

const withoutDefault = Object.entries(Conventions.shape).map(([key, choice]) => [key, choice.unwrap().optional()]);
/** Some of the conventions: what is left out is not changed. */
export const ConventionChange = z.strictObject(Object.fromEntries(withoutDefault)) as unknown as z.ZodType<
  Partial<Conventions>
>;
export type ConventionChange = z.infer<typeof ConventionChange>;
