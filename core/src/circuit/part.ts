import { z } from "zod";
import { DESIGNATOR_FORM } from "./designators.ts";
import { kindsOfForm } from "./kinds.ts";
import { MATERIAL_NAMES } from "./materials.ts";

/** A junction's name: letters, digits and underscores; "+" is the plus terminal nobody has named yet. */
export const NodeName = z.string().regex(/^(?:[A-Za-z0-9_]+|\+[A-Za-z0-9]*)$/);
export type NodeName = z.infer<typeof NodeName>;

export const Designator = z.string().regex(DESIGNATOR_FORM);

const positive = z.number().positive();
const Fraction = z.number().min(0).max(0.99);

/** Resistance as written: in ohms, by rated voltage and power, or not known. */
export const Resistance = z.discriminatedUnion("by", [
  z.strictObject({ by: z.literal("ohms"), ohms: positive }),
  z.strictObject({ by: z.literal("rating"), volts: positive, watts: positive }),
  z.strictObject({ by: z.literal("unknown") }),
]);
export type Resistance = z.infer<typeof Resistance>;

const ends = {
  designator: Designator,
  /** Positive current runs through the part from `from` to `to`. */
  from: NodeName,
  to: NodeName,
  /** Fraction, two standard deviations. */
  tolerance: Fraction,
  /** Present where somebody wrote just the tolerance that is usual: it is known then, not taken for granted. */
  saysTolerance: z.literal(true).optional(),
  powerRating: positive.optional(),
  currentRating: positive.optional(),
  note: z.string().optional(),
  /** Of a value that is not known: what it may be, ohms or volts, in as many cases; in each all such parts go together. */
  reach: z.array(z.number()).readonly().optional(),
};

/** A part between nodes, base SI units. A supply's `from` is its plus terminal. */
export const Part = z.discriminatedUnion("kind", [
  z.strictObject({
    kind: z.enum(kindsOfForm("resistance")),
    ...ends,
    resistance: Resistance,
    /** Ohms while it works, of one whose `resistance` is that of the cold part. */
    hotOhms: positive.optional(),
    /** Shares of a coil's rated volts at which it pulls in, and below which it drops out. */
    pulls: Fraction.optional(),
    drops: Fraction.optional(),
  }),
  z.strictObject({
    kind: z.enum(kindsOfForm("junction")),
    ...ends,
    material: z.enum(MATERIAL_NAMES),
    /** Forward volts at 10 mA, or those at which it breaks down, where that is what it is for. `from` is the anode. */
    volts: positive,
  }),
  z.strictObject({
    kind: z.enum(kindsOfForm("bridge")),
    ...ends,
    material: z.enum(MATERIAL_NAMES),
    /** Forward volts of each of its diodes at 10 mA. `from` and `to` are the alternating leads. */
    volts: positive,
    plus: NodeName,
    minus: NodeName,
  }),
  z.strictObject({
    kind: z.enum(kindsOfForm("capacitance")),
    ...ends,
    farads: positive.optional(),
    voltRating: positive.optional(),
  }),
  z.strictObject({
    kind: z.enum(kindsOfForm("track")),
    ...ends,
    ohms: positive,
    /** Share of the track between `from` and the wiper. */
    at: z.number().min(0).max(1),
    wiper: NodeName.optional(),
  }),
  z.strictObject({
    kind: z.enum(kindsOfForm("ohms")),
    ...ends,
    ohms: positive,
    /** Present where somebody wrote just the ohms that are usual: they are known then, not taken for granted. */
    saysOhms: z.literal(true).optional(),
  }),
  z.strictObject({ kind: z.enum(kindsOfForm("lever")), ...ends, ohms: positive, position: z.enum(["open", "closed"]) }),
  z.strictObject({
    kind: z.enum(kindsOfForm("source")),
    ...ends,
    volts: z.number().nullable(),
    internalOhms: z.number().nonnegative(),
    /** Present where somebody wrote just the ohms that are usual: they are known then, not taken for granted. */
    saysInternal: z.literal(true).optional(),
    /** Amperes above which the supply holds its current instead of its voltage. */
    limit: positive.optional(),
    safety: z.enum(["ac", "mains"]).optional(),
  }),
]);
export type Part = z.infer<typeof Part>;

/** What a node is called where one probes it, and how it is found there: “TB2-4”, “blue wire”. */
export const TestPoint = z.strictObject({ node: NodeName, called: z.string(), note: z.string().optional() });
export type TestPoint = z.infer<typeof TestPoint>;

export const Circuit = z.strictObject({
  title: z.string(),
  notes: z.array(z.string()),
  parts: z.array(Part),
  /** The node against which voltages count. */
  reference: NodeName,
  points: z.array(TestPoint).optional(),
});
export type Circuit = z.infer<typeof Circuit>;

/** A lead besides the two ends that a part is walked between, by the word that names it. */
export interface FurtherLead {
  readonly lead: "wiper" | "plus" | "minus";
  readonly node: NodeName;
}

/** The leads of a part besides its two ends. */
export function furtherLeads(part: Part): FurtherLead[] {
  if ("plus" in part)
    return [
      { lead: "plus", node: part.plus },
      { lead: "minus", node: part.minus },
    ];
  return "wiper" in part && part.wiper !== undefined ? [{ lead: "wiper", node: part.wiper }] : [];
}

type Ends = Readonly<Record<"from" | "to", NodeName>>;

/** The two nodes of each diode of a bridge rectifier, anode first: both alternating leads to plus, and minus to both. */
export function bridgeEnds({ from, to, plus, minus }: Extract<Part, { plus: unknown }>): Ends[] {
  return [
    { from, to: plus },
    { from: to, to: plus },
    { from: minus, to: from },
    { from: minus, to },
  ];
}

/** The two nodes at which a branch of a part is probed; of a section of a track that has no lead of its own the whole of it. */
export function branchEnds(part: Part, branch: string): Ends {
  const { from, to, designator } = part;
  const section = branch.slice(designator.length + 1).toLowerCase();
  if ("plus" in part) return bridgeEnds(part)[Number(section) - 1] ?? { from, to };
  if (!("wiper" in part) || part.wiper === undefined) return { from, to };
  if (section === "top") return { from, to: part.wiper };
  return section === "bottom" ? { from: part.wiper, to } : { from, to };
}

/** Names of every node of a circuit, in the order met along its parts. */
export function nodesOf(circuit: Circuit): NodeName[] {
  const seen = new Set<NodeName>();
  for (const part of circuit.parts) {
    seen.add(part.from);
    for (const { node } of furtherLeads(part)) seen.add(node);
    seen.add(part.to);
  }
  return [...seen];
}

/** What a node is called besides its name, or null. */
export function pointAt(circuit: Circuit, node: NodeName): TestPoint | null {
  return circuit.points?.find((p) => p.node === node) ?? null;
}
