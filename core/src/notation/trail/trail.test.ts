import fc from "fast-check";
import { describe, expect, it } from "vitest";
import type { Circuit } from "../../circuit/index.ts";
import { seededRandom } from "../../simulate/index.ts";
import { anyCircuit } from "../../test/arbitrary/circuits.ts";
import { examples } from "../../test/examples.ts";
import { applyEdits, mendAll, nameNode, pinNode, readTrail, writePart, writeTrail } from "../index.ts";
import { Lines, positionAt } from "../mistake.ts";

const VENT = `title Greenhouse vent drive, sensor rail
BT1 24V 2% ri=0.3: F1 1A + [A] R1 220 5% + [B] (R2 1k 5% | R3 470 2% + [C] R4 330 5%) + [D] R5 100 1% 0.5W
[B] R9 10k 5% [D]            # anything that does not fit one trail is another line between two nodes
`;

function sound(text: string): Circuit {
  const { circuit, mistakes } = readTrail(text);
  if (!circuit) throw new Error(mistakes.map((m) => `${m.line}:${m.column} ${m.message}`).join("\n"));
  return circuit;
}

const mistakesOf = (text: string) => readTrail(text).mistakes.map((m) => `${m.line}:${m.column} ${m.message}`);
const endsOf = (text: string) => sound(text).parts.map((p) => `${p.designator} ${p.from} ${p.to}`);

describe("the trail", () => {
  it("reads the circuit a finger followed", () => {
    expect(endsOf(VENT)).toEqual(["BT1 + 0", "F1 + A", "R1 A B", "R2 B D", "R3 B C", "R4 C D", "R5 D 0", "R9 B D"]);
    const { parts, title, reference } = sound(VENT);
    expect(title).toBe("Greenhouse vent drive, sensor rail");
    expect(reference).toBe("0");
    expect(parts[0]).toMatchObject({ volts: 24, tolerance: 0.02, internalOhms: 0.3 });
    expect(parts[6]).toMatchObject({ tolerance: 0.01, powerRating: 0.5 });
  });

  it("writes any circuit so that it reads back equal", () => {
    fc.assert(
      fc.property(anyCircuit, (circuit) => {
        expect(sound(writeTrail(circuit))).toEqual(circuit);
      }),
      examples(200),
    );
  });

  it("loses no character: the tokens joined are the text", () => {
    const pieces = fc.constantFrom(
      "BT1",
      "R1",
      " ",
      "\n",
      "(",
      "|",
      ")",
      "[A]",
      "+",
      ":",
      "#x",
      '"',
      "4k7",
      "title t",
      "é",
      "[",
      "=",
    );
    fc.assert(
      fc.property(fc.array(pieces, { maxLength: 30 }), (words) => {
        const text = words.join("");
        expect(
          readTrail(text)
            .tokens.map((t) => t.text)
            .join(""),
        ).toBe(text);
      }),
      examples(300),
    );
  });

  it("survives any damage, and every mistake says where it is", () => {
    const random = seededRandom(4);
    const alphabet = 'R1 BT2()|[]+:#=%"\n.kMVΩ−';
    for (let round = 0; round < 600; round += 1) {
      let text = VENT;
      for (let hit = 0; hit < 1 + random.next() * 4; hit += 1) {
        const at = Math.floor(random.next() * text.length);
        const length = Math.floor(random.next() * 5);
        text = text.slice(0, at) + alphabet[Math.floor(random.next() * alphabet.length)] + text.slice(at + length);
      }
      const { mistakes, circuit, tokens } = readTrail(text);
      expect(tokens.map((t) => t.text).join("")).toBe(text);
      const lines = text.split("\n");
      for (const m of mistakes) {
        expect(m.message.length).toBeGreaterThan(10);
        expect(m.from).toBeLessThanOrEqual(m.to);
        expect(m.column).toBeGreaterThanOrEqual(1);
        expect(m.column).toBeLessThanOrEqual(lines[m.line - 1].length + 1);
        // Nobody is left without a way on.
        expect(m.fix, `${m.message} in\n${text}`).toBeDefined();
        expect(applyEdits(text, m.fix?.edits ?? [])).not.toBe(text);
      }
      expect(circuit === null).toBe(mistakes.some((m) => m.severity === "mistake"));
    }
  });

  it("reports all five mistakes of one text, each in its place", () => {
    const text = "BT1 24V: F1 1A + [A] R1 + [B] (R2 1k | ) + [D] R5 100\n[B] [D]\nR2 5k [A]\n[A] R7 4q7 [B]";
    const found = mistakesOf(text);
    expect(found.length).toBeGreaterThanOrEqual(5);
    for (const place of [/^1:22 R1 has no value/, /^1:\d+ .*branch/, /^2:/, /^3:1 /, /^4:\d+ .*4q7/])
      expect(
        found.find((m) => place.test(m)),
        `${place} in\n${found.join("\n")}`,
      ).toBeDefined();
  });

  it.each([
    ["BT1 9V: R1 R47 + R2 1k", /R1 has no value; for 0.47 Ω write 0R47/],
    ["BT1 9V: R1 1k + R1 2k", /R1 is used already, at line 1, column 9/],
    ["BT1 9V: [A] [B] R1 1k", /two nodes|side by side/i],
    ["BT1 9V: R1 1k + (R2 1k | R3 2k\nBT2 9V: R4 1k", /parenthes/],
    ["R1 1k + R2 2k", /begins and ends with a \[node\]/],
    ["BT1 9V R1 1k", /colon/],
    ["BT1 9V: R1 1k\nreference Z", /no node Z/],
    ["BT1 9V: [R2] R1 1k + R2 2k", /\[R2\] is the name of a part/],
  ])("explains %j", (text, words) => {
    expect(mistakesOf(text).join("\n")).toMatch(words);
  });

  it("offers fixes that mend what they are for", () => {
    for (const text of ["BT1 9V R1 1k", "BT1 9V: R1 R47 + R2 1k"]) {
      const { mistakes } = readTrail(text);
      const fixed = mistakes.flatMap((m) => m.fix?.edits ?? []);
      expect(fixed.length).toBeGreaterThan(0);
      expect(mistakesOf(applyEdits(text, fixed))).toEqual([]);
    }
  });

  it.each([
    ["BT1 12V: R1=10", "R1 10"],
    ["BT1 12V: R1 = 10 + R2= 4k7", "R1 10, R2 4.7k"],
    ["BT1 12 V: R1 10 ohms + R2 4.7 k 10 % + R3 80 ohm", "R1 10, R2 4.7k 10%, R3 80"],
    ["BT1 12V: LA1 12V/1.2W", "LA1 12V 1.2W"],
    ["BT1 9V: R1 10k 1/4 W", "R1 10k 250mW"],
  ])("reads %j as it stands", (text, parts) => {
    const { circuit, mistakes } = readTrail(text);
    expect(mistakes).toEqual([]);
    expect(circuit?.parts.slice(1).map(writePart).join(", ")).toBe(parts);
  });

  it.each([
    ["BT1 12V: R1 1O0k", "BT1 12V: R1 100k"],
    ["BT1 12V: R1 10k, R2 20k", "BT1 12V: R1 10k + R2 20k"],
    ["BT1 12V: R1, 10k", "BT1 12V: R1 10k"],
    ["BT1 12V: R 1 10k", "BT1 12V: R1 10k"],
    ["BT 12V: R1 10", "BT1 12V: R1 10"],
    ["BT1 12V: main fuse 5A + R1 10", "BT1 12V: main_fuse 5A + R1 10"],
    ["BT1 12V: R1 10 B R2 20", "BT1 12V: R1 10 [B] R2 20"],
    ["BT1 12V: R1 10 + V_OUT + R2 20", "BT1 12V: R1 10 + [V_OUT] + R2 20"],
    ["BT1 12V: R1 10 | R2 20", "BT1 12V: (R1 10 | R2 20)"],
    ["BT1 12V: R1 10 | R2 20 | R3 30 + R4 5", "BT1 12V: (R1 10 | R2 20 | R3 30) + R4 5"],
    ["BT1 12V: R1 10 || R2 20", "BT1 12V: (R1 10 | R2 20)"],
    ["BT1 12V: R1 10 → R2 20", "BT1 12V: R1 10 + R2 20"],
    ["BT1 9V: R1 10kΩ±5%", "BT1 9V: R1 10kΩ 5%"],
    ["BT1 24VAC: R1 10", "BT1 24V ac: R1 10"],
    ["BT1 9V: L1 100mH + R1 10", "BT1 9V: L1 ? + R1 10"],
    ["BT1 9V: R1 10k carbon", 'BT1 9V: R1 10k note="carbon"'],
    ["BT1 9V: R1 10 + R1 20", "BT1 9V: R1 10 + R2 20"],
    ["R1 10 R2 20", "[A] R1 10 R2 20 [B]"],
    ["BT1 9V: R1 0", "BT1 9V: R1 kind=wire"],
    // A parenthesis is closed where every node gets two parts, and before another line of its own.
    ["[A] (R1 10 | R2 20 [B] R3 30 [C]", "[A] (R1 10 | R2 20 [B] R3 30) [C]"],
    [
      "BT1 9V: [B] (R2 1k | R3 470 + [D] R5 100\n[B] R9 10k [D]",
      "BT1 9V: [B] (R2 1k | R3 470 + [D] R5 100)\n[B] R9 10k [D]",
    ],
    ["BT1 9V: (R1 1k | R2 1k + [C] R3 1k\n[C] R4 1k [0]", "BT1 9V: (R1 1k | R2 1k + [C] R3 1k)\n[C] R4 1k [0]"],
  ])("mends %j in one", (text, mended) => {
    const fixes = readTrail(text).mistakes.map((m) => applyEdits(text, m.fix?.edits ?? []));
    expect(fixes).toContain(mended);
    expect(readTrail(mended).mistakes.filter((m) => m.severity === "mistake")).toEqual([]);
  });

  it.each([
    ["SOL1 24V 6W", "coil"],
    ["BAT 12V", "supply"],
    ["H-2 12V 5W", "lamp"],
    ["PUMP 12", "resistor"],
    ["CN1", "connector"],
    ["Y1 40", "coil"],
    ["XYZ1 24V 6W", "load"],
    ["XYZ1 100", "resistor"],
  ])("takes %s for what it probably is, and asks", (words, kind) => {
    const { circuit, mistakes } = readTrail(`BT1 24V: R1 10 + ${words}`);
    expect(circuit?.parts[2].kind).toBe(kind);
    expect(mistakes).toMatchObject([{ severity: "question", column: 18 }]);
    const sure = readTrail(applyEdits(`BT1 24V: R1 10 + ${words}`, mistakes[0].fix?.edits ?? []));
    expect(sure.mistakes).toEqual([]);
    expect(sure.circuit?.parts[2].kind).toBe(kind);
  });

  it("takes any one word of a drawing for a part, by what it is called, by its letters, or as it is told", () => {
    const text =
      "BATTERY 12V: [A] F_MAIN 5A + [B] (LEFT_LAMP 12V 5W | RIGHT-LAMP 12V 5W | lamp3 12V 5W)\n+ [C] R-1 10 [D] S_DOOR open PUMP kind=load 12";
    const { circuit, mistakes } = readTrail(text);
    expect(mistakes).toEqual([]);
    const kinds = circuit?.parts.map((p) => `${p.designator} ${p.kind}`);
    expect(kinds).toEqual([
      "BATTERY supply",
      "F_MAIN fuse",
      "LEFT_LAMP lamp",
      "RIGHT-LAMP lamp",
      "lamp3 lamp",
      "R-1 resistor",
      "S_DOOR switch",
      "PUMP load",
    ]);
    expect(sound(writeTrail(circuit as never)).parts).toEqual(circuit?.parts);
    const again = readTrail("BT1 9V: LAMP 6V 1W + LAMP 6V 1W").mistakes[0];
    expect(again.message).toMatch(/LAMP is used already/);
  });

  it("takes two marks side by side for one node with two names, and asks", () => {
    const { circuit, mistakes } = readTrail("BT1 9V: R1 10 [OUT] [TB3] + R2 5\n[TB3] R3 5 [0]");
    expect(mistakes).toMatchObject([{ severity: "question", line: 1 }]);
    expect(circuit?.parts.map((p) => [p.from, p.to])).toEqual([
      ["+", "0"],
      ["+", "OUT"],
      ["OUT", "0"],
      ["OUT", "0"],
    ]);
    expect(circuit?.points).toEqual([{ node: "OUT", called: "TB3" }]);
    expect(sound(writeTrail(circuit as never)).points).toEqual(circuit?.points);
    // The minus may be one of them, whichever comes first.
    expect(sound("BT1 9V: R1 10 [GND] [0]\n[GND] R2 5 [0]\n[A] R3 5 [GND]").reference).toBe("GND");
    expect(mistakesOf("BT1 9V: R1 10 [A] [A] R2 5")).toHaveLength(1);
  });

  it.each([
    ["BT1 12V: S1, F1 1A, LA1 12V 5W", "S1 F1 LA1"],
    ["battery 12 V, lamp 12V 5W, switch", "lamp switch"],
    ["battery 12 V, lamp 12V 5W, switch, 5A fuse", "lamp switch fuse"],
    ["BT1 12V: 5A fuse + 4k7 R1", "fuse R1"],
    ["BT1 12V - R1 10 - R2 20", "R1 R2"],
    ["R1 47 + R2 82", "R1 R2"],
    ["BT1 12V: main fuse 5A; heater 24; R1 1O0k", "main_fuse heater R1"],
    ["(BT1 12V + R1 1 | BT2 9V + R2 1) + R3 10", "R1 BT2 R2 R3"],
  ])("mends all of %j at one press", (text, parts) => {
    const mended = mendAll(text);
    const { circuit } = readTrail(mended?.text ?? "");
    expect(circuit?.parts.map((p) => p.designator).filter((d) => !/^(BT1|battery)$/.test(d))).toEqual(parts.split(" "));
    expect(mendAll(mended?.text ?? "")).toBeNull();
  });

  it("takes nothing out by mending all", () => {
    for (const text of ["BT1 12V: R1 10 + banana 3 7 + ) R2 5 5", "BT1 12V: R1 10 + R2 20 split + Q1 100n"])
      expect(mendAll(text), text).toBeNull();
  });

  it("takes a second source as people write it, and says how its line goes", () => {
    const joined = "BT1 12V: R1 1 + [A] R3 10\n[0] BT2 9V + R2 1 [A]";
    const ends = (text: string) => sound(text).parts.map((p) => `${p.designator} ${p.from} ${p.to}`);
    const way = ["BT1 + 0", "R1 + A", "R3 A 0", "BT2 n1 0", "R2 n1 A"];
    expect(ends(joined)).toEqual(way);
    for (const text of [
      "BT1 12V: R1 1 + [A] R3 10\nBT2 9V: R2 1 + [A] R3 10",
      "BT1 12V: R1 1 + R3 10\nBT2 9V: R2 1 + R3 10",
      "BT1 12V: R1 1 + [A] R3 10\nBT2 9V: R2 1 + [A]",
      "BT1 12V: R1 1 + [A] R3 10\n[A] R2 1 + BT2 9V [0]",
    ]) {
      const { mistakes } = readTrail(text);
      expect(mistakes, text).toHaveLength(1);
      expect(ends(applyEdits(text, mistakes[0].fix?.edits ?? [])).sort(), text).toEqual(
        text.endsWith("[0]") ? ["BT1 + 0", "BT2 n1 0", "R1 + A", "R2 A n1", "R3 A 0"] : [...way].sort(),
      );
    }
    const bare = "(BT1 12V + R1 1 | BT2 9V + R2 1) + R3 10";
    const [{ fix }] = readTrail(bare).mistakes;
    expect(ends(applyEdits(bare, fix?.edits ?? []))).toEqual([
      "BT1 n1 0",
      "R1 n1 n3",
      "BT2 n2 0",
      "R2 n2 n3",
      "R3 n3 0",
    ]);
    // In a loop a source in series is as it should be, and one that is turned round is too.
    expect(readTrail("BT1 12V: R1 1 + BT2 9V + R2 5 + BT3 -3V").mistakes).toEqual([]);
    expect(readTrail("BT1 12V: R1 1 + [A] R3 10\n[A] R2 1 + BT2 -9V [0]").mistakes).toEqual([]);
  });

  it("asks where thousands and decimals look alike, and reads on", () => {
    const { circuit, mistakes } = readTrail("BT1 9V: R1 4,700 + R2 0,470 + R3 4,700k");
    expect(circuit?.parts[1]).toMatchObject({ resistance: { ohms: 4.7 } });
    expect(mistakes).toMatchObject([{ severity: "question", fix: { label: "write 4700" } }]);
  });

  it("knows a node by the name it has where one probes it", () => {
    const text = "BT1 9V: R1 10 + [C] R2 5\npoint C TB2-4, blue wire, behind the lid\npoint 0 chassis";
    expect(sound(text).points).toEqual([
      { node: "C", called: "TB2-4", note: "blue wire, behind the lid" },
      { node: "0", called: "chassis" },
    ]);
    expect(sound(writeTrail(sound(text))).points).toEqual(sound(text).points);
    const renamed = nameNode(readTrail(text), "C" as never, "OUT");
    expect(renamed.kind === "edited" && sound(renamed.text).points?.[0]).toMatchObject({
      node: "OUT",
      called: "TB2-4",
    });
    expect(mistakesOf("BT1 9V: R1 10\npoint Q lid")).toEqual(["2:1 there is no node Q in this circuit"]);
  });

  it("goes on over a line end while something is open", () => {
    const onOneLine = "BT1 9V: R1 1k + (R2 1k | R3 2k) + R4 5";
    for (const text of [
      "BT1 9V: R1 1k +\n(R2 1k | R3 2k) + R4 5",
      "BT1 9V: R1 1k\n+ (R2 1k |\n R3 2k)\n+ R4 5",
      "BT1 9V: R1 1k + (R2 1k\n | R3 2k\n) # the pair\n + R4 5",
    ]) {
      expect(sound(text).parts).toEqual(sound(onOneLine).parts);
    }
  });

  it("walks supplies in runs from minus to plus, and turns them by sign", () => {
    expect(endsOf("[A] R1 1 [B]\n[A] BT1 9V [B]")).toContain("BT1 B A");
    expect(endsOf("[A] R1 1 [B]\n[A] BT1 -9V [B]")).toContain("BT1 A B");
  });

  it("chooses the reference: node 0, else the first minus, else the end of the first run", () => {
    expect(sound("BT1 9V: R1 1k + [E]").reference).toBe("E");
    expect(sound("BT1 9V: R1 1k").reference).toBe("0");
    expect(sound("[A] R1 1k + R2 5 [Z]").reference).toBe("Z");
    expect(sound("reference A\nBT1 9V: [A] R1 1k").reference).toBe("A");
  });

  it("questions a minus at another supply's plus, and lets it stand", () => {
    const { circuit, mistakes } = readTrail("BT2 9V: [A] R1 1k\nBT1 9V: [P] R2 1k + [A]");
    expect(circuit).not.toBeNull();
    expect(mistakes).toMatchObject([{ severity: "question", message: expect.stringMatching(/minus is at A/) }]);
  });

  it("names a junction where it is used, so that an insertion cannot move it", () => {
    const before = readTrail("BT1 9V: R1 1k + R2 2k + R3 3k");
    const { name, edits } = pinNode(before, "n2");
    const pinned = applyEdits(before.text, edits);
    expect(pinned).toBe("BT1 9V: R1 1k + R2 2k [n2] + R3 3k");
    const later = endsOf(pinned.replace("R1 1k", "R1 1k + R9 5"));
    expect(later).toContain("R2 n3 n2");
    expect(later.some((e) => e.startsWith("R3 n2"))).toBe(true);
    expect(name).toBe("n2");
    expect(pinNode(before, "+").name).toBe("P");
  });

  it("keeps the title, notes and comments out of the circuit's way", () => {
    const text =
      'title R1 is not a part here: "quoted" # nor a comment\nnote second # hand\nBT1 9V: R1 1k note="with # inside"';
    const circuit = sound(text);
    expect(circuit.title).toContain("# nor a comment");
    expect(circuit.parts[1].note).toBe("with # inside");
  });
});

describe("limits of a trail", () => {
  const last = (text: string) => readTrail(text).mistakes.at(-1);

  it("stops where a text goes on beyond them, and says where", () => {
    expect(last(`BT1 9V: R1 1k${"\n".repeat(30_000)}[0] R2 1k [0]`)).toMatchObject({
      line: 20_001,
      column: 1,
      message: "a trail has at most 20000 lines; from here on it is not read",
    });
    expect(last(`BT1 9V: R1 1k # ${"x".repeat(120_000)}`)).toMatchObject({ from: 100_000, line: 1, column: 100_001 });
    expect(last(`BT1 9V: ${"(".repeat(5_000)}R1 1k`)).toMatchObject({
      line: 1,
      column: 109,
      message: expect.stringMatching(/^parentheses go/),
    });
    const many = Array.from({ length: 3_001 }, (_, i) => `R${i + 1} 1k`);
    expect(last(`BT1 9V: ${many.slice(0, 2_999).join("\n+ ")}`)).toBeUndefined();
    expect(last(`BT1 9V: ${many.join("\n+ ")}`)).toMatchObject({
      line: 3_000,
      message: expect.stringMatching(/^a circuit has at most 3000/),
    });
    expect(readTrail("title x\n".repeat(10_000)).mistakes).toHaveLength(500);
    expect(last(`"${"a".repeat(90_000)}`)?.message.length).toBeLessThan(300);
  });

  it("finds lines and columns as counting does", () => {
    fc.assert(
      fc.property(fc.string({ unit: fc.constantFrom("a", "\n", "é", "R1 ") }), fc.nat(200), (text, pick) => {
        const offset = Math.min(pick, text.length);
        const before = text.slice(0, offset).split("\n");
        const at = { line: before.length, column: (before.at(-1) as string).length + 1 };
        expect(new Lines(text).at(offset)).toEqual(at);
        expect(positionAt(text, offset)).toEqual(at);
      }),
    );
  });
});
