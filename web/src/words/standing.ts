import { kindOfDesignator } from "@hound/core/circuit";
import { type Configuration, type Fact, factsOf } from "@hound/core/configuration";
import { print } from "./print.ts";

/** How the circuit stood, where it was not as drawn: “a lead of R3 lifted”, “S1 open”, “known-good F1”. */
export function standingWords(configuration: Configuration): string[] {
  return factsOf(configuration).flatMap(wordsOf);
}

function wordsOf(fact: Fact): string[] {
  switch (fact.is) {
    case "swapped":
      return [`known-good ${fact.part}`];
    case "lifted":
      return [`a lead of ${fact.part} lifted`];
    case "out":
      return [`${fact.part} taken out`];
    case "off":
      return [`${fact.part} off`];
    case "lever":
      return [`${fact.part} ${fact.position}`];
    case "value": {
      const unit = kindOfDesignator(fact.part) === "supply" ? "V" : "ohm";
      return [`${fact.part} now ${print(fact.value, unit, { digits: 3 })}`];
    }
    case "added": {
      const { ohms, from, to = "the reference" } = fact.added;
      return [`${print(ohms, "ohm", { digits: 3 })} between ${from} and ${to}`];
    }
    case "meter":
      return [`a meter left ${"through" in fact.meter ? `in ${fact.meter.through}` : `at ${fact.meter.from}`}`];
    case "cleared":
      return [`bridge ${fact.nodes.join("–")} cleared`];
    case "leads":
      return [`${print(fact.ohms, "ohm", { digits: 3 })} of leads taken off`];
    // The line itself says which step a branch in hand is at.
    case "inHand":
      return [];
    default:
      return fact satisfies never;
  }
}
