import { buildNetwork, type Circuit, type Network, rowOf, UnknownValueError } from "@hound/core/circuit";
import type { Configuration } from "@hound/core/configuration";
import { readTrail } from "@hound/core/notation";
import { afterwards, readSupposed } from "@hound/core/whatif";
import { type Glow, glowOf } from "../expected/chartRows.ts";
import type { TableData } from "../words/tables.ts";

/** What one part has in a variant. */
export interface VariantPart {
  readonly volts: number;
  /** Of a supply out of its plus. */
  readonly amps: number;
  readonly watts: number;
  readonly glow?: Glow;
}

/** A circuit in one way of several, solved. */
export interface Variant {
  readonly kind: "variant";
  /** What all supplies deliver together. */
  readonly total: { readonly amps: number; readonly watts: number };
  readonly parts: ReadonlyMap<string, VariantPart>;
}

export interface NoVariant {
  readonly kind: "mistake";
  readonly why: string;
}

/** A variant by what is changed in the circuit (`R2 now 2k; LA1 out`, "" for none), or by a whole trail of its own. @param taken what is made of that */
export function variantOf(
  text: string,
  network: Network,
  standing: Configuration,
  taken: (written: Circuit) => Circuit,
): Variant | NoVariant {
  const read = readSupposed(text, network);
  if (read.kind === "supposed") return solved(network, read.faults, standing);
  const { circuit } = readTrail(text);
  if (!circuit) return { kind: "mistake", why: read.message };
  try {
    return solved(buildNetwork(taken(circuit)), [], {});
  } catch (error) {
    if (error instanceof UnknownValueError) return { kind: "mistake", why: error.message };
    throw error;
  }
}

function solved(
  network: Network,
  faults: Parameters<typeof afterwards>[1],
  standing: Configuration,
): Variant | NoVariant {
  const after = afterwards(network, faults, standing);
  if (after.kind === "unsolved") return { kind: "mistake", why: `${after.at}: ${after.why}` };
  const { solution } = after;
  const parts = new Map<string, VariantPart>();
  const total = { amps: 0, watts: 0 };
  network.branches.forEach(({ name, from, to, kind, part }, k) => {
    const isSupply = kind === "supply";
    const amps = (isSupply ? -1 : 1) * solution.amps[k] || 0;
    const watts = (isSupply ? -1 : 1) * solution.watts[k] || 0;
    if (isSupply) {
      total.amps += amps;
      total.watts += watts;
    }
    const glow = rowOf(kind).works === "shines" ? { glow: glowOf(watts, part.powerRating) } : {};
    parts.set(name, { volts: solution.point.volts[from] - solution.point.volts[to], amps, watts, ...glow });
  });
  return { kind: "variant", total, parts };
}

/** Names of all parts of several variants, in the order they are met. */
export function partsOf(variants: readonly (Variant | NoVariant)[]): string[] {
  return [...new Set(variants.flatMap((v) => (v.kind === "variant" ? [...v.parts.keys()] : [])))];
}

const QUANTITIES = [
  ["V", "volts"],
  ["A", "amps"],
  ["W", "watts"],
] as const;

/** As figures: three columns a variant. */
export function variantTable(titles: readonly string[], variants: readonly (Variant | NoVariant)[]): TableData {
  const figures = (v: Variant | NoVariant, name: string | null) =>
    QUANTITIES.map(([, key]) => {
      if (v.kind !== "variant") return null;
      if (name === null) return key === "volts" ? null : v.total[key];
      return v.parts.get(name)?.[key] ?? null;
    });
  return {
    title: "Side by side",
    columns: [{ name: "Part" }, ...titles.flatMap((title) => QUANTITIES.map(([unit]) => ({ name: title, unit })))],
    rows: [null, ...partsOf(variants)].map((name) => [
      name ?? "All supplies",
      ...variants.flatMap((v) => figures(v, name)),
    ]),
  };
}
