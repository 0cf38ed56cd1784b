import type { Network } from "../circuit/index.ts";
import { type Asked, type Claim, isNearTo, isSameAs, type Place } from "./figures.ts";
import { type Slip, slipOf } from "./slips.ts";

export type Mark =
  | { readonly kind: "right" }
  /** Not to its last digit: rounded figures were carried on. */
  | { readonly kind: "rounded"; readonly due: number }
  /** Used correctly what was wrong before: these figures, which are wrong themselves. */
  | { readonly kind: "follows"; readonly from: readonly Claim[] }
  | { readonly kind: "wrong"; readonly slip: Slip | null }
  /** There is no such place in this circuit any more. */
  | { readonly kind: "gone" };

export interface Marked {
  readonly claim: Claim;
  readonly mark: Mark;
}

/** Marks a person's own figures against the circuit's, each by itself and by what it may follow from. */
export function markClaims(claims: readonly Claim[], places: readonly Place[], network: Network): Marked[] {
  const byName = new Map(places.map((p) => [p.name, p]));
  const first = claims.map((claim): Marked => ({ claim, mark: markOf(claim, byName.get(claim.place)) }));
  const wrong = new Set(first.filter((m) => m.mark.kind === "wrong").map((m) => m.claim));
  return first.map(({ claim, mark }): Marked => {
    if (mark.kind !== "wrong") return { claim, mark };
    const place = byName.get(claim.place) as Place;
    const from = causeOf(claim, place, claims, wrong, byName);
    if (from) return { claim, mark: { kind: "follows", from } };
    return { claim, mark: { kind: "wrong", slip: slipOf(claim, place, places, network) } };
  });
}

function markOf(claim: Claim, place: Place | undefined): Mark {
  const truth = place?.truth[claim.of];
  if (truth === undefined) return { kind: "gone" };
  if (isSameAs(claim, truth)) return { kind: "right" };
  return isNearTo(claim, truth) ? { kind: "rounded", due: truth } : { kind: "wrong", slip: null };
}

/** Wrong figures from which this one follows by a rule that was used correctly; null where it does not. */
function causeOf(
  claim: Claim,
  place: Place,
  claims: readonly Claim[],
  wrong: ReadonlySet<Claim>,
  byName: ReadonlyMap<string, Place>,
): Claim[] | null {
  // What was written later was not used.
  const before = claims.slice(0, claims.indexOf(claim));
  const claimed = (name: string, of: Asked) => before.find((c) => c.place === name && c.of === of);
  /** A figure as the person has it, else as it is. */
  const have = (name: string, of: Asked): { readonly value: number; readonly claim: Claim | null } | null => {
    const own = claimed(name, of);
    const truth = byName.get(name)?.truth[of];
    if (own) return { value: Math.abs(own.value), claim: own };
    return truth === undefined ? null : { value: Math.abs(truth), claim: null };
  };
  const tries: (readonly [
    readonly ({ value: number; claim: Claim | null } | null)[],
    (v: readonly number[]) => number,
  ])[] = [];
  const own = (of: Asked) => have(place.name, of);
  const [V, I, R] = [own("volts"), own("amps"), own("ohms")];
  if (claim.of === "volts") tries.push([[I, R], ([i, r]) => i * r]);
  if (claim.of === "amps") tries.push([[V, R], ([v, r]) => v / r]);
  if (claim.of === "ohms") tries.push([[V, I], ([v, i]) => v / i]);
  if (claim.of === "watts")
    tries.push([[V, I], ([v, i]) => v * i], [[I, R], ([i, r]) => i * i * r], [[V, R], ([v, r]) => (v * v) / r]);
  for (const other of byName.values()) {
    const isHolder = other.parts.includes(place.name);
    const isHeld = place.parts.includes(other.name);
    // What is in series shares a current, what is parallel a voltage, with the composite and its other parts.
    const shares = (isHolder && other.combined) || (isHeld && place.combined) || null;
    if (shares === "series" && claim.of === "amps") tries.push([[have(other.name, "amps")], ([i]) => i]);
    if (shares === "parallel" && claim.of === "volts") tries.push([[have(other.name, "volts")], ([v]) => v]);
    if (!isHolder || !other.combined) continue;
    const rest = other.parts.filter((p) => p !== place.name);
    const sum = other.combined === "series" ? "volts" : "amps";
    if (claim.of === sum)
      tries.push([
        [have(other.name, sum), ...rest.map((p) => have(p, sum))],
        ([whole, ...parts]) => whole - parts.reduce((a, b) => a + b, 0),
      ]);
  }
  if (place.parts.length > 1 && claim.of === "ohms") {
    const held = place.parts.map((p) => have(p, "ohms"));
    tries.push([
      held,
      (r) => (place.combined === "series" ? r.reduce((a, b) => a + b, 0) : 1 / r.reduce((s, v) => s + 1 / v, 0)),
    ]);
  }
  // The whole current, wherever it runs, from the whole resistance: the last that was combined.
  const whole = byName.get("Total")?.truth;
  const carries =
    whole?.amps !== undefined && Math.abs(Math.abs(place.truth.amps ?? 0) - whole.amps) < 1e-9 * whole.amps;
  if (carries && claim.of === "amps")
    for (const { name, kind, truth } of byName.values())
      if (kind === "total" || (kind === "composite" && truth.ohms === whole.ohms))
        tries.push([[have("Total", "volts"), have(name, "ohms")], ([v, r]) => v / r]);
  for (const [inputs, rule] of tries) {
    if (inputs.some((i) => i === null)) continue;
    const used = inputs.flatMap((i) => (i?.claim && wrong.has(i.claim) ? [i.claim] : []));
    if (used.length === 0) continue;
    const value = rule(inputs.map((i) => i?.value ?? Number.NaN));
    const plain = { ...claim, value: Math.abs(claim.value), isSigned: false };
    if (Number.isFinite(value) && (isSameAs(plain, value) || isNearTo(plain, value))) return used;
  }
  return null;
}
