import { describe, expect, it } from "vitest";
import type { Circuit, NodeName } from "../circuit/index.ts";
import { readTrail, writeTrail } from "../notation/index.ts";
import type { NumericReading } from "../record/index.ts";
import { drawCircuit, seededRandom } from "../simulate/index.ts";
import { IS_DEEP, share } from "../test/examples.ts";
import { type PlainFault, plainReading } from "../test/plain/bench.ts";
import { parseQuantity, printQuantity } from "../units/index.ts";
import {
  drawExercise,
  type Exercise,
  markAnswer,
  PAPER_KINDS,
  type PaperKind,
  PracticeSet,
  type Question,
  resultsCsv,
  resultsOf,
  type Say,
  shownSet,
  type Tangle,
} from "./index.ts";
import { firstDifference } from "./wiring.ts";

/** Faults are written so that they can be read back. */
const say: Say = {
  print: (value, unit) => printQuantity(value, unit, { digits: 4 }),
  fault: ({ site, value }, { branches }) => `<${branches[site.branch].name} ${site.mode} ${value}>`,
};
const SEEDS = share(60);
const circuitOf = (trail: string) => readTrail(trail).circuit as Circuit;

function* exercises(kind: PaperKind, seeds = SEEDS): Generator<Exercise> {
  for (let seed = 1; seed <= seeds; seed += 1) {
    const drawn = drawExercise(kind, seed, null, say);
    if (typeof drawn === "string") throw new Error(`${kind} ${seed}: ${drawn}`);
    yield drawn;
  }
}

const NO_METER = { input: Number.POSITIVE_INFINITY, burden: 0 };
type Point = NumericReading extends infer R ? (R extends { value: number } ? Omit<R, "value"> : never) : never;
const plain = (circuit: Circuit, point: Point, faults: readonly PlainFault[] = []) =>
  plainReading(circuit, { value: 0, ...point } as NumericReading, faults, { factor: {} }, NO_METER);
const faultIn = (words: string): PlainFault[] => {
  const [, part, mode, value] = /<(\S+) (\S+) (\S+)>/.exec(words) ?? [];
  return part === undefined ? [] : [{ part, mode, value: Number(value) }];
};
const rightOf = ({ wanted }: Question) => (wanted.kind === "choice" ? wanted.right.map((i) => wanted.options[i]) : []);

describe("questions on paper are right by a reference that shares nothing with them", () => {
  it("series is one current, parallel one voltage, whatever the values are; neither is neither", () => {
    const random = seededRandom(5);
    for (const { circuit, questions } of exercises("relation"))
      for (const question of questions) {
        const [a, b] = question.parts as [string, string];
        const draws = [0, 1, 2].map(() => {
          const factor = Object.fromEntries(circuit.parts.map((p) => [p.designator, 0.3 + 2 * random.next()]));
          return (point: Point) =>
            plainReading(circuit, { value: 0, ...point } as NumericReading, [], { factor }, NO_METER);
        });
        const across = (name: string): Point => {
          const { from, to } = circuit.parts.find((p) => p.designator === name) as Circuit["parts"][number];
          return { quantity: "voltage", from, to };
        };
        const isSame = (of: (name: string) => Point) =>
          draws.every((at) => Math.abs(Math.abs(at(of(a))) - Math.abs(at(of(b)))) < 1e-6 * Math.abs(at(of(a))));
        const hasOneCurrent = isSame((through) => ({ quantity: "current", through }));
        const due = isSame(across) ? "in parallel" : hasOneCurrent ? "in series" : "neither";
        expect(rightOf(question), `${writeTrail(circuit)} ${a} ${b}`).toEqual([due]);
      }
  });

  it("a reduction ends at what the supply sees, and only one of what is offered can be folded", () => {
    for (const { circuit, questions } of exercises("reduce")) {
      const last = questions[questions.length - 1].wanted;
      const [supply] = circuit.parts;
      const volts = plain(circuit, { quantity: "voltage", from: supply.from, to: supply.to });
      const amps = plain(circuit, { quantity: "current", through: supply.designator });
      if (questions.length < 10 && last.kind === "figure") expect(last.value).toBeCloseTo(volts / Math.abs(amps), 6);
      expect(supply).toMatchObject({ kind: "supply", internalOhms: 0 });
      // What is easily had instead is named: of the first step, whose parts stand on the drawing.
      const [, first] = questions;
      const ohms = circuit.parts.flatMap((p) =>
        first.parts?.includes(p.designator) && "resistance" in p && p.resistance.by === "ohms"
          ? [p.resistance.ohms]
          : [],
      );
      const sum = ohms.reduce((a, b) => a + b, 0);
      const turned = ohms.reduce((a, b) => a + 1 / b, 0);
      const isRow = first.wanted.kind === "figure" && Math.abs(first.wanted.value - sum) < 1e-6 * sum;
      const said = (typed: number) => markAnswer(first, typed.toPrecision(4));
      if (isRow) expect(said(1 / turned)).toMatchObject({ share: 0, said: expect.stringMatching(/in parallel/) });
      else {
        expect(said(sum)).toMatchObject({ share: 0, said: expect.stringMatching(/their sum/) });
        expect(said(turned)).toMatchObject({ share: 0, said: expect.stringMatching(/not turned back/) });
      }
      for (const { wanted } of questions)
        if (wanted.kind === "choice") expect(new Set(wanted.options).size).toBe(wanted.options.length);
    }
  });

  it("the meter shows volts with their sign, a current as it enters at red, ohms with all that is parallel", () => {
    const seen = { V: 0, A: 0, ohm: 0 };
    for (const { circuit, questions } of exercises("meter"))
      for (const { wanted, ask, leads, parts } of questions) {
        if (wanted.kind !== "figure") continue;
        seen[wanted.unit as "V"] += 1;
        const [red, black] = [leads?.red, leads?.black] as [NodeName, NodeName];
        if (wanted.unit === "V") {
          expect(wanted.value).toBeCloseTo(plain(circuit, { quantity: "voltage", from: red, to: black }), 6);
        } else if (wanted.unit === "ohm") {
          const due = plain(circuit, { quantity: "resistance", from: red, to: black });
          expect(Math.abs(wanted.value - due)).toBeLessThan(1e-6 * due);
        } else {
          const own = circuit.parts.find((p) => p.designator === parts?.[0]) as Circuit["parts"][number];
          const [, node, at] = /taken off (\S+), .* Red at (.+), black/.exec(ask) ?? [];
          const along = plain(circuit, { quantity: "current", through: own.designator });
          const into = node === own.from ? along : -along;
          expect(wanted.value, ask).toBeCloseTo(at === node ? into : -into, 9);
        }
      }
    expect(Math.min(...Object.values(seen))).toBeGreaterThan(SEEDS / 2);
  });

  it("what rises under a fault rises, what falls falls, what stays stays", () => {
    const seen = new Set<string>();
    for (const { circuit, questions } of exercises("predict"))
      for (const question of questions) {
        const faults = faultIn(question.ask);
        const [, from] = /volts from (\S+) to/.exec(question.ask) ?? [];
        const [, through] = /current (?:out of|through) (\S+)\?/.exec(question.ask) ?? [];
        const point: Point = from ? { quantity: "voltage", from: from as NodeName } : { quantity: "current", through };
        const [was, is] = [plain(circuit, point), plain(circuit, point, faults)].map(Math.abs);
        const [right] = rightOf(question);
        seen.add(right);
        if (right === "It rises") expect(is, question.ask).toBeGreaterThan(was * 1.01);
        else if (right === "It falls") expect(is, question.ask).toBeLessThan(was * 0.995);
        else expect(Math.abs(is - was), question.ask).toBeLessThan(0.02 * Math.max(was, 1e-3));
      }
    expect(seen.size).toBe(3);
  });

  it("what a reading rules out foretells something else there, and what it does not rule out foretells just that", () => {
    const random = seededRandom(17);
    for (const { circuit, questions } of exercises("ruleOut"))
      for (const { wanted, ask, leads, why } of questions) {
        if (wanted.kind !== "ticks") continue;
        expect(wanted.right).toContain(true);
        expect(wanted.right).toContain(false);
        const supply = circuit.parts.find((p) => p.kind === "supply") as { volts?: number | null };
        const said = (words: string) =>
          plain(circuit, { quantity: "voltage", from: leads?.red as NodeName }, faultIn(words));
        const held = wanted.options.map((words) => said(words));
        const [near] = held.filter((_, i) => !wanted.right[i]);
        // No part within its tolerance brings what is ruled out to what was read.
        const [, typed] = / reads (.+) against/.exec(ask) ?? [];
        const read = parseQuantity(typed);
        if (read.kind === "mistake") throw new Error(read.why);
        for (const [i, words] of wanted.options.entries())
          for (let n = 0; wanted.right[i] && n < 12; n += 1) {
            const factor = Object.fromEntries(
              circuit.parts.map((p) => [p.designator, 1 + p.tolerance * (2 * random.next() - 1)]),
            );
            const point = { quantity: "voltage", from: leads?.red as NodeName, value: 0 } as const;
            const drawn = plainReading(circuit, point, faultIn(words), { factor }, NO_METER);
            expect(Math.abs(drawn - read.value), `${ask} ${words}`).toBeGreaterThan(0.002 * (supply.volts ?? 1));
          }
        for (const [i, value] of held.entries()) {
          const away = Math.abs(value - near) / (supply.volts ?? 1);
          if (wanted.right[i]) expect(away, `${ask} ${why}`).toBeGreaterThan(0.01);
          else expect(away, `${ask} ${why}`).toBeLessThan(0.06);
        }
      }
  });

  it("the brightest of lamps alike has most volts; what is taken out leaves the others as said", () => {
    for (const { questions } of exercises("lamps"))
      for (const question of questions) {
        const { circuit, ask } = question;
        if (!circuit) throw new Error("no circuit");
        const lamps = circuit.parts.filter((p) => p.kind === "lamp");
        const ratings = new Set(lamps.map((p) => JSON.stringify("resistance" in p && p.resistance)));
        const at = (name: string, faults: readonly PlainFault[]) => {
          const { from, to } = lamps.find((p) => p.designator === name) as Circuit["parts"][number];
          return Math.abs(plain(circuit, { quantity: "voltage", from, to }, faults));
        };
        const [, gone, other] = /^(\S+) is taken out\. What becomes of (\S+)\?/.exec(ask) ?? [];
        if (gone) {
          const [was, is] = [at(other, []), at(other, [{ part: gone, mode: "open", value: 0 }])];
          const due = is < 1.9 ? "dark" : is > was * 1.02 ? "brighter" : is < was * 0.98 ? "dimmer" : "as it was";
          expect(rightOf(question), ask).toEqual([due]);
        } else if (ratings.size === 1) {
          const volts = lamps.map((p) => at(p.designator, []));
          const most = Math.max(...volts);
          const top = lamps.filter((_, i) => volts[i] > most * 0.995).map((p) => p.designator);
          expect(rightOf(question).sort()).toEqual(top.length === lamps.length ? ["all alike"] : top.sort());
        }
      }
  });
});

interface Spot {
  readonly x: number;
  readonly y: number;
}

/** The circuit that a drawing shows: what touches at a point of the drawing is joined, and nothing else is. */
function meetingsIn({ parts, wires }: Tangle, names: readonly string[]): string[] {
  const key = ({ x, y }: { x: number; y: number }) => `${x.toFixed(6)} ${y.toFixed(6)}`;
  const group = new Map<string, string>();
  const root = (p: string): string => {
    const up = group.get(p) ?? p;
    return up === p ? p : root(up);
  };
  for (const { a, b } of wires) group.set(root(key(a)), root(key(b)));
  const ends = new Map<string, string[]>();
  for (const { branch, from, to } of parts)
    for (const [end, sign] of [
      [from, "+"],
      [to, "−"],
    ] as const) {
      const at = root(key(end));
      ends.set(at, [...(ends.get(at) ?? []), names[branch] + (branch === 0 ? sign : "")]);
    }
  return [...ends.values()].map((e) => e.sort().join(" ")).sort();
}

describe("a tangled drawing", () => {
  it("joins what the circuit joins and nothing else, and keeps symbols, names and foreign ends clear", () => {
    let muddled = 0;
    // To lay one out takes longer than all else of an exercise.
    const seeds = IS_DEEP ? SEEDS : SEEDS / 2;
    for (const { circuit, questions } of exercises("tangled", seeds)) {
      const names = circuit.parts.map((p) => p.designator);
      const due = new Map<string, string[]>();
      for (const { designator, from, to, kind } of circuit.parts)
        for (const [node, sign] of [
          [from, "+"],
          [to, "−"],
        ] as const)
          due.set(node, [...(due.get(node) ?? []), designator + (kind === "supply" ? sign : "")]);
      for (const { tangle } of questions) {
        if (!tangle) throw new Error("no drawing");
        expect(meetingsIn(tangle, names)).toEqual([...due.values()].map((e) => e.sort().join(" ")).sort());
        const all = tangle.parts.flatMap((p) => [p.from, p.to]);
        const [left, top, width, height] = tangle.box;
        for (const { x, y } of [...all, ...tangle.parts.map((p) => p.name)])
          expect(x > left && y > top && x < left + width && y < top + height).toBe(true);
        const off = (p: Spot, a: Spot, b: Spot) => {
          const long = Math.hypot(b.x - a.x, b.y - a.y);
          const t = ((p.x - a.x) * (b.x - a.x) + (p.y - a.y) * (b.y - a.y)) / long ** 2;
          const beside = Math.abs((b.x - a.x) * (p.y - a.y) - (b.y - a.y) * (p.x - a.x)) / long;
          return t > 0.01 && t < 0.99 ? beside : Number.POSITIVE_INFINITY;
        };
        for (const { a, b } of tangle.wires) {
          if (all.some((p) => off(p, a, b) < 8)) muddled += 1;
          // Along the middle of each symbol, its own part's too.
          for (const { from, to } of tangle.parts)
            for (const t of [0.25, 0.5, 0.75]) {
              const p = { x: from.x + t * (to.x - from.x), y: from.y + t * (to.y - from.y) };
              if (off(p, a, b) < 11) muddled += 1;
            }
        }
      }
    }
    // Of two drawings for each seed, at most one in forty has a wire where none should be.
    expect(muddled).toBeLessThanOrEqual(Math.ceil(seeds / 20));
  });

  it("is the same circuit whatever nodes are called and which way parts are written; one end moved is another", () => {
    const random = seededRandom(12);
    for (let n = 0; n < SEEDS; n += 1) {
      const circuit = drawCircuit(4 + (n % 5), random);
      const called = (node: string) => (node === circuit.reference ? "G" : `X${node}`) as NodeName;
      const parts = circuit.parts.map((p) => {
        const isTurned = p.kind !== "supply" && random.next() < 0.5;
        return { ...p, from: called(isTurned ? p.to : p.from), to: called(isTurned ? p.from : p.to) };
      });
      const same = { ...circuit, parts: parts.reverse(), reference: "G" as NodeName };
      expect(firstDifference(circuit, same)).toBeNull();
      const [moved] = circuit.parts.filter((p) => p.kind !== "supply");
      const elsewhere = circuit.parts.map((p) => (p === moved ? { ...p, to: "Q" as NodeName } : p));
      expect(firstDifference(circuit, { ...circuit, parts: elsewhere })).toMatch(/meet at one point/);
      expect(firstDifference(circuit, { ...circuit, parts: circuit.parts.filter((p) => p !== moved) })).toMatch(
        `${moved.designator} is missing`,
      );
    }
    const turned = circuitOf("BT1 9V: [A] R1 1k + [B] R2 1k");
    const [bt, ...loads] = turned.parts;
    const wrong = { ...turned, parts: [{ ...bt, from: bt.to, to: bt.from }, ...loads] };
    expect(firstDifference(circuitOf("BT1 9V: [A] R1 1k + [B] R2 1k"), wrong)).not.toBeNull();
  });
});

describe("an answer", () => {
  const figure: Question = {
    ask: "",
    why: "",
    circuit: null,
    wanted: { kind: "figure", unit: "V", value: -4.5, slips: [{ value: 20, why: "subtracted, not added" }] },
  };

  it.each([
    ["-4.5", 1, ""],
    ["−4,5 V", 1, ""],
    ["-4500m", 1, ""],
    ["-4.54", 1, ""],
    ["-4.7", 0, ""],
    ["4.5", 0, "the amount is right, the sign is not"],
    ["20", 0, "subtracted, not added"],
    ["-45", 0, "the digits are right, the prefix or the decimal point is not"],
  ])("%s of −4.5 V is marked with its slip", (typed, due, said) => {
    expect(markAnswer(figure, typed)).toEqual({ share: due, said });
  });

  it("that cannot be read is refused with the reason", () => {
    expect(markAnswer(figure, "4 A")).toMatch(/A where V/);
    expect(markAnswer(figure, "much")).toEqual(expect.any(String));
    const walked: Question = { ...figure, wanted: { kind: "circuit", circuit: circuitOf("BT1 9V: R1 1k + R2 2k") } };
    expect(markAnswer(walked, "BT1 9V: (")).toEqual(expect.any(String));
    expect(markAnswer(walked, "BT1: R1 + R2")).toMatchObject({ share: 1 });
    expect(markAnswer(walked, "BT1 9V: R2 + R1")).toMatchObject({ share: 0, said: expect.stringMatching(/BT1/) });
    expect(markAnswer(walked, "BT1 9V: (R2 | R1)")).toMatchObject({ share: 0, said: expect.stringMatching(/meet/) });
  });
});

it("every exercise is drawn the same by the same seed, and of a circuit of one's own", () => {
  const own = circuitOf("BT1 12V ri=0.2: F1 2A + [A] (LA1 12V 5W | LA2 12V 5W) + [B] R1 10 + [C] R2 22");
  for (const kind of Object.keys(PAPER_KINDS) as PaperKind[]) {
    expect(drawExercise(kind, 9, null, say)).toEqual(drawExercise(kind, 9, null, say));
    expect(drawExercise(kind, 9, own, say), kind).toMatchObject({ kind, circuit: own });
  }
  expect(drawExercise("lamps", 1, circuitOf("BT1 9V: R1 1k + R2 2k"), say)).toMatch(/no such question/);
});

it("results of a set go out as a table, by exercise and learner, and a set is shown without the seeds of its hunts", () => {
  const set = PracticeSet.parse({
    ...{ format: "clever-hound-set", version: 1, name: "Week 1" },
    exercises: [{ what: "hunt", title: "Lamp", trail: "BT1 9V: R1 1k", seed: 77_123 }],
  });
  expect(JSON.stringify(shownSet("00000000-0000-4000-8000-000000000001", set))).not.toContain("77123");
  const hunt = (who: string, more: object) => ({
    ...{ id: who, title: "Lamp", state: "found", count: "one", help: "all", set: { name: "Week 1", exercise: 1 }, who },
    ...{ namings: [], best: { minutes: 2, isRight: true }, createdAt: "2026-01-01T00:00:00Z", truth: null },
    ...{ minutes: 3.5, partCount: 2, unsafe: 1, ...more },
  });
  const wrong = { named: ["R1"], sure: 1, right: 0, minutes: 1, took: 6 };
  const hunts = [
    hunt("=Bo", { namings: [wrong] }),
    hunt("Ann", {}),
    hunt("Cy", { state: "open" }),
    hunt("Di", { set: { name: "Other", exercise: 1 } }),
  ];
  expect(resultsCsv(resultsOf("Week 1", hunts as never, []))).toBe(
    [
      "learner,exercise,title,kind,done,right,minutes,best minutes,wrong names,unsafe acts,at",
      "'=Bo,1,Lamp,hunt,yes,0,3.5,2,1,1,2026-01-01T00:00:00Z",
      "Ann,1,Lamp,hunt,yes,1,3.5,2,0,1,2026-01-01T00:00:00Z",
      "",
    ].join("\r\n"),
  );
});
