import type { Configuration, Reading } from "./reading.ts";

/** Something that changes how the circuit stands, from here on; `restored` puts a part back as drawn. */
export interface ChangeOfCircuit {
  readonly part: string;
  readonly change: "swapped" | "open" | "closed" | "lifted" | "restored";
}

/** How the circuit stands after a change. */
export function afterChange(standing: Configuration, { part, change }: ChangeOfCircuit): Configuration {
  const { switches = {}, lifted = [], swapped = [], ...rest } = standing;
  const without = (names: readonly string[]) => names.filter((name) => name !== part);
  const others = Object.fromEntries(Object.entries(switches).filter(([name]) => name !== part));
  const moved = change === "open" || change === "closed" ? { ...others, [part]: change } : others;
  const kept = change === "restored" ? { switches: others, swapped: without(swapped) } : { switches: moved, swapped };
  return tidy({
    ...rest,
    switches: kept.switches,
    // A known-good part comes in with both leads on.
    lifted:
      change === "lifted"
        ? [...without(lifted), part]
        : change === "open" || change === "closed"
          ? lifted
          : without(lifted),
    swapped: change === "swapped" ? [...without(swapped), part] : kept.swapped,
  });
}

/** A reading's own state on top of how the circuit stands anyway. */
export function standingWith(standing: Configuration, own: Configuration = {}): Configuration {
  const both = (key: "lifted" | "swapped" | "off") => [...new Set([...(standing[key] ?? []), ...(own[key] ?? [])])];
  return tidy({
    ...standing,
    ...own,
    switches: { ...standing.switches, ...own.switches },
    lifted: both("lifted"),
    swapped: both("swapped"),
    off: both("off"),
    meters: [...(standing.meters ?? []), ...(own.meters ?? [])],
  });
}

/** A reading as taken of the circuit as it stands. */
export function takenSo<R extends Reading>(reading: R, standing: Configuration): R {
  const state = standingWith(standing, reading.state);
  return Object.keys(state).length > 0 ? { ...reading, state } : reading;
}

/** The parts whose state is not as drawn. */
export function partsNotAsDrawn({ switches = {}, lifted = [], swapped = [], off = [] }: Configuration): string[] {
  return [...new Set([...swapped, ...lifted, ...Object.keys(switches), ...off])];
}

/** Nothing is said of what is as drawn. */
function tidy(standing: Configuration): Configuration {
  return Object.fromEntries(
    Object.entries(standing).filter(([, value]) => value !== undefined && Object.keys(value as object).length > 0),
  );
}
