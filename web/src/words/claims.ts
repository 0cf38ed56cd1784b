import {
  type Asked,
  type Claim,
  type EquationMark,
  type Mark,
  type Place,
  type Slip,
  UNIT_ASKED,
} from "@hound/core/claims";
import { shown } from "./quantities.ts";

const SYMBOLS: Readonly<Record<Asked, string>> = { volts: "V", amps: "I", ohms: "R", watts: "P" };

/** `V(R1)`, `R of Ra`, `V at B`. */
export function claimName({ place, of }: Pick<Claim, "place" | "of">): string {
  if (place.includes(" to ")) return `V from ${place}`;
  return place.startsWith("at ") ? `V ${place}` : of === "ohms" ? `R of ${place}` : `${SYMBOLS[of]}(${place})`;
}

/** What probably went wrong, as one would say it to a colleague. */
export function slipWords({ kind, by = "" }: Slip, { of, place }: Claim): string {
  switch (kind) {
    case "subscript":
      return `this is ${claimName({ place: by, of })}`;
    case "composite":
      return `this is ${claimName({ place: by, of })}: a composite’s figure is its own, and its parts share it`;
    case "wholeSupply":
      return of === "volts" ? "the whole supply, taken for one part’s drop" : "the whole supply over one part’s ohms";
    case "totalCurrent":
      return of === "amps" ? "the whole current; here it has divided" : "worked out with the whole current";
    case "notTurnedBack":
      return "the sum of the reciprocals, not turned back: 1 ÷ this";
    case "productOverSum":
      return "product over sum goes for two at a time; here are more";
    case "seriesForParallel":
      return "added up, as if in series; they are parallel";
    case "parallelForSeries":
      return "as if parallel; they are in series and add up";
    case "leftOut":
      return `${by} is left out`;
    case "decimal":
      return "the decimal point: ten times off";
    case "prefix":
      return "the prefix: a thousand times off";
    case "powerPair":
      return by === ""
        ? "volts and amperes of different things"
        : `with a figure of ${by}: V and I are both of ${place}`;
    case "notSquared":
      return "I × R are volts, V ÷ R amperes: squared it is power";
    case "direction":
      return "the other way round: its sign";
    case "ohmsUpsideDown":
      return "R ÷ V; it is V ÷ R";
    case "halved":
      return "halved, as if the two were alike";
    default:
      return kind satisfies never;
  }
}

/** What becomes of a figure: its mark in a word, and what is to be said of it besides. */
export function markWords({ claim, mark }: { claim: Claim; mark: Mark }): {
  readonly word: string;
  readonly more: string;
} {
  switch (mark.kind) {
    case "right":
      return { word: "right", more: "" };
    case "rounded":
      return { word: "right within rounding", more: `${shown(Math.abs(mark.due), UNIT_ASKED[claim.of])} exactly` };
    case "follows":
      return {
        word: "follows",
        more: `right from your ${mark.from.map((c) => `${claimName(c)} ${c.typed}`).join(" and ")}`,
      };
    case "wrong":
      return { word: "wrong", more: mark.slip ? slipWords(mark.slip, claim) : "" };
    case "gone":
      return { word: "not in this circuit any more", more: "" };
    default:
      return mark satisfies never;
  }
}

export function equationWords(mark: EquationMark): string {
  switch (mark.kind) {
    case "holds":
      return "holds";
    case "sign":
      return `does not hold: the sign of ${mark.of}`;
    case "missing":
      return `does not hold: ${mark.of} is missing`;
    case "foreign":
      return `does not hold: ${mark.of} is of another junction or loop`;
    case "wrong":
      return Number.isFinite(mark.residual)
        ? `does not hold: ${shown(mark.residual, "V", 3).replace(/\sV$/, "")} left over`
        : "cannot be told";
    default:
      return mark satisfies never;
  }
}

/** What a place is, beside its name: `R3 and R4 in series`. */
export function placeWords({ kind, parts, combined }: Place): string {
  if (kind !== "composite") return "";
  return `${parts.join(combined === "series" ? " + " : " ∥ ")}`;
}
