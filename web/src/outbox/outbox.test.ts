import "fake-indexeddb/auto";
import type { Job } from "@hound/core/record";
import { openDB } from "idb";
import { beforeEach, describe, expect, it, vi } from "vitest";
import { ApiError } from "../api/client.ts";
import { Desks } from "../desk/desks.ts";
import { readingsOf } from "../desk/ops.ts";
import type { DeskApi } from "../desk/steps.ts";
import { Device } from "./device.ts";
import { type Errand, Errands } from "./errands.ts";

const ID = "00000000-0000-4000-8000-000000000001";
const away = () => new ApiError(0, { type: "", title: "The server does not answer", status: 0 });
/** Waits until something is so, however slow the machine is. */
const until = <T>(check: () => T | Promise<T>) => vi.waitFor(check, { timeout: 60_000, interval: 5 });

/** Lets nothing else be written to the device. @returns what ends that */
async function keepBusy(): Promise<() => void> {
  const db = await openDB("clever-hound");
  const { store } = db.transaction("kept", "readwrite");
  let isBusy = true;
  (async () => {
    while (isBusy) await store.count();
  })();
  return () => {
    isBusy = false;
  };
}

beforeEach(() => {
  vi.stubGlobal("indexedDB", new IDBFactory());
});

describe("what is kept on the device", () => {
  it("belongs to its tab, is there after the tab was loaded anew, and goes to one tab when it is gone", async () => {
    const [one, two] = [await Device.open("one"), await Device.open("two")];
    expect(await one.put("desk:a", { n: 1 })).toBe(true);
    expect(await two.put("desk:a", { n: 2 })).toBe(true);
    expect(await two.put("form:x", "typed")).toBe(true);
    expect((await Device.open("one")).get("desk:a")).toEqual({ n: 1 });
    expect(await one.others()).toEqual(["two"]);
    const three = await Device.open("three");
    const [first, second] = await Promise.all([one.take("two"), three.take("two")]);
    expect([...first, ...second].sort()).toHaveLength(2);
    expect(first).toEqual(["desk:a~two", "form:x"]);
    expect(one.get("desk:a~two")).toEqual({ n: 2 });
    expect((await Device.open("one")).keys("").sort()).toEqual(["desk:a", "desk:a~two", "form:x"]);
    await one.remove("desk:a");
    expect((await Device.open("one")).get("desk:a")).toBeNull();
  });

  it("gives what was seen under its own name, also to a tab that opens while another sees more", async () => {
    const one = await Device.open("one");
    const names: string[] = [];
    let isOver = false;
    const seeing = (async () => {
      // Each name comes before the others: what is read later stands one further on.
      for (let n = 999; n > 700 && !isOver; n -= 1) {
        const name = `list:${n}`;
        names.push(name);
        one.see(name, name, n);
        await new Promise((done) => setTimeout(done, 0));
      }
    })();
    for (let n = 0; n < 40; n += 1) {
      const other = await Device.open(`other ${n}`);
      for (const name of names) {
        const seen = other.lastSeen(name);
        if (seen) expect(seen.value).toBe(name);
      }
    }
    isOver = true;
    await seeing;
    expect(names.length).toBeGreaterThan(20);
  });

  it("is said not to be kept where the browser keeps nothing, as long as it does not", async () => {
    vi.stubGlobal("indexedDB", undefined);
    const device = await Device.open("one");
    expect(device.keeps).toBe(false);
    expect(await device.put("desk:a", 1)).toBe(false);
    expect(device.get("desk:a")).toBe(1);
    vi.stubGlobal("indexedDB", new IDBFactory());
    const full = await Device.open("two");
    const told: boolean[] = [];
    full.watch("form:", () => told.push(full.keeps));
    // What cannot be copied is refused as what has no room is.
    expect(await full.put("desk:a", () => 1)).toBe(false);
    expect(await full.put("desk:a", 1)).toBe(true);
    expect(told).toEqual([false, true]);
  });

  it("is not lost where the page ends while the store is busy with something else, whoever opens it next", async () => {
    const one = await Device.open("one");
    await one.put("form:a", "old");
    await one.put("form:b", "old");
    // A browser finishes the transaction in flight of a page that is closed, and drops those that wait behind it.
    const stop = await keepBusy();
    for (const text of ["t", "ty", "typed"]) one.put("form:a", text);
    one.remove("form:b");
    one.put("errand:p", { file: new Blob(["picture"]) });
    const before = indexedDB;
    for (const opens of ["one", "two"]) {
      vi.stubGlobal("indexedDB", new IDBFactory());
      await Device.open("none");
      await (await openDB("clever-hound")).put("kept", { tab: "one", key: "form:b", value: "old" });
      const first = await Device.open(opens);
      if (opens === "two") {
        expect(await first.others()).toEqual(["one"]);
        await first.take("one");
      }
      expect([first.get("form:a"), first.get("form:b"), first.get("errand:p")]).toEqual(["typed", null, null]);
      await until(async () => expect((await Device.open(opens)).get("form:a")).toBe("typed"));
      if (opens === "two") expect(await first.others()).toEqual([]);
      one.put("form:a", "typed");
      one.remove("form:b");
    }
    vi.stubGlobal("indexedDB", before);
    stop();
  });

  it("tells whoever watches a form what is put there, and what a closed tab left", async () => {
    const [one, two] = [await Device.open("one"), await Device.open("two")];
    const heard: unknown[] = [];
    const stop = one.watch("form:a", () => heard.push(one.get("form:a")));
    one.put("form:a", "x");
    one.put("form:b", "y");
    one.remove("form:a");
    await two.put("form:a", "left");
    await one.take("two");
    stop();
    one.put("form:a", "z");
    expect(heard).toEqual(["x", null, "left"]);
  });
});

describe("the desks of a tab", () => {
  const job = (readings: number[] = []): Job =>
    ({
      id: ID,
      title: "Vent",
      circuit: { trail: "BT1 9V: R1 1k", revision: 0 },
      readings: readings.map((value, i) => ({
        id: `${i}`,
        revision: 0,
        createdAt: "",
        reading: { quantity: "voltage", from: "0", value },
      })),
      standing: {},
    }) as unknown as Job;

  it("keep what is typed while the server is away, also of a job that was never there, through a reload", async () => {
    const down = async () => Promise.reject(away());
    const api = { open: down, create: down, addReading: down, saveCircuit: down } as unknown as DeskApi;
    const desks = new Desks(api, await Device.open("one"), () => new Date(0));
    const id = desks.create({ title: "Pump", complaint: "", trail: "BT1 9V: R1 1k" });
    (await desks.open(id)).addReading({ quantity: "voltage", from: "0", value: 3 } as never);
    await until(async () => {
      const kept = await Device.open("one");
      expect(JSON.stringify(kept.keys("desk:").map((key) => kept.get(key)))).toContain('"value":3');
    });
    const sent: string[] = [];
    const up = {
      create: async (start: { id: string }) => {
        sent.push("create");
        return { ...job(), id: start.id };
      },
      addReading: async () => {
        sent.push("add");
        return { ...job([3]), id };
      },
    } as unknown as DeskApi;
    const device = await Device.open("one");
    const later = new Desks(up, device, () => new Date(0));
    later.resume();
    const desk = await later.open(id);
    expect(readingsOf(desk.snapshot())).toMatchObject([{ unsent: true, reading: { value: 3 } }]);
    await until(() => expect([later.unsaved(), device.keys("desk:")]).toEqual([[], []]));
    expect(sent).toEqual(["create", "add"]);
  });

  it("show a job as it was last seen where the server does not answer, and nothing of one that is unknown", async () => {
    const device = await Device.open("one");
    const api = { open: async () => job() } as unknown as DeskApi;
    await new Desks(api, device, () => new Date(0)).open(ID);
    const none = { open: () => Promise.reject(away()) } as unknown as DeskApi;
    const desks = await until(async () => {
      const later = new Desks(none, await Device.open("two"), () => new Date(0));
      expect((await later.open(ID)).snapshot().job.title).toBe("Vent");
      return later;
    });
    await expect(desks.open("another")).rejects.toThrow("The server does not answer");
    // A server that answers, and has no such job, is believed.
    const gone = new ApiError(404, { type: "", title: "There is no such job", status: 404 });
    const other = { open: () => Promise.reject(gone) } as unknown as DeskApi;
    const next = new Desks(other, await Device.open("three"), () => new Date(0));
    await expect(next.open(ID)).rejects.toThrow("There is no such job");
  });
});

describe("errands", () => {
  const setUp = async (send: (body: never, current: unknown) => Promise<unknown>) => {
    const device = await Device.open("one");
    const done: Errand[] = [];
    return { device, done, errands: new Errands({ put: { send } }, device, (errand) => done.push(errand)) };
  };

  it("are done in order, and the answer comes to who asked", async () => {
    const seen: unknown[] = [];
    const { errands, done, device } = await setUp(async (body) => {
      seen.push(body);
      return `did ${body}`;
    });
    expect(await Promise.all(["a", "b"].map((b) => errands.run("put", b, b)))).toEqual(["did a", "did b"]);
    expect(seen).toEqual(["a", "b"]);
    expect(done.map((e) => e.words)).toEqual(["a", "b"]);
    expect([errands.snapshot().list, device.keys("errand:")]).toEqual([[], []]);
  });

  it("wait for a server that is away, also in the next tab, and stay in sight where they are refused", async () => {
    const { errands } = await setUp(() => Promise.reject(away()));
    errands.run("put", "a", "A").catch(() => {});
    errands.run("put", "b", "B").catch(() => {});
    await until(() =>
      expect(errands.snapshot()).toMatchObject({
        why: "the server does not answer",
        list: [{ words: "A" }, { words: "B" }],
      }),
    );
    const device = await Device.open("two");
    const keys = await device.take("one");
    const refuse = async (body: string) => {
      if (body === "a") throw new ApiError(400, { type: "", title: "Not understood", status: 400 });
    };
    const next = new Errands({ put: { send: refuse as never } }, device, () => {});
    for (const key of keys) next.takeOver(key);
    await until(() => expect(next.snapshot().list).toMatchObject([{ words: "A", refused: "Not understood" }]));
    next.putAway(next.snapshot().list[0]);
    await until(async () => expect((await Device.open("two")).keys("errand:")).toEqual([]));
  });

  it("for a job that the server does not have yet wait for it, and only they", async () => {
    const sent: string[] = [];
    const kinds = { note: { send: async (body: { text: string }) => sent.push(body.text) } };
    let isHeld = true;
    const errands = new Errands(
      kinds as never,
      await Device.open("one"),
      () => {},
      ({ body }) => isHeld && body === held,
    );
    const held = { text: "for a new one" };
    const first = errands.run("note", held, "Note");
    await errands.run("note", { text: "for another" }, "Note");
    expect(sent).toEqual(["for another"]);
    isHeld = false;
    errands.nudge();
    await first;
    expect(sent).toEqual(["for another", "for a new one"]);
  });

  it("that are taken over while another is on its way bear nothing that was meant for that one", async () => {
    const stale = new ApiError(409, { type: "", title: "stale", status: 409, current: { revision: 7 } });
    const seen: [string, unknown][] = [];
    let answer: (error: Error) => void = () => {};
    const { errands, device } = await setUp(((body: string, current: unknown) => {
      seen.push([body, current]);
      if (body !== "own" || current) return Promise.resolve(body);
      return new Promise((_, fail) => {
        answer = fail;
      });
    }) as never);
    const older = (id: string): Errand => ({ id, kind: "put", body: id, words: id, turn: 0 });
    const takeOver = async (id: string) => {
      await device.put(`errand:${id}`, older(id));
      errands.takeOver(`errand:${id}`);
    };
    const own = errands.run("put", "own", "own");
    await until(() => expect(seen).toHaveLength(1));
    await takeOver("first");
    answer(stale);
    expect(await own).toBe("own");
    expect(seen).toEqual([
      ["own", undefined],
      ["first", undefined],
      ["own", { revision: 7 }],
    ]);
    const second = errands.run("put", "own", "again");
    second.catch(() => {});
    await until(() => expect(seen).toHaveLength(4));
    await takeOver("other");
    answer(new ApiError(400, { type: "", title: "Not understood", status: 400 }));
    await expect(second).rejects.toThrow("Not understood");
    await until(() => expect(seen.at(-1)).toEqual(["other", undefined]));
    expect(errands.snapshot().list).toMatchObject([{ words: "again", refused: "Not understood" }]);
  });

  it("that change what is there no more, or meet others without end, lie in the tray, and the next go on", async () => {
    const stale = (current: unknown) => new ApiError(409, { type: "", title: "stale", status: 409, current });
    const { errands } = await setUp(async (body) => {
      if (body === "gone") throw stale(null);
      if (body === "endless") throw stale({ revision: 1 });
      return body;
    });
    vi.useFakeTimers({ toFake: ["setTimeout", "clearTimeout"] });
    const asked = ["gone", "endless", "good"].map((body) => errands.run("put", body, body).catch(() => "refused"));
    const ends: unknown[] = [];
    Promise.all(asked).then((all) => ends.push(...all));
    while (ends.length === 0) {
      await vi.advanceTimersByTimeAsync(1000);
      await new Promise((done) => setImmediate(done));
    }
    vi.useRealTimers();
    expect(ends).toEqual(["refused", "refused", "good"]);
    expect(errands.snapshot().list).toMatchObject([{ words: "gone" }, { words: "endless" }]);
  });

  it("that meet somebody else's change are told of it and go on", async () => {
    const { errands } = await setUp(async (_body, current) => {
      if (!current) throw new ApiError(409, { type: "", title: "stale", status: 409, current: { revision: 7 } });
      return current;
    });
    expect(await errands.run("put", "a", "A")).toEqual({ revision: 7 });
  });
});
