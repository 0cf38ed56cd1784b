import { readQuick, renamePart } from "@hound/core/notation";
import type { Job, Reading } from "@hound/core/record";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { ApiError } from "../api/client.ts";
import { JobDesk } from "./desk.ts";
import { readingsOf } from "./ops.ts";
import { Bench, Memory, TRAIL } from "./test/bench.ts";

let server: Bench;
let memory: Memory;
const volts = (from: string, value: number, note?: string): Reading => ({
  quantity: "voltage",
  from,
  value,
  ...(note ? { note } : {}),
});
const effects = (tab: string) => ({ api: server, keep: memory.keeper(tab), see: () => {} });
const open = (tab = "one") => new JobDesk(server.job, memory.kept.get(tab) ?? null, effects(tab));
const settle = () => vi.advanceTimersByTimeAsync(1000);
const valuesOf = (desk: JobDesk) =>
  readingsOf(desk.snapshot()).map((r) => (r.reading.quantity === "voltage" ? r.reading.value : null));

beforeEach(() => {
  vi.useFakeTimers();
  server = new Bench();
  memory = new Memory();
});
afterEach(() => {
  vi.useRealTimers();
});

describe("the desk", () => {
  it("saves the trail once typing pauses, and forgets its draft then", async () => {
    const desk = open();
    for (const end of [" ", " +", " + R4 5"]) desk.setText(TRAIL + end);
    expect(memory.kept.size).toBe(1);
    await settle();
    expect(server.calls).toEqual(["circuit"]);
    expect(server.job.circuit.trail).toBe(`${TRAIL} + R4 5`);
    expect(desk.snapshot().saving).toBe("saved");
    expect(memory.kept.size).toBe(0);
  });

  it("names a junction in the trail before a reading at it goes out", async () => {
    const desk = open();
    const circuit = desk.snapshot().trail.circuit;
    if (!circuit) throw new Error("no circuit");
    const read = readQuick("n1 7.5", circuit);
    if (read.kind !== "reading") throw new Error("no reading");
    desk.addReading(read.reading);
    desk.addReading(volts("n1", 7.4));
    await settle();
    expect(server.calls).toEqual(["circuit", "add", "add"]);
    expect(server.job.circuit.trail).toBe("BT1 9V: R1 1k [n1] + R2 2k + R3 3k");
    expect(server.job.readings.map((r) => r.reading)).toMatchObject([{ from: "n1" }, { from: "n1" }]);
  });

  it("lets what is shown follow while the trail is typed, and catches up for anything else", async () => {
    const desk = open();
    desk.setText(`${TRAIL} + R4 1`, true);
    expect(desk.snapshot()).toMatchObject({ typing: true, text: `${TRAIL} + R4 1` });
    desk.catchUp();
    expect(desk.snapshot().typing).toBe(false);
    desk.setText(`${TRAIL} + R4 1k`, true);
    desk.addReading(volts("0", 0));
    expect(desk.snapshot().typing).toBe(false);
    await settle();
    expect(server.job.circuit.trail).toContain("R4 1k");
  });

  it("takes how the circuit stands along to a part's new name", async () => {
    server.job = { ...server.job, standing: { lifted: ["R2"], swapped: ["R1"] } };
    const desk = open();
    const edited = renamePart(desk.snapshot().trail, "R2", "R7");
    if (edited.kind !== "edited") throw new Error(edited.why);
    desk.edit(edited);
    await settle();
    expect(server.job.standing).toEqual({ lifted: ["R7"], swapped: ["R1"] });
    expect(desk.snapshot().job.standing).toEqual(server.job.standing);
  });

  it("takes a repair under way along to a part's new name", async () => {
    const work = { faults: [{ part: "R2", mode: "open" as const }], done: ["off", "fit R2"], checks: { R2: 2000 } };
    server.job = { ...server.job, work: { ...work, fitted: {}, said: null } };
    const desk = open();
    const edited = renamePart(desk.snapshot().trail, "R2", "R7");
    if (edited.kind !== "edited") throw new Error(edited.why);
    desk.edit(edited);
    await settle();
    expect(server.job.work).toMatchObject({
      faults: [{ part: "R7", mode: "open" }],
      done: ["off", "fit R7"],
      checks: { R7: 2000 },
    });
  });

  it("takes over circuit and readings as one step, for whichever undo takes it back and does it again", async () => {
    server.job = { ...server.job, standing: { lifted: ["R2"] } };
    const desk = open();
    desk.addReading(volts("0", 1));
    await settle();
    const [mine] = readingsOf(desk.snapshot());
    const other = "BT1 5V: R9 1k [Q] + R8 2k";
    const takeBack = desk.bringIn({ text: other, add: [volts("Q", 3), volts("Q", 4)], remove: [mine.id] });
    await settle();
    const isThere = () => {
      expect(server.job.circuit.trail).toBe(other);
      expect(valuesOf(desk)).toEqual([3, 4]);
      expect(server.job.readings.map((r) => r.reading)).toMatchObject([{ from: "Q" }, { from: "Q" }]);
      expect(server.job.standing).toEqual({});
    };
    const isBack = () => {
      expect(server.job.circuit.trail).toBe(TRAIL);
      expect(valuesOf(desk)).toEqual([1]);
      expect(server.job.standing).toEqual({ lifted: ["R2"] });
    };
    isThere();
    takeBack();
    await settle();
    isBack();
    // The editor's redo and undo are nothing but the text changing.
    desk.setText(other);
    await settle();
    isThere();
    desk.setText(TRAIL);
    await settle();
    isBack();
    // Readings alone are taken back by the undo of readings.
    desk.bringIn({ text: null, add: [volts("0", 7)], remove: [] });
    await settle();
    expect(valuesOf(desk)).toEqual([1, 7]);
    desk.undo();
    await settle();
    isBack();
  });

  it("takes back what was done last, one step at a time", async () => {
    const desk = open();
    desk.addReading(volts("0", 1));
    desk.addReading(volts("0", 2));
    await settle();
    const [first] = readingsOf(desk.snapshot());
    desk.correctReading(first.id, volts("0", 3));
    desk.removeReading(first.id);
    await settle();
    expect(valuesOf(desk)).toEqual([2]);
    for (const expected of [[2, 3], [2, 1], [1], []]) {
      expect(desk.undo()).not.toBeNull();
      await settle();
      expect(valuesOf(desk)).toEqual(expected);
    }
    expect(desk.undo()).toBeNull();
    expect(server.job.readings).toEqual([]);
  });

  it("keeps everything over a dead server and a closed page", async () => {
    server.down = true;
    const desk = open();
    desk.setText(`${TRAIL} + R4 5`);
    desk.addReading(volts("0", 1));
    await settle();
    expect(desk.snapshot().saving).toBe("waiting");
    expect(valuesOf(desk)).toEqual([1]);
    const later = open();
    expect(later.snapshot().text).toBe(`${TRAIL} + R4 5`);
    expect(valuesOf(later)).toEqual([1]);
    server.down = false;
    await vi.advanceTimersByTimeAsync(10_000);
    expect(server.job.circuit.trail).toBe(`${TRAIL} + R4 5`);
    expect(server.job.readings).toHaveLength(1);
    expect(memory.kept.size).toBe(0);
  });

  it("shows both versions when somebody else changed the trail, and keeps the chosen one", async () => {
    for (const keep of ["mine", "theirs"] as const) {
      server = new Bench();
      const desk = open();
      await server.saveCircuit("", 0, "BT1 5V: R1 1");
      desk.setText("BT1 9V: R1 7");
      await settle();
      expect(desk.snapshot().conflict?.circuit.trail).toBe("BT1 5V: R1 1");
      expect(desk.snapshot().text).toBe("BT1 9V: R1 7");
      desk.resolve(keep);
      await settle();
      expect(server.job.circuit.trail).toBe(keep === "mine" ? "BT1 9V: R1 7" : "BT1 5V: R1 1");
      // The other one is among the stored versions.
      expect(server.trails).toContain(keep === "mine" ? "BT1 5V: R1 1" : "BT1 9V: R1 7");
      expect(desk.snapshot()).toMatchObject({ conflict: null, text: server.job.circuit.trail, saving: "saved" });
    }
  });

  it("goes on by itself when only the revision was old", async () => {
    const desk = open();
    await server.saveCircuit("", 0, "BT1 9V: R1 1k + [n1] R2 2k");
    desk.addReading(volts("0", 4));
    await settle();
    expect(server.job.readings).toHaveLength(1);
    expect(desk.snapshot()).toMatchObject({ conflict: null, text: "BT1 9V: R1 1k + [n1] R2 2k" });
  });

  it("tells what the server refuses for good, and sends the rest", async () => {
    const desk = open();
    desk.addReading(volts("0", 1, "refuse"));
    desk.addReading(volts("0", 2));
    await settle();
    expect(desk.snapshot()).toMatchObject({ saving: "refused", refused: [{ what: "op", why: "Not understood" }] });
    expect(valuesOf(desk)).toEqual([2]);
    // It is there after the page was closed, can be sent again, and goes only when somebody lets it go.
    const later = open();
    const [refused] = later.snapshot().refused;
    later.sendAgain(refused);
    await settle();
    const [again] = later.snapshot().refused;
    expect(again).toMatchObject({ op: { reading: { value: 1 } } });
    later.putAway(again);
    await settle();
    expect(later.snapshot()).toMatchObject({ saving: "saved", refused: [] });
    expect(memory.kept.size).toBe(0);
  });

  it("says what is on its way at every moment, to whoever listens and to nobody who left", async () => {
    const desk = open();
    const heard: string[] = [];
    const leave = desk.subscribe(() => heard.push(desk.snapshot().saving));
    desk.setText(`${TRAIL} + R4 5`);
    expect(desk.snapshot()).toMatchObject({ saving: "saving", typing: false });
    await settle();
    desk.addReading(volts("0", 1));
    expect(desk.snapshot().saving).toBe("saving");
    expect(readingsOf(desk.snapshot()).map((r) => r.unsent)).toEqual([true]);
    await settle();
    expect(readingsOf(desk.snapshot()).map((r) => r.unsent)).toEqual([false]);
    expect(heard.at(-1)).toBe("saved");
    const before = heard.length;
    leave();
    desk.setText(`${TRAIL} + R4 6`);
    await settle();
    expect(heard).toHaveLength(before);
  });

  it("goes on with what an older version kept, whatever fields it did not know yet", () => {
    const { tags: _, work: __, closing: ___, ...old } = server.job;
    memory.kept.set("one", { base: old as Job, start: null, text: `${TRAIL} + R4 5`, pending: [], refused: [] });
    expect(open().snapshot().job).toMatchObject({ tags: [], work: null, closing: null });
  });

  it("takes a step of several fields back as one, and says what was", async () => {
    const desk = open();
    desk.step({ title: "Other", tags: ["urgent"] }, "As it was");
    await settle();
    expect(server.job).toMatchObject({ title: "Other", tags: ["urgent"] });
    expect(desk.undo()).toBe("As it was");
    await settle();
    expect(server.job).toMatchObject({ title: "Vent", tags: [] });
  });

  it("says what was taken back", async () => {
    const desk = open();
    desk.addReading(volts("0", 1));
    await settle();
    const [{ id }] = readingsOf(desk.snapshot());
    desk.correctReading(id, volts("0", 2));
    desk.removeReading(id);
    expect([desk.undo(), desk.undo(), desk.undo(), desk.undo()]).toEqual([
      "Reading restored",
      "Correction taken back",
      "Reading taken back",
      null,
    ]);
  });

  it("names both junctions of a reading between two that nobody named; a current has none", async () => {
    const desk = open();
    desk.addReading({ quantity: "voltage", from: "n1" as never, to: "n2" as never, value: 3 });
    desk.addReading({ quantity: "current", through: "R1", value: 0.0015 });
    await settle();
    expect(server.job.circuit.trail).toBe("BT1 9V: R1 1k [n1] + R2 2k [n2] + R3 3k");
    expect(server.job.readings.map((r) => r.reading)).toMatchObject([{ from: "n1", to: "n2" }, { through: "R1" }]);
  });

  it("takes over what another device did, and asks only where both changed the trail", async () => {
    const desk = open();
    const theirs = (trail: string) => {
      server.job = { ...server.job, circuit: { trail, revision: server.job.circuit.revision + 1 } };
    };
    theirs(`${TRAIL} + R4 4`);
    await desk.refresh();
    expect(desk.snapshot()).toMatchObject({ text: `${TRAIL} + R4 4`, conflict: null });
    theirs(`${TRAIL} + R4 5`);
    desk.setText(`${TRAIL} + R4 9`);
    await desk.refresh();
    expect(desk.snapshot().conflict?.circuit.trail).toBe(`${TRAIL} + R4 5`);
    // A draft that was left behind and says what is stored by now is no second version.
    const left = {
      base: { ...server.job, circuit: { trail: TRAIL, revision: 0 } },
      start: null,
      pending: [],
      refused: [],
    };
    memory.kept.set("one", { ...left, text: server.job.circuit.trail });
    expect(open().snapshot().conflict).toBeNull();
    memory.kept.set("one", { ...left, text: `${TRAIL} + R4 1` });
    expect(open().snapshot().conflict).not.toBeNull();
  });

  it("takes no answer for news that was asked for before its own write was acknowledged", async () => {
    const desk = open();
    const old = server.job;
    let answer: (job: Job) => void = () => {};
    const asked = vi.fn(() => new Promise<Job>((done) => (answer = done)));
    server.open = asked;
    const looked = desk.refresh();
    desk.setText(`${TRAIL} + R4 4`);
    await settle();
    desk.setText(`${TRAIL} + R4 47`);
    answer(old);
    server.open = () => Promise.resolve(server.job);
    await looked;
    expect(desk.snapshot()).toMatchObject({ text: `${TRAIL} + R4 47`, conflict: null });
    await settle();
    expect(server.job.circuit.trail).toBe(`${TRAIL} + R4 47`);
    expect(asked).toHaveBeenCalledTimes(1);
  });

  it("loses nothing when the server has another database, or the job is gone", async () => {
    server.down = true;
    const desk = open();
    for (const value of [1, 2, 3, 4]) desk.addReading(volts("0", value));
    await settle();
    server.down = false;
    server.addReading = () =>
      Promise.reject(new ApiError(404, { type: "", title: "There is no such job", status: 404 }));
    await vi.advanceTimersByTimeAsync(60_000);
    expect(desk.snapshot().saving).toBe("refused");
    const kept = open().snapshot();
    expect([...kept.pending, ...kept.refused.flatMap((r) => (r.what === "op" ? [r.op] : []))]).toHaveLength(4);
  });

  it("keeps a refused trail in the tray, and lets readings through", async () => {
    const desk = open();
    const save = server.saveCircuit;
    server.saveCircuit = (...given) =>
      given[2].includes("R9")
        ? Promise.reject(new ApiError(400, { type: "", title: "Too long", status: 400 }))
        : save(...given);
    desk.setText(`${TRAIL} + R9 1k`);
    desk.addReading(volts("0", 7));
    await settle();
    expect(server.job.readings).toHaveLength(1);
    expect(desk.snapshot()).toMatchObject({
      text: `${TRAIL} + R9 1k`,
      refused: [{ what: "circuit", why: "Too long" }],
    });
    desk.setText(`${TRAIL} + R8 1k`);
    await settle();
    expect(server.job.circuit.trail).toBe(`${TRAIL} + R8 1k`);
    expect(desk.snapshot().refused).toMatchObject([{ text: `${TRAIL} + R9 1k` }]);
  });

  it("each tab keeps its own, and the next takes over what a closed one left", async () => {
    server.down = true;
    const [one, two] = [open("one"), open("two")];
    one.addReading(volts("0", 1));
    two.addReading(volts("0", 2));
    one.addReading(volts("0", 3));
    one.setText(`${TRAIL} + R4 5`);
    two.changeJob({ finding: "R2" });
    await settle();
    // Both are closed.
    vi.clearAllTimers();
    const left = [...memory.kept.values()];
    memory.kept.clear();
    const three = open("three");
    // The same twice, as where two tabs took it over at once, is the same thing.
    for (const draft of [...left, ...left]) three.takeOver(draft);
    expect(three.snapshot().pending).toHaveLength(4);
    server.down = false;
    await vi.advanceTimersByTimeAsync(60_000);
    expect(server.job.readings.map((r) => "value" in r.reading && r.reading.value).sort()).toEqual([1, 2, 3]);
    expect(server.job).toMatchObject({ circuit: { trail: `${TRAIL} + R4 5` }, finding: "R2" });
    expect(three.snapshot().saving).toBe("saved");
    expect(memory.kept.size).toBe(0);
  });

  it("goes on after an answer that nobody can read, and says so when the device keeps nothing", async () => {
    const desk = open();
    const save = server.addReading;
    let broken = true;
    server.addReading = (...given) =>
      save(...given).then((job) => {
        if (broken) throw new SyntaxError("not JSON");
        return job;
      });
    desk.addReading(volts("0", 1));
    await settle();
    expect(desk.snapshot()).toMatchObject({ saving: "waiting", kept: "yes" });
    memory.isFull = true;
    desk.addReading(volts("0", 2));
    // Nothing is said to be kept before it is.
    expect(desk.snapshot().kept).toBe("busy");
    await vi.advanceTimersByTimeAsync(0);
    expect(desk.snapshot().kept).toBe("no");
    [broken, memory.isFull] = [false, false];
    await vi.advanceTimersByTimeAsync(60_000);
    expect(server.job.readings).toHaveLength(2);
    expect(desk.snapshot()).toMatchObject({ saving: "saved", kept: "yes" });
  });

  it("says of the last write alone whether it is kept, in whatever order the device answers", async () => {
    server.down = true;
    const answers: ((isKept: boolean) => void)[] = [];
    const keep = () => new Promise<boolean>((done) => answers.push(done));
    const desk = new JobDesk(server.job, null, { ...effects("one"), keep });
    desk.addReading(volts("0", 1));
    await settle();
    desk.addReading(volts("0", 2));
    expect(answers).toHaveLength(2);
    answers[1](false);
    await vi.advanceTimersByTimeAsync(0);
    answers[0](true);
    await vi.advanceTimersByTimeAsync(0);
    expect(desk.snapshot().kept).toBe("no");
  });

  it("waits longer from try to try, and tries at once when the server is heard of again", async () => {
    server.down = true;
    const desk = open();
    desk.addReading(volts("0", 1));
    await vi.advanceTimersByTimeAsync(120_000);
    const tries = server.calls.length;
    // At once, and after 1, 2, 4, 8 and 16 seconds more; then every half minute.
    expect(tries).toBe(6 + 2);
    expect(desk.snapshot()).toMatchObject({ saving: "waiting", why: "the server does not answer" });
    server.down = false;
    desk.nudge();
    await vi.advanceTimersByTimeAsync(1);
    expect(desk.snapshot().saving).toBe("saved");
    expect(server.calls).toHaveLength(tries + 1);
  });

  it("lays aside what the server fails at again and again, and goes on with the rest", async () => {
    const desk = open();
    const save = server.addReading;
    server.addReading = (...given) =>
      given[1].reading.note === "poison"
        ? Promise.reject(new ApiError(500, { type: "", title: "Something went wrong on our side", status: 500 }))
        : save(...given);
    desk.addReading(volts("0", 1, "poison"));
    desk.addReading(volts("0", 2));
    await settle();
    expect(desk.snapshot().saving).toBe("waiting");
    await vi.advanceTimersByTimeAsync(300_000);
    expect(valuesOf(desk)).toEqual([2]);
    expect(desk.snapshot()).toMatchObject({
      saving: "refused",
      refused: [{ why: "Something went wrong on our side" }],
    });
  });

  it("takes one fault after a long absence for a passing one", async () => {
    server.down = true;
    const desk = open();
    desk.addReading(volts("0", 1));
    await vi.advanceTimersByTimeAsync(300_000);
    server.down = false;
    const save = server.addReading;
    let faults = 0;
    server.addReading = (...given) => {
      faults += 1;
      return faults === 1
        ? Promise.reject(new ApiError(500, { type: "", title: "Something went wrong on our side", status: 500 }))
        : save(...given);
    };
    await vi.advanceTimersByTimeAsync(120_000);
    expect(desk.snapshot()).toMatchObject({ saving: "saved", refused: [] });
    expect(server.job.readings).toHaveLength(1);
  });

  it("begins a job before the server has it, and sends all of it in order", async () => {
    server.down = true;
    const start = { id: server.job.id, title: "Pump", complaint: "", trail: TRAIL };
    const base = { ...server.job, title: "Pump" };
    const draft = { base, start, text: TRAIL, pending: [], refused: [] };
    const desk = new JobDesk(null, draft, effects("one"));
    desk.setText(`${TRAIL} + R4 5`);
    desk.addReading(volts("0", 1));
    desk.changeJob({ state: "open" });
    await settle();
    expect(desk.snapshot()).toMatchObject({ saving: "waiting", job: { title: "Pump", state: "open" } });
    server.down = false;
    await vi.advanceTimersByTimeAsync(60_000);
    expect(server.calls.slice(-4)).toEqual(["create", "circuit", "add", "job"]);
    expect(server.job).toMatchObject({ title: "Pump", circuit: { trail: `${TRAIL} + R4 5` }, state: "open" });
    expect(desk.isDone).toBe(true);
  });

  it("shows a job as it was last seen while the server is away, and brings it up to date when it is back", async () => {
    server.down = true;
    const seen = server.job;
    const desk = new JobDesk(null, null, effects("one"), seen);
    await settle();
    expect(desk.snapshot()).toMatchObject({ saving: "away", text: TRAIL });
    server.job = { ...server.job, title: "Later", circuit: { trail: `${TRAIL} + R4 5`, revision: 1 } };
    desk.addReading(volts("0", 1));
    expect(desk.snapshot().saving).toBe("waiting");
    server.down = false;
    await vi.advanceTimersByTimeAsync(60_000);
    expect(desk.snapshot()).toMatchObject({ saving: "saved", text: `${TRAIL} + R4 5`, job: { title: "Later" } });
    expect(server.job.readings).toHaveLength(1);
  });

  it("makes one of what two changed on different lines, and of lines that both put in at one place", async () => {
    const base = "title A\nBT1 9V: [A] R1 1k [B] + R2 2k\n[A] R3 3k [B]";
    for (const [mine, theirs, both] of [
      [
        base.replace("R1 1k", "R1 5k"),
        base.replace("R3 3k", "R3 4k"),
        base.replace("R1 1k", "R1 5k").replace("3k", "4k"),
      ],
      [`${base}\n[A] R4 4k [B]`, `${base}\n[A] R5 5k [B]`, `${base}\n[A] R5 5k [B]\n[A] R4 4k [B]`],
      [
        base.replace("title A", "title B"),
        base.replace("\n[A] R3 3k [B]", ""),
        "title B\nBT1 9V: [A] R1 1k [B] + R2 2k",
      ],
    ]) {
      server = new Bench();
      server.job = { ...server.job, circuit: { trail: base, revision: 0 } };
      const desk = open();
      await server.saveCircuit("", 0, theirs);
      desk.setText(mine);
      await settle();
      expect(desk.snapshot()).toMatchObject({ text: both, conflict: null, saving: "saved", merges: 1 });
      expect(server.job.circuit.trail).toBe(both);
    }
    // One part twice would be a mistake that neither made: somebody has to choose.
    server = new Bench();
    const desk = open();
    await server.saveCircuit("", 0, `${TRAIL}\n[n1] R4 1k [n2]`);
    desk.setText(`${TRAIL}\n[n1] R4 2k [n2]`);
    await settle();
    expect(desk.snapshot()).toMatchObject({ saving: "choice" });
    expect(desk.snapshot().conflict).not.toBeNull();
  });

  it("sets a field of a job that somebody changed meanwhile, and leaves theirs as they are", async () => {
    const desk = open();
    let first = true;
    server.change = (_id, change) => {
      if (first) {
        first = false;
        server.job = { ...server.job, title: "Theirs", revision: 5 };
        return Promise.reject(new ApiError(409, { type: "", title: "stale", status: 409, current: server.job }));
      }
      const { revision, ...fields } = change as Partial<Job>;
      expect(revision).toBe(5);
      server.job = { ...server.job, ...fields, revision: 6 };
      return Promise.resolve(server.job);
    };
    desk.changeJob({ finding: "R3 open" });
    expect(desk.snapshot().job.finding).toBe("R3 open");
    await settle();
    expect(desk.snapshot().job).toMatchObject({ finding: "R3 open", title: "Theirs", revision: 6 });
  });

  it("asks about a reading whose point another tab moved while the server was away", async () => {
    server.job = { ...server.job, circuit: { trail: "BT1 9V: R1 1k + [A] R2 2k + [B] R3 1k", revision: 0 } };
    const desk = open();
    server.down = true;
    desk.addReading(volts("A", 6));
    desk.addReading(volts("B", 3));
    await settle();
    server.down = false;
    await server.saveCircuit("", 0, "BT1 9V: R1 1k + [X] R2 2k + [A] R3 1k");
    desk.nudge();
    await settle();
    // A was given to another junction; B has another name.
    expect(server.job.readings.map((r) => r.reading)).toEqual([volts("A", 3)]);
    const { refused, saving } = desk.snapshot();
    expect(saving).toBe("refused");
    expect(refused).toMatchObject([{ op: { reading: volts("A", 6) }, why: /A was moved since/ }]);
  });

  it("takes back its own change of tags and leaves those that others added since", async () => {
    const desk = open();
    desk.step({ tags: ["mine"] }, "Tags as before");
    await settle();
    server.job = { ...server.job, tags: ["mine", "theirs"], revision: 7 };
    await desk.refresh();
    desk.undo();
    await settle();
    expect(server.job.tags).toEqual(["theirs"]);
  });

  it("asks for nothing that it has as it was changed last, but for a job that it never reached", async () => {
    server.job = { ...server.job, updatedAt: "2026-05-01T00:00:00.000Z" };
    const desk = open();
    await desk.refresh("2026-05-01T00:00:00.000Z");
    expect(server.calls).toEqual([]);
    await desk.refresh("2026-05-01T00:00:00.001Z");
    await desk.refresh();
    expect(server.calls).toEqual(["open", "open"]);
    const away = new JobDesk(null, null, effects("two"), server.job);
    await away.refresh(server.job.updatedAt);
    expect(server.calls.length).toBeGreaterThan(2);
  });
});
