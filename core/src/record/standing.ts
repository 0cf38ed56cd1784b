import type { NodeName } from "../circuit/index.ts";
import { stateOfBranch } from "./inHand.ts";
import { pairKey } from "./place.ts";
import type { Configuration, Reading } from "./reading.ts";

/** Something that changes how the circuit stands, from here on; `restored` puts it back as drawn. */
export type ChangeOfCircuit =
  | {
      readonly part: string;
      readonly change: "swapped" | "open" | "closed" | "lifted" | "out" | "off" | "metered" | "restored";
    }
  /** Another value on purpose: ohms, volts of a supply. */
  | { readonly part: string; readonly change: "now"; readonly value: number }
  /** A resistance or a meter between two nodes; `restored` takes either away. Without `to`, to the reference. */
  | { readonly from: NodeName; readonly to?: NodeName; readonly change: "now"; readonly value: number }
  | { readonly from: NodeName; readonly to?: NodeName; readonly change: "metered" | "restored" }
  /** A stray bridge between two nodes is cleared; `restored` takes that back. */
  | { readonly from: NodeName; readonly to: NodeName; readonly change: "cleared" }
  /** Ohms of the leads held together, taken off every later ohms reading. */
  | { readonly change: "leads"; readonly value: number };

/** How the circuit stands after a change. */
export function afterChange(standing: Configuration, change: ChangeOfCircuit): Configuration {
  if (change.change === "leads") return tidy({ ...standing, leads: change.value });
  return "part" in change ? afterPart(standing, change) : afterPair(standing, change);
}

function afterPart(
  standing: Configuration,
  change: Extract<ChangeOfCircuit, { readonly part: string }>,
): Configuration {
  const { part } = change;
  const without = (names: readonly string[] = []) => names.filter((name) => name !== part);
  const with_ = (names: readonly string[] = []) => [...without(names), part];
  const { lifted, swapped, out, off, switches, values, meters } = standing;
  const others = <T>(record: Readonly<Record<string, T>> = {}) =>
    Object.fromEntries(Object.entries(record).filter(([name]) => name !== part));
  const elsewhere = (meters ?? []).filter((m) => !("through" in m && m.through === part));
  switch (change.change) {
    case "open":
    case "closed":
      return tidy({ ...standing, switches: { ...others(switches), [part]: change.change } });
    case "lifted":
      return tidy({ ...standing, lifted: with_(lifted) });
    case "off":
      return tidy({ ...standing, off: with_(off) });
    case "metered":
      return tidy({ ...standing, meters: [...elsewhere, { through: part }] });
    case "out":
      return tidy({ ...standing, out: with_(out), lifted: without(lifted) });
    // A known-good part, or one of another value, comes in with both leads on.
    case "swapped":
      return tidy({
        ...standing,
        swapped: with_(swapped),
        lifted: without(lifted),
        out: without(out),
        values: others(values),
      });
    case "now":
      return tidy({
        ...standing,
        values: { ...others(values), [part]: change.value },
        lifted: without(lifted),
        out: without(out),
      });
    case "restored":
      return tidy({
        ...standing,
        swapped: without(swapped),
        lifted: without(lifted),
        out: without(out),
        off: without(off),
        values: others(values),
        switches: others(switches),
        meters: elsewhere,
      });
    default:
      return change satisfies never;
  }
}

function afterPair(
  standing: Configuration,
  change: Extract<ChangeOfCircuit, { readonly from: NodeName }>,
): Configuration {
  const { from, to } = change;
  const here = pairKey(from, to);
  const isHere = (one: object) => "from" in one && pairKey(String(one.from), (one as { to?: string }).to) === here;
  const place = { from, ...(to === undefined ? {} : { to }) };
  const added = (standing.added ?? []).filter((a) => !isHere(a));
  const meters = (standing.meters ?? []).filter((m) => !isHere(m));
  const cleared = (standing.cleared ?? []).filter((pair) => pairKey(...pair) !== here);
  switch (change.change) {
    case "now":
      return tidy({ ...standing, added: [...added, { ...place, ohms: change.value }] });
    case "metered":
      return tidy({ ...standing, meters: [...meters, place] });
    case "cleared":
      return tidy({ ...standing, cleared: [...cleared, [from, change.to]] });
    case "restored":
      return tidy({ ...standing, added, meters, cleared });
    default:
      return change satisfies never;
  }
}

/** A reading's own state on top of how the circuit stands anyway. */
export function standingWith(standing: Configuration, own: Configuration = {}): Configuration {
  const both = (key: "lifted" | "swapped" | "off" | "out") => [
    ...new Set([...(standing[key] ?? []), ...(own[key] ?? [])]),
  ];
  return tidy({
    ...standing,
    ...own,
    switches: { ...standing.switches, ...own.switches },
    values: { ...standing.values, ...own.values },
    lifted: both("lifted"),
    swapped: both("swapped"),
    off: both("off"),
    out: both("out"),
    added: [...(standing.added ?? []), ...(own.added ?? [])],
    meters: [...(standing.meters ?? []), ...(own.meters ?? [])],
    cleared: [...(standing.cleared ?? []), ...(own.cleared ?? [])],
  });
}

/** A reading as taken of the circuit as it stands. */
export function takenSo<R extends Reading>(reading: R, { leads: _, ...now }: Configuration): R {
  // The meter that stands in a branch to read it is no other one.
  const isOwn = reading.quantity === "current" && reading.through === now.inHand?.through;
  const { inHand: __, ...standing } = isOwn ? now : stateOfBranch(now);
  const state = standingWith(standing, reading.state);
  return Object.keys(state).length > 0 ? { ...reading, state } : reading;
}

/** The parts whose state is not as drawn. */
export function partsNotAsDrawn({
  switches = {},
  values = {},
  lifted = [],
  swapped = [],
  off = [],
  out = [],
}: Configuration): string[] {
  return [...new Set([...swapped, ...lifted, ...out, ...Object.keys(switches), ...Object.keys(values), ...off])];
}

/** Nothing is said of what is as drawn. */
function tidy(standing: Configuration): Configuration {
  return Object.fromEntries(
    Object.entries(standing).filter(
      ([, value]) => value !== undefined && (typeof value !== "object" || Object.keys(value as object).length > 0),
    ),
  );
}
