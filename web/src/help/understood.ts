import { buildNetwork } from "@hound/core/circuit";
import { askedSum } from "@hound/core/coach";
import { EXAMPLE_CIRCUIT } from "@hound/core/help";
import { type Proposal, readQuick, readTrail } from "@hound/core/notation";
import { meterData } from "@hound/core/record";
import { readSupposed } from "@hound/core/whatif";
import { kindsIn, nameOfSuspect } from "../words/faults.ts";
import type { Language } from "./topics.ts";

/** What is made of a line; `isMistake` where it cannot be read. */
export interface Understood {
  readonly words: string;
  readonly isMistake: boolean;
}

const { circuit } = readTrail(EXAMPLE_CIRCUIT);
const network = circuit && buildNetwork(circuit);
/** Where a bare figure goes in the examples. */
const PROPOSED = { quantity: "voltage", from: "B" } as Proposal;

/** How a line is understood, on the examples' circuit. */
export function understood(language: Language, line: string): Understood {
  const mistake = (words: string): Understood => ({ words, isMistake: true });
  const fine = (words: string): Understood => ({ words, isMistake: false });
  if (line.trim() === "" || !circuit || !network) return fine("");
  switch (language) {
    case "reading": {
      if (/^[-−]$/.test(line.trim())) return fine("takes back what was recorded last");
      const read = readQuick(line, circuit, PROPOSED);
      if (read.kind === "mistake") {
        const sum = askedSum(line, network, [], meterData(undefined), {});
        return sum ? fine("a sum of what was read: on the bench its terms are looked up") : mistake(read.message);
      }
      if (read.kind === "empty") return fine("");
      return fine(read.kind === "asked" ? `proposes ${read.echo}` : `records ${read.echo}`);
    }
    case "trail": {
      const { circuit: own, mistakes } = readTrail(line);
      const [first] = mistakes;
      if (first) return mistake(`line ${first.line}, column ${first.column}: ${first.message}`);
      if (!own) return fine("");
      const parts = own.parts.map((p) => p.designator);
      return fine(`${parts.length} ${parts.length === 1 ? "part" : "parts"}: ${parts.join(", ")}`);
    }
    case "fault": {
      const read = readSupposed(line, network);
      if (read.kind === "mistake") return mistake(read.message);
      const faults = read.faults.map((fault) => nameOfSuspect({ faults: [fault] }, kindsIn(network), true));
      return fine(`supposes ${faults.join(", and ")}`);
    }
    default:
      return language satisfies never;
  }
}
