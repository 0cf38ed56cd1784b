import fc from "fast-check";
import { describe, expect, it } from "vitest";
import type { Circuit, NodeName, Part } from "../../circuit/index.ts";
import { anyCircuit, anyPart } from "../../test/arbitrary/circuits.ts";
import { examples } from "../../test/examples.ts";
import { differences } from "../difference.ts";
import { readTrail, writePart, writeTrail } from "../trail/index.ts";
import { formatTrail, setWord, troubleWith, type WordRole, withFreeDesignators, wordsOfPart } from "./index.ts";

const sound = (text: string) => readTrail(text).circuit as Circuit;
const partIn = (text: string, designator: string) => sound(text).parts.find((p) => p.designator === designator) as Part;

/** What a role says of a part, and a word that says something new. */
const CHANGES: readonly {
  role: WordRole;
  word: string;
  fits: (p: Part) => boolean;
  now: (p: Part) => unknown;
  wanted: unknown;
}[] = [
  { role: "tolerance", word: "3%", fits: () => true, now: (p) => p.tolerance, wanted: 0.03 },
  { role: "note", word: 'note="mended twice"', fits: () => true, now: (p) => p.note, wanted: "mended twice" },
  {
    role: "power",
    word: "7W",
    fits: (p) => !("resistance" in p && p.resistance.by === "rating"),
    now: (p) => p.powerRating,
    wanted: 7,
  },
  { role: "current", word: "9A", fits: (p) => p.kind !== "supply", now: (p) => p.currentRating, wanted: 9 },
  {
    role: "internalResistance",
    word: "ri=0.77",
    fits: (p) => p.kind === "supply",
    now: (p) => (p.kind === "supply" ? p.internalOhms : null),
    wanted: 0.77,
  },
  {
    role: "limit",
    word: "limit=3A",
    fits: (p) => p.kind === "supply",
    now: (p) => (p.kind === "supply" ? p.limit : null),
    wanted: 3,
  },
  {
    role: "position",
    word: "open",
    fits: (p) => p.kind === "switch",
    now: (p) => (p.kind === "switch" ? p.position : null),
    wanted: "open",
  },
  {
    role: "at",
    word: "at=25%",
    fits: (p) => p.kind === "potentiometer",
    now: (p) => (p.kind === "potentiometer" ? p.at : null),
    wanted: 0.25,
  },
];

describe("one word of a part", () => {
  it("says what it says for every kind, changes nothing else, and goes without a trace", () => {
    fc.assert(
      fc.property(
        anyPart(1, "A" as NodeName, "B" as NodeName),
        fc.constantFrom(...CHANGES),
        (part, { role, word, fits, now, wanted }) => {
          if (!fits(part)) return;
          const text = `# before\n[A] ${writePart(part)} [B]  # behind\n[A] R99 5 [B]`;
          const edited = setWord(readTrail(text), part.designator, role, word);
          if (edited.kind !== "edited") throw new Error(`${edited.why}: ${text}`);
          const after = partIn(edited.text, part.designator);
          expect(now(after)).toBe(wanted);
          expect(edited.text.split("\n").map((l) => l.replace(/ ?\S*$/, "")).length).toBe(3);
          expect(edited.text).toContain("# before");
          expect(edited.text).toContain("# behind");
          expect(partIn(edited.text, "R99")).toEqual(partIn(text, "R99"));
          const roles = wordsOfPart(readTrail(edited.text), part.designator).map((w) => w.role);
          expect(roles.filter((r) => r === role)).toHaveLength(1);
          const gone = setWord(readTrail(edited.text), part.designator, role, "");
          // A fuse's rated current is also what its own resistance follows from.
          if (gone.kind !== "edited") throw new Error(gone.why);
          expect(wordsOfPart(readTrail(gone.text), part.designator).map((w) => w.role)).not.toContain(role);
        },
      ),
      examples(300),
    );
  });

  it("is asked for as a part or a stretch of parts, with designators that are free", () => {
    const trail = readTrail("BT1 9V: R1 1k + R2 2k");
    for (const words of ["R3 470 1%", "R3 1k + R4 1k", "(R3 1k | R4 1k)"]) expect(troubleWith(trail, words)).toBeNull();
    for (const [words, why] of [
      ["R1 470", /used already/],
      ["R3", /no value/],
      ["R3 1k + R2 1k", /R2 is used already/],
      ["R3 1k + [X] R4 1k", /write a part/],
      ["R3 1k [X]", /side by side|write a part/],
      ["hello", /no part|hello/],
    ] as const)
      expect(troubleWith(trail, words), words).toMatch(why);
  });

  it("takes other designators where its own are in use", () => {
    const trail = readTrail("BT1 9V: R1 1k + R2 2k + DS1 12V 5W");
    for (const [words, taken] of [
      ["(R1 10 1% | R4 20)", "(R3 10 1% | R4 20)"],
      ["R1 1k + R3 2k + R2 3k", "R4 1k + R3 2k + R5 3k"],
      ["DS1 6V 3W", "DS2 6V 3W"],
      ["BT1 5V 0% ri=0: [P] R7 10", "BT2 5V 0% ri=0: [P] R7 10"],
    ])
      expect(withFreeDesignators(trail, words)).toBe(taken);
  });
});

describe("whole trails", () => {
  it("keep every part through formatting, and differ from themselves in nothing", () => {
    fc.assert(
      fc.property(anyCircuit, (circuit) => {
        const text = writeTrail(circuit);
        const spaced = text.replace(/ (?=\[)/g, "   ");
        const tidy = formatTrail(readTrail(spaced));
        expect(sound(tidy).parts).toEqual(sound(text).parts);
        expect(formatTrail(readTrail(tidy))).toBe(tidy);
        expect(differences(sound(text), sound(tidy))).toEqual([]);
      }),
      examples(120),
    );
  });

  it("differ by exactly the parts that were touched", () => {
    fc.assert(
      fc.property(anyCircuit, fc.nat(), fc.nat(), (circuit, one, other) => {
        const { parts } = circuit;
        const [gone, moved] = [parts[one % parts.length], parts[other % parts.length]];
        const after = {
          ...circuit,
          parts: parts.filter((p) => p !== gone).map((p) => (p === moved ? { ...p, from: "N77" as NodeName } : p)),
        };
        const found = differences(circuit, after);
        const kinds = new Map(found.map((d) => [d.designator, d.kind]));
        expect(kinds.get(gone.designator)).toBe("removed");
        if (moved !== gone) expect(kinds.get(moved.designator)).toBe("changed");
        expect(kinds.size).toBe(moved === gone ? 1 : 2);
        expect(
          differences(after, circuit)
            .map((d) => d.designator)
            .sort(),
        ).toEqual(found.map((d) => d.designator).sort());
      }),
      examples(150),
    );
  });
});
