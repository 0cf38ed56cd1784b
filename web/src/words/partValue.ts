import { MATERIALS, type Part, rowOf } from "@hound/core/circuit";
import { print } from "./print.ts";

/** `red`, `5.1 V`, `100 µF 25 V`; silicon need not be said. */
export function valueLabel(part: Extract<Part, { material: unknown } | { kind: "capacitor" }>): string {
  if ("material" in part) {
    const { material: usual, breaksDown, works } = rowOf(part.kind);
    const isUsual = !breaksDown && part.volts === MATERIALS[part.material].volts;
    const word = part.material === usual && works !== "shines" ? "" : part.material;
    return [word, isUsual ? "" : print(part.volts, "V")].filter((w) => w !== "").join(" ");
  }
  return [
    part.farads === undefined ? "" : printFarads(part.farads),
    part.voltRating === undefined ? "" : print(part.voltRating, "V"),
  ]
    .filter((w) => w !== "")
    .join(" ");
}

const FARADS: readonly (readonly [number, string])[] = [
  [1, "F"],
  [1e-3, "mF"],
  [1e-6, "µF"],
  [1e-9, "nF"],
  [1e-12, "pF"],
];
export function printFarads(farads: number): string {
  const [scale, unit] = FARADS.find(([s]) => farads >= s) ?? [1e-12, "pF"];
  // Nobody says millifarads of what stands on the can in microfarads.
  const [s, u] = unit === "mF" ? ([1e-6, "µF"] as const) : [scale, unit];
  return `${Number((farads / s).toPrecision(4))}\u00a0${u}`;
}
