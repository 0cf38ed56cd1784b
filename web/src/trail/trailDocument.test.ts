import { insertInSeries, readTrail, removePart, setWord } from "@hound/core/notation";
import { seededRandom } from "@hound/core/simulate";
import { describe, expect, it } from "vitest";
import { Renamings } from "../desk/renamings.ts";
import { TrailDocument } from "./trailDocument.ts";
import { TrailEngine } from "./trailEngine.ts";

const TRAIL = "BT1 9V: R1 1k + [A] R2 2k # keep\n+ R3 3k";

function open(text: string) {
  const seen: string[] = [];
  const document = new TrailEngine(text, [], (t) => seen.push(t));
  return { document, seen, now: () => seen.at(-1) ?? text };
}

describe("a document whose editor is fetched later", () => {
  it("has what was changed before in its history, tells of each change once, and makes one editor only", async () => {
    const seen: string[] = [];
    let made = 0;
    const load = async () => (text: string, onChange: (text: string) => void) => {
      made += 1;
      return new TrailEngine(text, [], onChange);
    };
    const document = new TrailDocument("one", load, (t) => seen.push(t));
    document.replace("one");
    document.replace("one two");
    document.replace("one two three");
    expect(seen).toEqual(["one two", "one two three"]);
    const engine = await document.ready();
    expect(seen).toHaveLength(2);
    document.undo();
    document.undo();
    await document.ready();
    expect(seen.slice(2)).toEqual(["one two", "one"]);
    expect(engine.redo()).toBe(true);
    document.replace("one two and more");
    expect(seen.at(-1)).toBe("one two and more");
    expect(made).toBe(1);
  });
});

describe("one history for text, board and table", () => {
  it("takes back each edit by itself, in order, and does it again", () => {
    const { document, now } = open(TRAIL);
    const texts = [TRAIL];
    for (const edit of [
      (t: string) => setWord(readTrail(t), "R1", "value", "4k7"),
      (t: string) => insertInSeries(readTrail(t), ["R2"], "after", "R9 10"),
      (t: string) => removePart(readTrail(t), "R3", "close"),
    ]) {
      const edited = edit(texts.at(-1) as string);
      if (edited.kind !== "edited") throw new Error(edited.why);
      document.replace(edited.text);
      texts.push(edited.text);
      expect(now()).toBe(edited.text);
    }
    for (const text of [...texts].reverse().slice(1)) {
      expect(document.undo()).toBe(true);
      expect(now()).toBe(text);
    }
    expect(document.undo()).toBe(false);
    for (const text of texts.slice(1)) {
      expect(document.redo()).toBe(true);
      expect(now()).toBe(text);
    }
    expect(document.redo()).toBe(false);
  });

  it("leaves what is no step of its history through undo and redo", () => {
    const { document, now } = open("BT1 9V: R1 1k + R2 2k");
    document.replace("BT1 9V: R1 1k + R2 2k + R3 3k");
    document.replace("BT1 9V: R1 1k + [n1] R2 2k + R3 3k", false);
    expect(document.undo()).toBe(true);
    expect(now()).toBe("BT1 9V: R1 1k + [n1] R2 2k");
    expect(document.undo()).toBe(false);
    expect(document.redo()).toBe(true);
    expect(now()).toBe("BT1 9V: R1 1k + [n1] R2 2k + R3 3k");
  });

  it("finds every text again through random edits, undos and redos", () => {
    const random = seededRandom(4);
    const { document, now } = open(TRAIL);
    let past: string[] = [];
    let future: string[] = [];
    let text = TRAIL;
    for (let round = 0; round < 300; round += 1) {
      const u = random.next();
      if (u < 0.5) {
        const at = Math.floor(random.next() * text.length);
        const next = `${text.slice(0, at)}${"R5 x|(é"[Math.floor(random.next() * 7)]}${text.slice(at + (random.next() < 0.3 ? 2 : 0))}`;
        if (next === text) continue;
        past.push(text);
        future = [];
        text = next;
        document.replace(text);
      } else if (u < 0.8) {
        expect(document.undo()).toBe(past.length > 0);
        const before = past.pop();
        if (before === undefined) continue;
        future.push(text);
        text = before;
      } else {
        expect(document.redo()).toBe(future.length > 0);
        const after = future.pop();
        if (after === undefined) continue;
        past.push(text);
        text = after;
      }
      expect(now()).toBe(text);
      // CodeMirror keeps a hundred steps and more; beyond, both sides start afresh.
      if (past.length > 90) past = past.slice(-90);
    }
  });
});

describe("readings and the names they use", () => {
  it("change with an edit, change back with its undo, and again with its redo", () => {
    const renamings = new Renamings();
    const reading = { quantity: "voltage", from: "A", value: 3 } as const;
    const other = { quantity: "voltage", from: "B", value: 1 } as const;
    const names = { nodes: new Map([["A", "B"]]), parts: new Map() };
    const readings = [
      { id: "x", reading },
      { id: "y", reading: other },
    ];
    renamings.remember({ from: "one", to: "two", names, taken: new Set(["A", "B"]), readings });
    const later = { id: "z", reading: { ...other, value: 2 } };
    expect(renamings.between("one", "two", readings)?.ops).toEqual([
      { op: "change", id: "x", before: reading, reading: { ...reading, from: "B" } },
    ]);
    // Two nodes became one: going back, the one that was at B before stays there, as does one that was taken since.
    const now = [{ id: "x", reading: { ...reading, from: "B" } as const }, readings[1], later];
    expect(renamings.between("two", "one", now)?.ops).toEqual([
      { op: "change", id: "x", before: { ...reading, from: "B" }, reading },
    ]);
    // Where it only has another name, what was taken since goes back with it.
    renamings.remember({ from: "one", to: "two", names, taken: new Set(["A"]), readings: [] });
    expect(renamings.between("two", "one", [later])?.ops).toMatchObject([
      { id: "z", reading: { from: "A", value: 2 } },
    ]);
    expect(renamings.between("one", "three", now)).toBeNull();
  });
});
