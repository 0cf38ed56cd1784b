import { keepNumbers, nameNode, readTrail } from "@hound/core/notation";
import type { Job, Reading } from "@hound/core/record";
import { examples } from "@hound/core/test";
import fc from "fast-check";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { JobDesk } from "./desk.ts";
import { mergeTrails } from "./merge.ts";
import { mergeFields, onTopOf } from "./mergeFields.ts";
import { follow } from "./moved.ts";
import { type Fields, type Op, readingsOf } from "./ops.ts";
import { Bench, Memory } from "./test/bench.ts";

const TRAIL = "BT1 12V: R1 1k + [A] R2 1k + [B] R3 1k";
const volts = (from: string, to?: string): Reading => ({
  quantity: "voltage",
  from,
  ...(to === undefined ? {} : { to }),
  value: 5,
});
const add = (reading: Reading): Op => ({ op: "add", id: JSON.stringify(reading), reading });

describe("fields that two changed at once", () => {
  it("keep what each added and lose what either took off", () => {
    const opinion = (part: string, reason: string) => ({ part, reason });
    const base = {
      tags: ["a", "b", "c"],
      priors: { excluded: [opinion("R1", "new")], rates: { lamp: 20 } },
      standing: { switches: { S1: "open" }, lifted: ["R1"] },
      details: { customer: "Ann" },
    } as unknown as Fields;
    const mine = {
      tags: ["b", "c", "mine"],
      priors: { excluded: [opinion("R1", "new"), opinion("R2", "mine")], rates: { lamp: 20, fuse: 5 } },
      standing: { switches: { S1: "open", S2: "closed" }, lifted: [] },
      details: { customer: "Ann", device: "vent" },
    } as unknown as Fields;
    const theirs = {
      ...base,
      tags: ["a", "b", "theirs"],
      priors: { excluded: [opinion("R3", "theirs")], rates: { lamp: 10 } },
      standing: { switches: { S1: "closed" }, lifted: ["R1", "R4"] },
      details: { customer: "Bo" },
    } as unknown as Fields;
    expect(mergeFields(base, mine, theirs)).toEqual({
      tags: ["b", "theirs", "mine"],
      priors: { excluded: [opinion("R3", "theirs"), opinion("R2", "mine")], rates: { lamp: 10, fuse: 5 } },
      standing: { switches: { S1: "closed", S2: "closed" }, lifted: ["R4"] },
      details: { customer: "Bo", device: "vent" },
    });
  });

  it("end with the same set whoever came first, and stay as set where nobody else changed them", () => {
    const tags = fc.uniqueArray(fc.constantFrom("a", "b", "c", "d", "e"));
    fc.assert(
      fc.property(tags, tags, tags, (base, mine, theirs) => {
        const of = (list: string[]): Fields => ({ tags: list });
        const tagsOf = (fields: Fields) => [...(fields.tags ?? [])].sort();
        const one = tagsOf(mergeFields(of(base), of(mine), of(theirs)));
        expect(one).toEqual(tagsOf(mergeFields(of(base), of(theirs), of(mine))));
        // By the law: in it is what both have, and what one of them put in.
        const due = [...new Set([...mine, ...theirs])].filter(
          (t) => !base.includes(t) || (mine.includes(t) && theirs.includes(t)),
        );
        expect(one).toEqual(due.sort());
        expect(mergeFields(of(base), of(mine), of(base))).toEqual(of(mine));
      }),
    );
  });

  it("that hold one thing are as they were set last, and other changes go on as they are", () => {
    const [base, theirs] = [
      { title: "Old", tags: [] },
      { title: "Theirs", tags: ["x"] },
    ] as unknown as Job[];
    const pending: Op[] = [{ op: "set", id: "1", fields: { title: "Mine" } }, add(volts("A"))];
    expect(onTopOf(pending, base, theirs)).toEqual(pending);
    expect(onTopOf([{ op: "set", id: "1", fields: { tags: ["y"] } }], base, theirs)).toEqual([
      { op: "set", id: "1", fields: { tags: ["x", "y"] } },
    ]);
  });
});

describe("trails that two changed", () => {
  it("are not made one where both gave the same new name to two junctions", () => {
    const base = "BT1 9V: R1 1k\n+ R2 2k\n+ R3 3k";
    const [mine, theirs] = ["BT1 9V: R1 1k [A]\n+ R2 2k\n+ R3 3k", "BT1 9V: R1 1k\n+ R2 2k\n+ [A] R3 3k"];
    expect(mergeTrails(base, mine, theirs)).toBeNull();
    expect(mergeTrails(base, mine, theirs.replace("A", "B"))).toBe("BT1 9V: R1 1k [A]\n+ R2 2k\n+ [B] R3 3k");
  });
});

describe("a reading on its way, when the circuit was changed elsewhere", () => {
  const after = (trail: string, reading: Reading) => follow([add(reading)], readTrail(TRAIL), readTrail(trail));

  it("stays at its junction where parts were put in beside it, and follows it to a new name", () => {
    for (const trail of [
      "BT1 12V: R1 1k + [A] R4 5 + R2 1k + [B] R3 1k",
      "BT1 12V: R1 1k + R4 5 + [A] R2 1k + [B] R3 1k",
      "BT1 12V: R1 1k + [A] (R2 1k | R4 5) + [B] R3 1k",
    ])
      expect(after(trail, volts("A"))).toEqual({ pending: [add(volts("A"))], asked: [] });
    const { pending, asked } = after("BT1 12V: R1 1k + [X] R2 1k + [A] R3 1k", volts("B"));
    expect(asked).toEqual([]);
    expect(pending).toMatchObject([{ reading: volts("A") }]);
  });

  it("is asked about where its name is another junction's now, or nobody's", () => {
    const swapped = after("BT1 12V: R1 1k + [B] R2 1k + [A] R3 1k", volts("B", "A"));
    expect(swapped.pending).toEqual([]);
    expect(swapped.asked[0].why).toMatch(
      /^B was moved since: .*, and A was moved since: .*; it was beside R2 and R3 and R1$/,
    );
    const gone = after("BT1 12V: R1 1k + R5 1k", volts("B"));
    expect(gone.asked).toMatchObject([{ what: "op", why: "B is gone since; it was beside R2 and R3" }]);
    expect(gone.pending).toEqual([]);
    // What names no junction goes on.
    const current: Reading = { quantity: "current", through: "R1", value: 0.004 };
    expect(after("BT1 12V: R1 1k + R5 1k", current)).toEqual({ pending: [add(current)], asked: [] });
  });
});

/** A line for each part: two changes seldom meet on one. */
const LINES = "BT1 9V: R1 1k\n+ R2 2k\n+ R3 3k";

/** Leads of parts at the point that a reading names, in a trail; null where it names none. */
function leadsAt(trail: string, reading: Reading): string | null {
  const { circuit } = readTrail(trail);
  if (reading.quantity !== "voltage" || !circuit) return null;
  const leads = circuit.parts.flatMap((p) => [
    ...(p.from === reading.from ? [`${p.designator} from`] : []),
    ...(p.to === reading.from ? [`${p.designator} to`] : []),
  ]);
  return leads.length === 0 ? null : leads.sort().join(" ");
}

describe("two at one job", () => {
  beforeEach(() => {
    vi.useFakeTimers();
  });
  afterEach(() => {
    vi.useRealTimers();
  });

  it("end with the same, whatever is renamed, taken back and read meanwhile; no reading is at another point than it was taken at", async () => {
    const [moves, marks] = [fc.nat(9), fc.nat(2)];
    await fc.assert(
      fc.asyncProperty(
        fc.array(fc.tuple(fc.boolean(), moves, marks), { minLength: 4, maxLength: 24 }),
        async (steps) => {
          const server = new Bench();
          server.job = { ...server.job, circuit: { trail: LINES, revision: 0 } };
          const effects = () => ({ api: server, keep: new Memory().keeper("x"), see: () => {} });
          const desks = [new JobDesk(server.job, null, effects()), new JobDesk(server.job, null, effects())];
          const texts = desks.map(() => [] as string[]);
          const last = desks.map((desk) => desk.snapshot().text);
          const due = new Map<number, string | null>();
          for (const [n, [isFirst, move, mark]] of steps.entries()) {
            const which = isFirst ? 0 : 1;
            const desk = desks[which];
            const { trail, text } = desk.snapshot();
            const nodes = [...new Set(trail.circuit?.parts.flatMap((p) => [p.from, p.to]))].filter((x) => x !== "0");
            const node = nodes[mark % nodes.length];
            if (move < 4) {
              const reading: Reading = { quantity: "voltage", from: node, value: n + 1 };
              due.set(n + 1, leadsAt(text, reading));
              desk.addReading(reading);
            } else if (move < 6) {
              // Of few names, so that one is soon another junction's.
              const edited = keepNumbers(trail, nameNode(trail, node, ["A", "B", "C"][(mark + move) % 3]));
              if (edited.kind !== "edited") continue;
              desk.edit(edited);
            } else if (move === 6) {
              const before = texts[which].pop();
              if (before !== undefined) desk.setText(before);
            } else if (move === 7) desk.undo();
            else if (move === 8) await vi.advanceTimersByTimeAsync(700);
            else await Promise.all(desks.map((one) => one.refresh()));
            // Undone step by step, as the editor does; what came from elsewhere begins its history anew.
            for (const [k, one] of desks.entries()) {
              if (one.snapshot().text === last[k]) continue;
              if (k === which && (move === 4 || move === 5)) texts[k].push(last[k]);
              else if (k !== which || move !== 6) texts[k] = [];
              last[k] = one.snapshot().text;
            }
            if (desks.some((one) => one.snapshot().conflict)) return;
          }
          for (let round = 0; round < 6; round += 1) {
            await vi.advanceTimersByTimeAsync(2000);
            // Two that changed one line are another matter: somebody decides.
            if (desks.some((one) => one.snapshot().conflict)) return;
            await Promise.all(desks.map((one) => one.refresh()));
          }
          const [one, two] = desks.map((desk) => desk.snapshot());
          expect(one.text).toBe(server.job.circuit.trail);
          expect(two.text).toBe(server.job.circuit.trail);
          expect(readingsOf(one).map((r) => r.reading)).toEqual(readingsOf(two).map((r) => r.reading));
          for (const { reading } of server.job.readings) {
            if (reading.quantity !== "voltage") continue;
            expect(leadsAt(server.job.circuit.trail, reading), JSON.stringify(reading)).toBe(due.get(reading.value));
          }
        },
      ),
      examples(300),
    );
  });
});
