import type { Fact } from "@hound/core/reduce";
import type { Unit } from "@hound/core/units";
import { shown } from "./quantities.ts";

const UNITS: Readonly<Record<Fact["of"], Unit>> = { volts: "V", amps: "A", ohms: "ohm", emf: "V" };

/** `V(R1)`, `I(R2)`, `R1`, `E(BT1)`; volts between two points by their names. */
function symbolOf({ of, name }: Fact, letter: "E" | "V"): string {
  if (of === "ohms") return name;
  if (of === "emf") return `${letter}(${name})`;
  return `${of === "volts" ? "V" : "I"}(${name})`;
}

const figureOf = (fact: Fact) => shown(fact.value, UNITS[fact.of], 4);

/** One step of a sum on paper: what it is, by which rule, with the numbers. */
export function deducedWords(fact: Fact, letter: "E" | "V"): string {
  const { of, rule, using } = fact;
  const own = symbolOf(fact, letter);
  const is = figureOf(fact);
  const [first, second] = using.map((t) => t.fact);
  const signed = (say: (f: Fact) => string) =>
    using.map(({ fact: f, sign }, i) => `${sign < 0 ? "− " : i > 0 ? "+ " : ""}${say(f)}`).join(" ");
  const terms = `${signed((f) => symbolOf(f, letter))} = ${signed(figureOf)}`;
  switch (rule) {
    case "drawn":
      return `${own} = ${is}, as drawn`;
    case "read":
      return `${own} = ${is}, read`;
    case "ohm": {
      const sign = of === "volts" ? "×" : "÷";
      return `${own} = ${symbolOf(first, letter)} ${sign} ${symbolOf(second, letter)} = ${figureOf(first)} ${sign} ${figureOf(second)} = ${is}`;
    }
    case "series":
      return `${own} = ${using[0].sign < 0 ? "−" : ""}${symbolOf(first, letter)} = ${is}: one current, in series`;
    case "parallel":
      return `${own} = ${using[0].sign < 0 ? "−" : ""}${symbolOf(first, letter)} = ${is}: the same two nodes`;
    case "junction":
      return `${own} = ${terms} = ${is}: what flows in flows out`;
    case "loop":
      return `${own} = ${terms} = ${is}: round the loop`;
    case "sum":
      return `${own} = ${terms} = ${is}: in series`;
    case "beside":
      return `${own} = ${using.map((t) => t.fact.name).join(" ∥ ")} = ${is}: in parallel`;
    case "source":
      if (!second) return `${own} = ${symbolOf(first, letter)} = ${is}: nothing is lost inside`;
      return of === "emf"
        ? `${own} = ${symbolOf(first, letter)} + ${symbolOf(second, letter)} × its inside = ${is}`
        : `${own} = ${symbolOf(first, letter)} − ${symbolOf(second, letter)} × its inside = ${is}`;
    default:
      return rule satisfies never;
  }
}

/** The step without its result: `R(Ra) = R3 + R4, in series`. */
export function ruleWords(fact: Fact, letter: "E" | "V"): string {
  const [body, reason] = deducedWords(fact, letter).split(/: (?=[a-z])/);
  const [own, symbols] = body.split(" = ");
  return `${own} = ${symbols}${reason ? `, ${reason}` : ""}`;
}
