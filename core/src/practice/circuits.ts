import type { Help } from "./hunt.ts";
import type { FaultKind } from "./world.ts";

/** A circuit to begin with, and what is hidden in it. */
export interface FirstCircuit {
  readonly key: string;
  readonly title: string;
  /** What it teaches. */
  readonly about: string;
  readonly trail: string;
  readonly kinds: readonly FaultKind[];
  readonly parts: readonly string[];
  readonly help: Help;
}

/** Hunts in the order one learns by; the first one is how a newcomer gets to know the product. */
export const FIRST_CIRCUITS: readonly FirstCircuit[] = [
  {
    key: "three-lamps",
    title: "Three lamps, one dark",
    about: "Volts before and behind a part tell whether it is the part or what feeds it.",
    trail:
      "title Three lamps over the potting bench\nBT1 12V ri=0.2: F1 2A + [A] (J1 + [B] LA1 12V 5W | J2 + [C] LA2 12V 5W | J3 + [D] LA3 12V 5W)",
    kinds: ["open"],
    parts: ["LA1", "LA2", "LA3", "J1", "J2", "J3"],
    help: "all",
  },
  {
    key: "string",
    title: "A string in a row, all dark",
    about: "All of the supply lies across what is open. Halve the string.",
    trail:
      "title String over the seed trays\nBT1 12V ri=0.3: F1 2A + [A] LA1 6ohm 10% + [B] LA2 6ohm 10% + [C] LA3 6ohm 10% + [D] J1",
    kinds: ["open"],
    parts: [],
    help: "all",
  },
  {
    key: "relay",
    title: "A relay that does not pull",
    about: "A contact that is no contact drops volts only while current flows.",
    trail: "title Relay of the mist valve\nBT1 24V 2% ri=0.4: F1 1A + [A] J1 + [B] R1 120 5% + [C] K1 240 10% + [D] J2",
    kinds: ["open", "drift"],
    parts: [],
    help: "hints",
  },
  {
    key: "divider",
    title: "A threshold that wandered",
    about: "A value that drifted moves every node a little: ohms or a current tell which one it is.",
    trail:
      "title Threshold of the frost alarm\nPS1 12V 2% ri=0.1: [P] R1 4.7k 5% + [A] (R2 10k 5% | R3 3.3k 5% + [B] R4 2.2k 5%) + [C] R5 1k 5%",
    kinds: ["drift"],
    parts: [],
    help: "hints",
  },
];
