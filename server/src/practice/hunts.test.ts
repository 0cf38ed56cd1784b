import type { Circuit } from "@hound/core/circuit";
import { readTrail } from "@hound/core/notation";
import { type Act, COSTS, drawWorld, Hunt, HuntList, hiddenOf } from "@hound/core/practice";
import { Job } from "@hound/core/record";
import { describe, expect, it } from "vitest";
import { rebuildLogbook } from "../jobs/rebuild.ts";
import { apiBench } from "../test/apiBench.ts";

const bench = apiBench();
const TRAIL = "title Shed lamp\nBT1 12V: F1 1A + [A] R1 220 5% + [B] R2 470 5% + [D] LA1 100 5%";
const ID = "00000000-0000-4000-8000-00000000000";
const start = async (n: number, more: object = {}) =>
  Hunt.parse(
    (
      await bench.api
        .post("/api/hunts")
        .send({ id: `${ID}${n}`, title: "Shed lamp", trail: TRAIL, ...more })
        .expect(201)
    ).body,
  );
const act = (n: number, after: number, what: Act) =>
  bench.api.post(`/api/hunts/${ID}${n}/acts`).send({ after, act: what });
const name = (n: number, ...named: string[]) => bench.api.post(`/api/hunts/${ID}${n}/names`).send({ named, sure: 0.8 });

describe("the stand-in bench", () => {
  it("tells nobody what is hidden before it was named: in no answer there is a fault, its value, or the seed", async () => {
    for (const [n, kind] of ["open", "short", "drift", "bridge"].entries()) {
      const seed = 918_273_640 + n;
      const world = drawWorld(readTrail(TRAIL).circuit as Circuit, seed, { kinds: [kind as "open"] });
      if (typeof world === "string") throw new Error(world);
      const [hidden] = hiddenOf(world);
      const answers = [JSON.stringify(await start(n, { seed, kinds: [kind] }))];
      const touches: Act[] = [
        { act: "touch", lead: "black", at: "0" },
        { act: "touch", lead: "red", at: "B" },
        { act: "take" },
        { act: "look", part: "LA1" },
      ];
      for (const [k, one] of touches.entries()) answers.push((await act(n, k, one).expect(200)).text);
      const wrong = world.owners.includes("BT1") ? "F1" : "BT1";
      answers.push((await name(n, wrong).expect(200)).text);
      const job = `/api/jobs/${ID}${n}`;
      for (const path of [
        "/api/hunts",
        `/api/hunts/${ID}${n}`,
        job,
        `${job}/history`,
        `${job}/case`,
        `${job}/believed`,
      ])
        answers.push((await bench.api.get(path).expect(200)).text);
      for (const text of answers) {
        expect(text).not.toContain(String(seed));
        expect(text).not.toMatch(/"mode"|"hidden"|"burnt"|"faults":\[\{/);
        if (hidden.value > 0) expect(text).not.toContain(String(hidden.value).slice(0, 8));
      }
      const done = Hunt.parse((await name(n, ...world.owners).expect(200)).body);
      expect(done).toMatchObject({ state: "found", truth: { faults: [hidden], seed } });
      await bench.api.delete(`/api/hunts/${ID}${n}`).expect(204);
    }
  });

  it("counts minutes, does an act once, charges a wrong name as a swap, and ends with the right one", async () => {
    await start(1, { seed: 5, kinds: ["open"] });
    const { body } = await act(1, 0, { act: "look", part: "LA1" }).expect(200);
    expect(body.told.reading).toMatchObject({ quantity: "observation", seen: "dark" });
    expect((await act(1, 0, { act: "look", part: "LA1" }).expect(200)).body).toEqual(body);
    await act(1, 1, { act: "power", on: false }).expect(200);
    const job = Job.parse((await bench.api.get(`/api/jobs/${ID}1`).expect(200)).body);
    expect(job.readings.map((r) => r.reading)).toMatchObject([
      // What brought it here, and what was looked at.
      { part: "LA1", seen: "dark" },
      { part: "LA1", seen: "dark" },
    ]);
    expect(job.standing).toEqual({ off: ["BT1"] });
    await act(1, 0, { act: "look", part: "F1" }).expect(409);
    await act(1, 7, { act: "look", part: "F1" }).expect(409);
    expect((await act(1, 2, { act: "look", part: "R1" }).expect(200)).body).toMatchObject({
      acts: 2,
      told: { refused: expect.stringContaining("nothing to be seen") },
    });
    const open = Hunt.parse((await name(1).expect(200)).body);
    expect(open).toMatchObject({ state: "open", truth: null, namings: [{ named: [], right: 0, sure: 0.8 }] });
    expect(open.now.minutes).toBe(COSTS.look + COSTS.power + COSTS.swap);
    const over = Hunt.parse((await bench.api.post(`/api/hunts/${ID}1/end`).expect(200)).body);
    expect(over.truth?.faults).toHaveLength(1);
    await act(1, 2, { act: "take" }).expect(409);
    await name(1, "R1").expect(409);
    await bench.api.put(`/api/hunts/${ID}1/best`).send({ minutes: 3, isRight: true }).expect(200);
    const { hunts } = HuntList.parse((await bench.api.get("/api/hunts").expect(200)).body);
    expect(hunts).toMatchObject([{ state: "givenUp", best: { minutes: 3 }, partCount: 5, minutes: 7.75 }]);
  });

  it("is a job that stands in no logbook, teaches nothing, goes into no folder, and can be taken away", async () => {
    const hunt = await start(2);
    const job = Job.parse((await bench.api.get(`/api/jobs/${hunt.id}`).expect(200)).body);
    expect(job).toMatchObject({ title: "Shed lamp", state: "open", situation: "complaint" });
    expect(job.complaint).not.toBe("");
    const lists = async () => (await bench.api.get("/api/jobs").expect(200)).body.total;
    expect(await lists()).toBe(0);
    expect(await rebuildLogbook(bench.db)).toBe(0);
    const reading = { quantity: "voltage", from: "B", value: 3 };
    const sent = { id: `${ID}8`, circuitRevision: 0, reading };
    await bench.api.post(`/api/jobs/${hunt.id}/readings`).send(sent).expect(201);
    expect(await lists()).toBe(0);
    await bench.api.delete(`/api/hunts/${hunt.id}`).expect(204);
    await bench.api.get(`/api/jobs/${hunt.id}`).expect(404);
    await bench.api.get(`/api/hunts/${hunt.id}`).expect(404);
  });

  it("refuses what there can be no hunt on, with the reason", async () => {
    const refused = async (more: object) =>
      (
        await bench.api
          .post("/api/hunts")
          .send({ id: `${ID}3`, title: "x", trail: TRAIL, ...more })
          .expect(422)
      ).body.detail;
    expect(await refused({ trail: "[A] R1 1k [B]" })).toMatch(/no supply/);
    expect(await refused({ trail: "BT1 12V: R1" })).toMatch(/no known value|mistakes/);
    expect(await refused({ trail: "BT1 12V: (R1" })).toMatch(/mistakes/);
    const many = Array.from({ length: 70 }, (_, i) => `R${i + 1} 1k`).join(" + ");
    expect(await refused({ trail: `BT1 12V: ${many}` })).toMatch(/60 parts/);
    await start(4);
    await bench
      .db("hunts")
      .where({ job_id: `${ID}4` })
      .update({ data: "{damaged" });
    await bench.api.get(`/api/hunts/${ID}4`).expect(404);
    expect((await bench.api.get("/api/hunts").expect(200)).body.hunts).toEqual([]);
  });

  it("charges two wrong names as two swaps, and the right one nothing", async () => {
    await start(4, { seed: 5, kinds: ["open"], parts: ["R1"] });
    const wrong = Hunt.parse((await name(4, "F1", "R2").expect(200)).body);
    expect(wrong.now.minutes).toBe(2 * COSTS.swap);
    expect(wrong.namings).toMatchObject([{ right: 0, took: 2 * COSTS.swap, minutes: 0 }]);
    const right = Hunt.parse((await name(4, "R1").expect(200)).body);
    expect(right).toMatchObject({ state: "found", now: { minutes: 2 * COSTS.swap } });
    expect(right.namings[1]).toMatchObject({ right: 1, took: 0 });
    await bench.api.delete(`/api/hunts/${ID}4`).expect(204);
  });

  it("takes in a run that was made elsewhere, once, and no run that still hides something", async () => {
    const seed = 4_711;
    await start(5, { seed, kinds: ["open"] });
    const open = await bench.api.get(`/api/hunts/${ID}5`).expect(200);
    const meter = { name: "by hand" };
    const run = (hunt: object) => ({ format: "clever-hound-hunt", version: 1, trail: TRAIL, meter, hunt });
    await bench.api.post("/api/hunts/runs").send(run(open.body)).expect(422);
    await act(5, 0, { act: "look", part: "LA1" }).expect(200);
    const { body: over } = await bench.api.post(`/api/hunts/${ID}5/end`).expect(200);
    await bench.api.delete(`/api/hunts/${ID}5`).expect(204);
    for (let n = 0; n < 2; n += 1) {
      const { body } = await bench.api.post("/api/hunts/runs").send(run(over)).expect(201);
      expect(Hunt.parse(body)).toEqual(over);
    }
    const job = Job.parse((await bench.api.get(`/api/jobs/${ID}5`).expect(200)).body);
    expect(job.readings.filter((r) => r.reading.quantity === "observation").length).toBeGreaterThan(0);
    await bench.api.delete(`/api/hunts/${ID}5`).expect(204);
  });
});

describe("a set that a teacher hands out", () => {
  const seed = 1_234_567_891;
  const set = {
    format: "clever-hound-set",
    version: 1,
    name: "First week",
    exercises: [
      { what: "hunt", title: "Shed lamp", trail: TRAIL, seed, kinds: ["open"], help: "none" },
      { what: "paper", title: "Two parts", kind: "relation", seed: 3, trail: null },
    ],
  };

  it("hides the same fault from everybody who begins its hunt, and shows nobody the seed", async () => {
    const answers: string[] = [];
    const put = await bench.api.put(`/api/exercises/sets/${ID}6`).send(set).expect(200);
    answers.push(put.text, (await bench.api.get("/api/exercises/sets").expect(200)).text);
    const truths: unknown[] = [];
    for (const [n, who] of [
      [7, "Ann"],
      [8, "Bo"],
    ] as const) {
      const begun = await bench.api
        .post(`/api/exercises/sets/${ID}6/hunts`)
        .set("X-Hound-Who", who)
        .send({ id: `${ID}${n}`, exercise: 1 })
        .expect(201);
      answers.push(begun.text);
      expect(begun.body).toMatchObject({ who, help: "none", set: { name: "First week", exercise: 1 } });
      truths.push(Hunt.parse((await bench.api.post(`/api/hunts/${ID}${n}/end`).expect(200)).body).truth);
    }
    expect(truths[0]).toEqual(truths[1]);
    expect(truths[0]).toMatchObject({ seed });
    for (const text of answers) expect(text).not.toContain(String(seed));
    await bench.api
      .post(`/api/exercises/sets/${ID}6/hunts`)
      .send({ id: `${ID}9`, exercise: 2 })
      .expect(404);
    await bench.api.delete(`/api/exercises/sets/${ID}6`).expect(204);
    await bench.api.delete(`/api/exercises/sets/${ID}6`).expect(404);
    for (const n of [7, 8]) await bench.api.delete(`/api/hunts/${ID}${n}`).expect(204);
  });

  it("keeps an exercise on paper once, under the name of whoever did it", async () => {
    const done = { id: `${ID}6`, kind: "relation", title: "Two parts", seed: 3, trail: null, share: 0.8, questions: 5 };
    for (let n = 0; n < 2; n += 1)
      await bench.api.post("/api/exercises").set("X-Hound-Who", "Ann").send(done).expect(201);
    const { body } = await bench.api.get("/api/exercises").expect(200);
    expect(body.attempts).toMatchObject([{ ...done, who: "Ann" }]);
    await bench.api
      .post("/api/exercises")
      .send({ ...done, share: 1.2 })
      .expect(400);
  });
});
