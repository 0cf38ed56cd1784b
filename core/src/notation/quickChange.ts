import type { NodeName, Part } from "../circuit/index.ts";
import type { ChangeOfCircuit } from "../configuration/index.ts";
import { parseQuantity, printQuantity } from "../units/index.ts";

/** What a change is of: a part, or the place between two nodes. */
export type Changed =
  | { readonly kind: "part"; readonly part: Part }
  | { readonly kind: "nodes"; readonly from: NodeName; readonly to?: NodeName };

export interface QuickChange {
  readonly change: ChangeOfCircuit;
  readonly echo: string;
}

const WORDS = {
  swapped: "replaced by a known-good part, from here on",
  open: "switched open, from here on",
  closed: "switched closed, from here on",
  lifted: "one lead lifted, from here on",
  out: "taken out, from here on",
  off: "switched off, from here on",
  metered: "a meter stays in its branch, from here on",
  restored: "back as drawn, from here on",
} as const;
const PAIR_WORDS = {
  metered: "a meter stays across them, from here on",
  cleared: "what joined them is cleared, from here on",
  restored: "nothing put between them any more, from here on",
} as const;

/** True of words that may say a change, `now` with a value behind it. */
export function isChangeWord(word: string): boolean {
  return word in WORDS || word in PAIR_WORDS || word === "now" || word === "on";
}

/**
 * A change of the circuit: `R3 lifted`, `S1 open`, `R2 now 2k`, `C-D now 1k`, `R4 out`.
 * @returns what is wrong with it as a text
 */
export function readChange(of: Changed, word: string, values: readonly string[]): QuickChange | string {
  if (word === "now") return readNow(of, values.join(""));
  if (values.length > 0) return `“${values[0]}” is one word too many behind ${word}`;
  if (of.kind === "nodes") {
    if (word === "cleared" && of.to !== undefined)
      return {
        change: { from: of.from, to: of.to, change: word },
        echo: `${of.from} to ${of.to}: ${PAIR_WORDS[word]}`,
      };
    if (word !== "metered" && word !== "restored")
      return `two nodes are not ${word}; write the part, such as R3 ${word}`;
    const place = placeOf(of);
    return { change: { ...place, change: word }, echo: `${of.from} to ${of.to ?? "reference"}: ${PAIR_WORDS[word]}` };
  }
  const { part } = of;
  if (word === "cleared") return `two nodes are cleared of what joins them; write them, such as A-D cleared`;
  const isLever = part.kind === "switch";
  if (isLever && (word === "on" || word === "off")) return readChange(of, word === "on" ? "closed" : "open", []);
  const change = (word === "on" ? "restored" : word) as keyof typeof WORDS;
  if ((change === "open" || change === "closed") && !isLever)
    return `only a switch is ${change}; for a reading over the range write ${part.designator} OL`;
  if ((change === "off" || word === "on") && part.kind !== "supply") return `only a supply is switched ${word}`;
  return { change: { part: part.designator, change }, echo: `${part.designator} ${WORDS[change]}` };
}

function readNow(of: Changed, text: string): QuickChange | string {
  const read = parseQuantity(text);
  if (text === "" || read.kind === "mistake")
    return `now what? write the value it has from here on, such as now 2k${read.kind === "mistake" && text ? ` (${read.why})` : ""}`;
  const wanted = of.kind === "part" && of.part.kind === "supply" ? "V" : "ohm";
  if (read.unit !== null && read.unit !== wanted) return `a value in ${wanted === "V" ? "volts" : "ohms"} belongs here`;
  if (!(read.value > 0)) return "the value is above zero";
  const shown = printQuantity(read.value, wanted, { digits: 4 });
  if (of.kind === "part")
    return {
      change: { part: of.part.designator, change: "now", value: read.value },
      echo: `${of.part.designator} is ${shown} on purpose, from here on`,
    };
  return {
    change: { ...placeOf(of), change: "now", value: read.value },
    echo: `${shown} between ${of.from} and ${of.to ?? "the reference"}, from here on`,
  };
}

function placeOf({ from, to }: Extract<Changed, { kind: "nodes" }>) {
  return { from, ...(to === undefined ? {} : { to }) };
}
