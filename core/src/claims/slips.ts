import type { Network } from "../circuit/index.ts";
import { parallelOf, seriesOf } from "../reduce/index.ts";
import { type Asked, type Claim, isSameAs, type Place } from "./figures.ts";

/** What probably went wrong with a figure; `by` names what was mixed up with it. */
export type SlipKind =
  | "subscript"
  | "composite"
  | "wholeSupply"
  | "totalCurrent"
  | "notTurnedBack"
  | "productOverSum"
  | "seriesForParallel"
  | "parallelForSeries"
  | "leftOut"
  | "decimal"
  | "prefix"
  | "powerPair"
  | "notSquared"
  | "direction"
  | "ohmsUpsideDown"
  | "halved";

export interface Slip {
  readonly kind: SlipKind;
  readonly by?: string;
}

interface Guess extends Slip {
  readonly value: number;
}

/** The likeliest slip that makes just this figure; null where none does. The commonest come first. */
export function slipOf(claim: Claim, place: Place, places: readonly Place[], network: Network): Slip | null {
  const truth = place.truth[claim.of];
  if (truth === undefined) return null;
  if (claim.isSigned && isSameAs(claim, -truth)) return { kind: "direction" };
  const plain = { ...claim, value: Math.abs(claim.value), isSigned: false };
  // A figure that many slips could make is told by the one that hits it within its digits.
  const found = guessesFor(claim.of, place, places, network).find(
    (g) => Number.isFinite(g.value) && Math.abs(g.value) > 0 && isSameAs(plain, g.value) && !isAlike(g.value, truth),
  );
  if (!found) return null;
  const { value: _, ...slip } = found;
  return slip;
}

const isAlike = (a: number, b: number) => Math.abs(Math.abs(a) - Math.abs(b)) <= 1e-6 * Math.abs(b);

function guessesFor(of: Asked, place: Place, places: readonly Place[], network: Network): Guess[] {
  const truth = Math.abs(place.truth[of] ?? Number.NaN);
  const emf = Math.max(0, ...network.branches.flatMap((b) => (b.law.kind === "supply" ? [Math.abs(b.law.volts)] : [])));
  const total = Math.max(0, ...places.flatMap((p) => (p.kind === "source" ? [Math.abs(p.truth.amps ?? 0)] : [])));
  const { ohms, volts, amps } = place.truth;
  const [R, V, I] = [ohms, volts, amps].map((v) => Math.abs(v ?? Number.NaN));
  const others = places.filter((p) => p !== place && p.kind !== "node" && p.truth[of] !== undefined);
  const isWithin = (other: Place) => other.parts.includes(place.name) || place.parts.includes(other.name);
  const mixed = (within: boolean): Guess[] =>
    others
      .filter((p) => isWithin(p) === within)
      .map((p) => ({ kind: within ? "composite" : "subscript", by: p.name, value: Math.abs(p.truth[of] ?? 0) }));
  const scaled: Guess[] = [
    ...[10, 0.1, 100, 0.01].map((k): Guess => ({ kind: "decimal", value: truth * k })),
    ...[1e3, 1e-3, 1e6, 1e-6].map((k): Guess => ({ kind: "prefix", value: truth * k })),
  ];
  const special: Guess[] = {
    volts: [
      { kind: "wholeSupply" as const, value: emf },
      { kind: "totalCurrent" as const, value: total * R },
      { kind: "halved" as const, value: emf / 2 },
    ],
    amps: [
      { kind: "wholeSupply" as const, value: emf / R },
      { kind: "totalCurrent" as const, value: total },
      { kind: "ohmsUpsideDown" as const, value: R / V },
      { kind: "halved" as const, value: total / 2 },
    ],
    ohms: ohmGuesses(place, places),
    watts: [
      { kind: "notSquared" as const, value: I * R },
      { kind: "notSquared" as const, value: V / R },
      { kind: "powerPair" as const, value: emf * I },
      { kind: "powerPair" as const, value: (emf * emf) / R },
      { kind: "powerPair" as const, value: total * V },
      { kind: "powerPair" as const, value: total * total * R },
      ...others.flatMap((p): Guess[] => [
        { kind: "powerPair", by: p.name, value: V * Math.abs(p.truth.amps ?? Number.NaN) },
        { kind: "powerPair", by: p.name, value: I * Math.abs(p.truth.volts ?? Number.NaN) },
      ]),
    ],
  }[of];
  return [...special, ...scaled.slice(0, 2), ...mixed(true), ...mixed(false), ...scaled.slice(2)];
}

/** Ways in which a sum of ohms goes wrong. */
function ohmGuesses(place: Place, places: readonly Place[]): Guess[] {
  const parts = place.parts.flatMap((name) => places.find((p) => p.name === name)?.truth.ohms ?? []);
  if (place.parts.length < 2 || parts.length < place.parts.length) {
    const R = place.truth.ohms ?? Number.NaN;
    return [{ kind: "notTurnedBack", value: 1 / R }];
  }
  const [sum, beside] = [seriesOf(parts), parallelOf(parts)];
  const product = parts.reduce((a, b) => a * b, 1);
  const without = parts.flatMap((_, i): Guess[] => {
    const rest = parts.filter((__, k) => k !== i);
    const value = place.combined === "parallel" ? parallelOf(rest) : seriesOf(rest);
    return rest.length > 1 || place.combined === "series" ? [{ kind: "leftOut", by: place.parts[i], value }] : [];
  });
  return place.combined === "parallel"
    ? [
        { kind: "notTurnedBack", value: 1 / beside },
        ...(parts.length > 2 ? [{ kind: "productOverSum" as const, value: product / sum }] : []),
        { kind: "seriesForParallel", value: sum },
        ...without,
        { kind: "halved", value: sum / parts.length },
      ]
    : [{ kind: "parallelForSeries", value: beside }, ...without];
}
