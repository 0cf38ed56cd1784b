import type { OpenSum, PointReach, SlipQuestion } from "@hound/core/coach";
import type { Configuration } from "@hound/core/configuration";
import { type NumericReading, UNIT_OF } from "@hound/core/record";
import { print } from "./print.ts";
import { placeOf, shown, valueOfReading } from "./quantities.ts";

/** What is asked beside an entry, and what the one key does about it. */
export interface AskedWords {
  readonly ask: string;
  readonly accept: string;
}

const AGAIN = "Take it again";

/** Of a figure that no single fault brings about. */
export function missedWords({ point, low, high }: PointReach): AskedWords {
  const unit = UNIT_OF[point.quantity];
  return {
    ask: `No single fault gives that at ${placeOf(point)}: ${print(low, unit, { digits: 3 })} to ${print(high, unit, { digits: 3 })}. Is it what the display shows?`,
    accept: AGAIN,
  };
}

export function questionWords({ kind, instead, part, flows }: SlipQuestion, typed: NumericReading): AskedWords {
  const accept = instead ? `Record ${placeOf(instead)} ${valueOfReading(instead)}` : AGAIN;
  const asked = (ask: string): AskedWords => ({ ask, accept });
  switch (kind) {
    case "sign":
      return asked(typed.value < 0 ? "Minus: were the leads swapped?" : "Plus: were the leads swapped?");
    case "direction":
      return asked(`Does it flow from ${flows?.from} to ${flows?.to}, or the other way?`);
    case "thousand":
      return asked(
        instead && Math.abs(instead.value) > Math.abs(typed.value)
          ? "A thousand times too small: which unit?"
          : "A thousand times too large: which unit?",
      );
    case "ten":
      return asked("Is the point one place off?");
    case "zero":
      return asked(
        typed.quantity === "current"
          ? "Nothing at all: no contact, too high a range, or the meter’s own fuse?"
          : "Nothing at all: no contact, both leads on one node, or too high a range?",
      );
    case "beyond":
      return asked("More than all supplies have together: is it what the display shows?");
    case "ampsAsVolts":
      return asked(`Is that the current through ${part}?`);
    case "voltsAsAmps":
      return asked(`Is that the voltage across ${part}?`);
    case "ammeterAcross":
      return asked(`Was the ammeter laid across ${part}, and not into its branch?`);
    case "sameNode":
      return asked("Next to nothing: were both leads on one node?");
    case "aboveOwn":
      return asked(
        `More than ${part} itself has; in circuit it can only be less. Then the part itself is bad, or the leads are.`,
      );
    case "fingers":
      return asked("Fingers on both tips? A body is about 100 kΩ beside it.");
    case "leads":
      return asked("Were the leads not nulled?");
    case "wholeSupply":
      return asked(`Is that all of ${part}’s voltage, and not a drop?`);
    default:
      return kind satisfies never;
  }
}

export function sumWords({ closure, readings, suspect }: OpenSum): AskedWords {
  const unit = closure.kind === "loop" ? "V" : "A";
  const left = shown(closure.residual, unit);
  const off =
    suspect && suspect !== readings[readings.length - 1]
      ? ` Most probably off: ${placeOf(suspect)} ${valueOfReading(suspect)}.`
      : "";
  return closure.kind === "loop"
    ? { ask: `Round ${closure.at.join("–")} ${left} are left over.${off}`, accept: AGAIN }
    : { ask: `At ${closure.at[0]} the currents leave ${left} over.${off}`, accept: AGAIN };
}

/** A branch is open, or the meter stands in it, and something else is read. */
export function inHandWords({ through }: NonNullable<Configuration["inHand"]>, now: "open" | "metered"): AskedWords {
  return {
    ask:
      now === "open"
        ? `${through}’s branch is still open. Read it so?`
        : `The meter still stands in ${through}’s branch. Read it so?`,
    accept: `Put ${through} back first`,
  };
}

/** `9.70 V against 12.00 V: 2.30 V apart, more than ± 120 mV` */
export function differenceWords(left: number, right: number, plusMinus: number | null, unit: "V" | "A"): string {
  const apart = Math.abs(left - right);
  const both = `${shown(left, unit)} against ${shown(right, unit)}`;
  if (plusMinus === null) return `${both}: ${shown(apart, unit, 3)} apart`;
  const within = apart <= plusMinus;
  return `${both}: ${shown(apart, unit, 3)} apart, ${within ? "within" : "more than"} ±\u00a0${shown(plusMinus, unit, 3)}`;
}
