import { describe, expect, it } from "vitest";
import type { Circuit, NodeName } from "../../circuit/index.ts";
import { seededRandom } from "../../simulate/index.ts";
import { share } from "../../test/examples.ts";
import { readTrail, type Trail } from "../trail/index.ts";
import {
  type Edited,
  formatTrail,
  freeDesignator,
  insertInParallel,
  insertInSeries,
  joinNodes,
  keepNumbers,
  locate,
  movePart,
  nameNode,
  removePart,
  renamePart,
  setEnds,
  setPoint,
  setWord,
  swapParts,
} from "./index.ts";
import { type Place, walkedEnds } from "./locate.ts";

const sound = (text: string): Trail => {
  const trail = readTrail(text);
  expect(trail.mistakes.filter((m) => m.severity === "mistake").map((m) => `${m.message} in\n${text}`)).toEqual([]);
  return trail;
};

const textOf = (edited: Edited): string => (edited.kind === "edited" ? edited.text : `refused: ${edited.why}`);

/** Ends of every part, nodes told apart only by what meets there: R1:a~R2:b … independent of node names. */
function meeting(ends: readonly (readonly [string, string, string])[]): string[] {
  const at = new Map<string, string[]>();
  for (const [name, from, to] of ends) {
    at.set(from, [...(at.get(from) ?? []), `${name}.1`]);
    at.set(to, [...(at.get(to) ?? []), `${name}.2`]);
  }
  return [...at.values()].map((list) => list.sort().join(" ")).sort();
}

const endsOf = (circuit: Circuit) => circuit.parts.map((p) => [p.designator, p.from, p.to] as const);

/** A loop's supply is walked from minus to plus: behind it comes what hangs on its plus. */
const walked = (place: Place, part: Circuit["parts"][number]): readonly [string, string] =>
  place.kind === "supply" ? [part.to, part.from] : walkedEnds(place.part, part);

const VENT = `title Vent # not a comment
note keep me
BT1 24V 2% ri=0.3: F1 1A + [A] R1 220 5% + [B] (R2 1k 5%   # the upper one
  | R3 470 2% + [C] R4 330 5%) + R6 10 + [D] R5 100 1% 0.5W note="by the hinge"
[B] R9 10k 5% [D]            # anything else`;

describe("edits of a trail", () => {
  it("change one token for a value, and nothing else", () => {
    expect(textOf(setWord(sound(VENT), "R1", "value", "270"))).toBe(VENT.replace("R1 220", "R1 270"));
    expect(textOf(setWord(sound(VENT), "R5", "power", "1W"))).toBe(VENT.replace("0.5W", "1W"));
    expect(textOf(setWord(sound(VENT), "R6", "tolerance", "1%"))).toBe(VENT.replace("R6 10", "R6 10 1%"));
    expect(textOf(setWord(sound(VENT), "R1", "tolerance", ""))).toBe(VENT.replace("R1 220 5%", "R1 220"));
    expect(textOf(setWord(sound(VENT), "BT1", "internalResistance", "ri=1"))).toBe(VENT.replace("ri=0.3", "ri=1"));
    expect(textOf(setWord(sound(VENT), "R1", "value", "5k + R7 3"))).toMatch(/^refused/);
  });

  it.each([
    ["series, behind", (t: Trail) => insertInSeries(t, ["R1"], "after", "R7 47"), "R1 220 5%", "R1 220 5% + R7 47"],
    ["series, before", (t: Trail) => insertInSeries(t, ["R4"], "before", "R7 47"), "R4 330", "R7 47 + R4 330"],
    [
      "series, behind a whole fork",
      (t: Trail) => insertInSeries(t, ["R2", "R4"], "after", "R7 47"),
      ") + R6 10",
      ") + R7 47 + R6 10",
    ],
    [
      "series, before a stretch",
      (t: Trail) => insertInSeries(t, ["R4", "R3"], "before", "R7 47"),
      "| R3 470",
      "| R7 47 + R3 470",
    ],
    ["series, at the plus", (t: Trail) => insertInSeries(t, ["BT1"], "after", "R7 47"), ": F1", ": R7 47 + F1"],
    ["parallel, a part", (t: Trail) => insertInParallel(t, ["R1"], "R7 47"), "R1 220 5%", "(R1 220 5% | R7 47)"],
    ["parallel, a branch", (t: Trail) => insertInParallel(t, ["R2"], "R7 47"), "R2 1k 5% ", "R2 1k 5% | R7 47 "],
    ["a whole branch", (t: Trail) => insertInParallel(t, ["R4", "R3"], "R7 47"), "R4 330 5%)", "R4 330 5% | R7 47)"],
    ["close", (t: Trail) => removePart(t, "R6", "close"), "+ R6 10 + [D]", "+ [D]"],
    ["close between names", (t: Trail) => removePart(t, "R1", "close"), "[A] R1 220 5% + [B] (", "[A] ("],
    ["open, a branch", (t: Trail) => removePart(t, "R2", "open"), "(R2 1k 5%   #", "(   #"],
    ["name", (t: Trail) => nameNode(t, "n1" as NodeName, "E"), ") + R6", ") [E] + R6"],
    ["rename a part", (t: Trail) => renamePart(t, "R9", "R10"), "R9", "R10"],
  ])("%s", (_, edit, was, is) => {
    const text = textOf(edit(sound(VENT)));
    const wanted = VENT.replace(was, is);
    if (_ === "close between names") expect(text).toBe(wanted.replace("[B] R9", "[A] R9"));
    else if (_ === "open, a branch") expect(text).toBe(`${wanted.replace("  | R3", "  R3")}`);
    else expect(text).toBe(wanted);
    sound(text);
  });

  it("refuse what would not be what was meant, and say why", () => {
    const trail = sound(VENT);
    for (const [edit, why] of [
      [removePart(trail, "R2", "close"), /would short/],
      [removePart(trail, "BT1", "close"), /short everything/],
      [insertInSeries(trail, ["R1"], "after", "R2 5"), /R2 is used already/],
      [insertInSeries(trail, ["R1"], "after", "R7"), /no value/],
      [insertInParallel(trail, ["R1", "R9"], "R7 5"), /one stretch/],
      [nameNode(trail, "B" as NodeName, "D"), /another node/],
      [swapParts(trail, "BT1", "R1"), /begins with its supply/],
      [renamePart(trail, "R1", "LA1"), /another kind/],
      [joinNodes(trail, "B" as NodeName, "B" as NodeName, "R7 5"), /same node/],
    ] as const)
      expect(textOf(edit)).toMatch(why);
  });

  it("leave a chain open on lines of its own, the reference where it was", () => {
    const text = textOf(removePart(sound("BT1 9V: R1 1k + R2 2k # mid\n + R3 3k + [E]"), "R2", "open"));
    const after = sound(text);
    expect(text).toContain("# mid");
    expect(after.circuit?.reference).toBe("E");
    expect(meeting(endsOf(after.circuit as Circuit))).toEqual(["BT1.1 R1.1", "BT1.2 R3.2", "R1.2", "R3.1"]);
  });

  it("mind a supply that its sign turns round", () => {
    const text = "BT1 -9V: [P] R1 1k + R2 2k + [E]";
    const before = endsOf(sound(text).circuit as Circuit);
    for (const [edited, gone] of [
      [removePart(sound(text), "R1", "open"), "R1"],
      [removePart(sound(text), "BT1", "open"), "BT1"],
    ] as const) {
      const after = sound(textOf(edited)).circuit as Circuit;
      expect(meeting(endsOf(after))).toEqual(meeting(before.filter(([name]) => name !== gone)));
    }
  });

  it("format without changing what is said: spaces only, the same circuit, and once is enough", () => {
    const untidy =
      "title  As  it is\nBT1   24V:F1 1A  [A]R1 220 5%  (R2 1k|R3 470   R4 5   # why\n|R5 10)R6 1\n[A]   R9 10k [0]";
    const text = formatTrail(sound(untidy));
    expect(text).toBe(
      "title As  it is\nBT1 24V: F1 1A [A] R1 220 5% + (R2 1k | R3 470 + R4 5  # why\n  | R5 10) + R6 1\n[A] R9 10k [0]",
    );
    expect(sound(text).circuit).toEqual(sound(untidy).circuit);
    for (const trail of [VENT, text]) {
      const once = formatTrail(sound(trail));
      expect(sound(once).circuit).toEqual(sound(trail).circuit);
      expect(formatTrail(sound(once))).toBe(once);
    }
    expect(freeDesignator(sound(VENT), "resistor")).toBe("R10");
  });

  it("give the circuit that was meant, and keep names, notes and comments, through many random edits", () => {
    const random = seededRandom(11);
    const pick = <T>(list: readonly T[]): T => list[Math.floor(random.next() * list.length)];
    const tally = new Map<string, number>();
    let text = VENT;
    let made = 0;
    for (let round = 0; made < share(1000); round += 1) {
      const trail = sound(text);
      const circuit = trail.circuit as Circuit;
      if (round % 40 === 39 || circuit.parts.length > 24) {
        text = `${VENT}\n# again ${round}`;
        continue;
      }
      const names = circuit.parts.map((p) => p.designator);
      const nodes = [...new Set(circuit.parts.flatMap((p) => [p.from, p.to]))];
      const fresh = `R${100 + round}`;
      const one = pick(names);
      const other = pick(names);
      const plain = endsOf(circuit);
      const without = (name: string) => plain.filter(([n]) => n !== name);
      const merge = (ends: typeof plain, kept: string, gone: string) =>
        ends.map(([n, a, b]) => [n, a === gone ? kept : a, b === gone ? kept : b] as const);
      const place = locate(trail, one);
      if (!place) throw new Error(one);
      const part = circuit.parts.find((p) => p.designator === one) as Circuit["parts"][number];
      const series = (side: "before" | "after", from: typeof plain, name: string, target: string) => {
        const at = locate(trail, target);
        const there = circuit.parts.find((p) => p.designator === target) as Circuit["parts"][number];
        const [start, end] = at ? walked(at, there) : ["", ""];
        const joint = "joint";
        const node = side === "before" ? start : end;
        const [a, b] = side === "before" ? [node, joint] : [joint, node];
        return [
          ...from.map(([n, p, q]): [string, string, string] =>
            n === target ? [n, there.from === node ? joint : p, there.to === node ? joint : q] : [n, p, q],
          ),
          [name, a, b] as const,
        ];
      };
      const kinds = [
        "series",
        "parallel",
        "wrap",
        "join",
        "close",
        "open",
        "swap",
        "value",
        "name",
        "part",
        "move",
      ] as const;
      const kind = pick(kinds);
      let edited: Edited;
      let meant: readonly (readonly [string, string, string])[] = plain;
      switch (kind) {
        case "series": {
          const side = pick(["before", "after"] as const);
          edited = insertInSeries(trail, [one], side, `${fresh} 47`);
          meant = series(side, plain, fresh, one);
          break;
        }
        case "parallel": {
          edited = insertInParallel(trail, [one], `${fresh} 47`);
          const [a, b] = place.kind === "supply" ? [part.from, part.to] : walkedEnds(place.part, part);
          meant = [...plain, [fresh, a, b]];
          break;
        }
        case "wrap": {
          if (place.kind === "supply" || one === other) continue;
          const items = place.path[place.path.length - 1].series.items.filter((i) => i.type === "part");
          const last = items[items.length - 1];
          edited = insertInParallel(trail, [one, last.designator], `${fresh} 47`);
          const end = circuit.parts.find((p) => p.designator === last.designator) as typeof part;
          meant = [...plain, [fresh, walkedEnds(place.part, part)[0], walkedEnds(last, end)[1]]];
          break;
        }
        case "join": {
          const [a, b] = [pick(nodes), pick(nodes)];
          edited = joinNodes(trail, a, b, `${fresh} 47`);
          meant = [...plain, [fresh, a, b]];
          break;
        }
        case "close":
          edited = removePart(trail, one, "close");
          meant = merge(without(one), part.from, part.to);
          break;
        case "open":
          edited = removePart(trail, one, "open");
          meant = without(one);
          break;
        case "swap": {
          edited = swapParts(trail, one, other);
          const q = locate(trail, other);
          const second = circuit.parts.find((x) => x.designator === other) as typeof part;
          if (edited.kind === "refused" || !q) break;
          const put = (x: typeof part, [s, e]: readonly string[]) =>
            (x.kind === "supply" ? [x.designator, e, s] : [x.designator, s, e]) as [string, string, string];
          meant = [
            ...without(one).filter(([n]) => n !== other),
            put(part, walked(q, second)),
            put(second, walked(place, part)),
          ];
          break;
        }
        case "value":
          edited = setWord(trail, one, "tolerance", `${1 + (round % 9)}%`);
          break;
        case "name":
          edited = nameNode(trail, pick(nodes), `N${round}`);
          break;
        case "part":
          edited = renamePart(
            trail,
            one,
            one.replace(/\d+/, (d) => `${Number(d) + 500}`),
          );
          meant = plain.map(([n, a, b]) => [n === one ? n.replace(/\d+/, (d) => `${Number(d) + 500}`) : n, a, b]);
          break;
        case "move": {
          edited = movePart(trail, one, other, pick(["before", "after"] as const));
          if (edited.kind === "edited") {
            const after = sound(edited.text).circuit as Circuit;
            expect(after.parts.map((p) => p.designator).sort()).toEqual([...names].sort());
          }
          meant = edited.kind === "edited" ? endsOf(sound(edited.text).circuit as Circuit) : plain;
          break;
        }
        default:
          kind satisfies never;
          continue;
      }
      tally.set(`${kind} ${edited.kind}`, (tally.get(`${kind} ${edited.kind}`) ?? 0) + 1);
      if (edited.kind === "refused") continue;
      const after = sound(edited.text);
      const said = `${kind} ${one} ${other}\n${text}\n->\n${edited.text}`;
      expect(meeting(endsOf(after.circuit as Circuit)), said).toEqual(meeting(meant));
      const reference = edited.nodes.get(circuit.reference) ?? circuit.reference;
      const stillThere = (after.circuit as Circuit).parts.some((p) => p.from === reference || p.to === reference);
      if (stillThere) expect(after.circuit?.reference, said).toBe(reference);
      const kept = (t: Trail) => t.tokens.filter((x) => x.kind === "comment" || x.kind === "rest").map((x) => x.text);
      for (const words of kept(trail)) expect(kept(after), said).toContain(words);
      const now = endsOf(after.circuit as Circuit).flatMap(([, a, b]) => [a, b]);
      for (const name of nodes)
        if (!trail.unnamed.has(name) && !edited.nodes.has(name) && meant.some(([, a, b]) => a === name || b === name))
          expect(now, said).toContain(name);
      text = edited.text;
      made += 1;
    }
    for (const kind of ["series", "parallel", "wrap", "join", "close", "open", "swap", "move", "name", "part", "value"])
      expect(tally.get(`${kind} edited`) ?? 0, kind).toBeGreaterThan(15);
  });
});

describe("what board and table edit", () => {
  it("leaves unnamed nodes their numbers: only parts beside the edit get other ends", () => {
    const random = seededRandom(11);
    const text = "BT1 9V: R1 1 + R2 2 + (R3 3 + R4 4 | R5 5 + R6 6 + R7 7) + R8 8 + R9 9";
    for (let round = 0; round < 120; round += 1) {
      const trail = sound(text);
      const parts = trail.circuit?.parts ?? [];
      const part = parts[1 + Math.floor(random.next() * (parts.length - 1))];
      const kind = Math.floor(random.next() * 3);
      const edited =
        kind === 0
          ? insertInSeries(trail, [part.designator], random.next() < 0.5 ? "before" : "after", "R20 20")
          : kind === 1
            ? insertInParallel(trail, [part.designator], "R20 20")
            : removePart(trail, part.designator, "close");
      const kept = keepNumbers(trail, edited);
      if (kept.kind === "refused") continue;
      const after = new Map(
        (sound(kept.text).circuit as Circuit).parts.map((p) => [p.designator, `${p.from} ${p.to}`]),
      );
      const touched = [part.from, part.to];
      for (const p of parts) {
        if (p === part || touched.includes(p.from) || touched.includes(p.to)) continue;
        expect(after.get(p.designator), `${p.designator} in ${kept.text}`).toBe(`${p.from} ${p.to}`);
      }
    }
  });

  it("builds forward from a supply and one part, every node keeping its number", () => {
    let trail = sound("BT1 12V: R1 100");
    for (const [beside, words] of [
      ["R1", "R2 200"],
      ["R2", "R3 300"],
      ["R3", "LA1 12V 5W"],
    ] as const) {
      const kept = keepNumbers(trail, insertInSeries(trail, [beside], "after", words));
      trail = sound(textOf(kept));
    }
    expect(endsOf(trail.circuit as Circuit)).toEqual([
      ["BT1", "+", "0"],
      ["R1", "+", "n1"],
      ["R2", "n1", "n2"],
      ["R3", "n2", "n3"],
      ["LA1", "n3", "0"],
    ]);
  });

  it("puts a part between other nodes, a supply by its plus", () => {
    const text = "BT1 9V: [P] R1 1 + [A] R2 2 + [B] R3 3";
    const ends = (edited: Edited, name: string) => {
      const part = sound(textOf(edited)).circuit?.parts.find((p) => p.designator === name);
      return [part?.from, part?.to];
    };
    expect(ends(setEnds(sound(text), "R2", "P", "B"), "R2")).toEqual(["P", "B"]);
    expect(ends(setEnds(sound(`${text}\n[B] BT2 3V [A]`), "BT2", "P", "0"), "BT2")).toEqual(["P", "0"]);
    expect(setEnds(sound(text), "R2", "A B", "0").kind).toBe("refused");
  });

  it("says what a node is called, says it otherwise, and no more", () => {
    const once = setPoint(sound("BT1 9V: R1 1 + R2 2"), "n1" as NodeName, "TB2-4, blue wire");
    expect(textOf(once)).toBe("BT1 9V: R1 1 [n1] + R2 2\npoint n1 TB2-4, blue wire");
    const other = setPoint(sound(textOf(once)), "n1" as NodeName, "TB7");
    expect(textOf(other)).toBe("BT1 9V: R1 1 [n1] + R2 2\npoint n1 TB7");
    expect(textOf(setPoint(sound(textOf(other)), "n1" as NodeName, ""))).toBe("BT1 9V: R1 1 [n1] + R2 2\n");
  });
});
