import { type Circuit, fingerprintOf } from "@hound/core/circuit";
import { habitsOf } from "@hound/core/faults";
import { readTrail } from "@hound/core/notation";
import { Believed, Habits, Job, JobHistory, JobList, Statistics } from "@hound/core/record";
import { describe, expect, it } from "vitest";
import { rebuildLogbook } from "../jobs/rebuild.ts";
import { apiBench } from "../test/apiBench.ts";
import { rateOf } from "./statistics.ts";

const PUMP = "BT1 12V: F1 3A + J1 + [A] R1 100 + J2 + [B] M1 12";
const VENT = "BT1 24V: F1 1A + [A] R1 220 + [B] R2 1k";

const bench = apiBench({ at: Date.UTC(2026, 2, 1), step: 60_000 });

interface Ended {
  readonly title?: string;
  readonly trail?: string;
  readonly faults: readonly { part: string; mode: string }[];
  readonly minutes?: number;
  /** What was said of repairs, the likeliest first. */
  readonly said?: readonly { part: string; probability: number }[];
  readonly fields?: object;
}

async function ended({ title = "Pump controller", trail = PUMP, faults, minutes, said, fields }: Ended): Promise<Job> {
  const { body } = await bench.api.post("/api/jobs").send({ title, trail }).expect(201);
  const repairs = said?.map(({ part, probability }) => ({ repair: [{ part }], probability }));
  const closing = {
    outcome: faults.length > 0 ? "found" : "nothing",
    faults,
    ...(minutes === undefined ? {} : { minutes }),
    said: repairs ? { repairs, suspects: [], readings: 3 } : null,
    at: new Date(bench.clock).toISOString(),
  };
  const change = { revision: body.revision, state: "solved", closing, ...fields };
  return Job.parse((await bench.api.patch(`/api/jobs/${body.id}`).send(change).expect(200)).body);
}

const list = async (query: string) => JobList.parse((await bench.api.get(`/api/jobs?${query}`).expect(200)).body);
const titles = async (query: string) => (await list(query)).jobs.map((j) => j.title);

describe("the logbook", () => {
  it("finds a job by any word of it: title, complaint, finding, part, circuit, customer, tag, note", async () => {
    const { id, revision } = await ended({
      title: "Tröpfel pump",
      trail: `title Pump, upper house\n${PUMP}`,
      faults: [{ part: "J2", mode: "high" }],
      fields: {
        complaint: "starts slowly",
        finding: "green corrosion in the plug",
        details: { customer: "Halloway nursery" },
        tags: ["urgent", "second visit"],
      },
    });
    await bench.api
      .post(`/api/jobs/${id}/notes`)
      .send({ id: "00000000-0000-4000-8000-000000000009", text: "Seal was brittle" });
    await ended({ title: "Vent drive", trail: VENT, faults: [] });
    for (const words of ["tropfel", "slow", "corrosion plug", "j2", "upper house", "hallo", "urgent", "brittle seal"])
      expect(await titles(`search=${encodeURIComponent(words)}`), words).toEqual(["Tröpfel pump"]);
    expect(await titles("search=corrosion+vent")).toEqual([]);
    expect(await titles("search=%22%27%3B--")).toEqual([]);
    expect((await list("search=corrosion")).jobs[0].hit).toMatch(/green ‹corrosion› in the plug/);
    // A job that is changed is found by what it says now.
    await bench.api.patch(`/api/jobs/${id}`).send({ revision, finding: "wrong plug" }).expect(200);
    expect(await titles("search=corrosion")).toEqual([]);
    expect(await titles("search=wrong")).toEqual(["Tröpfel pump"]);
  });

  it("filters by state, outcome, circuit, part, tag and day, sorts, and says how many there are", async () => {
    const one = await ended({
      title: "A",
      faults: [{ part: "J2", mode: "high" }],
      minutes: 30,
      fields: { tags: ["Urgent"] },
    });
    await ended({ title: "B", faults: [{ part: "M1", mode: "open" }], minutes: 10 });
    await ended({ title: "C", trail: VENT, faults: [] });
    await bench.api.post("/api/jobs").send({ title: "D", trail: `${PUMP}   # the same parts` });
    const [{ circuit }] = (await list("search=A")).jobs;
    const cases: readonly [string, readonly string[]][] = [
      ["state=new", ["D"]],
      ["outcome=found&sort=title", ["A", "B"]],
      ["outcome=nothing", ["C"]],
      [`circuit=${circuit}&sort=title`, ["A", "B", "D"]],
      ["part=J2", ["A"]],
      ["tag=urgent", ["A"]],
      ["sort=minutes&outcome=found", ["A", "B"]],
      ["from=2026-03-01&to=2026-03-01&sort=title", ["A", "B", "C", "D"]],
      ["from=2026-03-02", []],
    ];
    for (const [query, expected] of cases) expect(await titles(query), query).toEqual(expected);
    expect(await list("limit=1&skip=1&sort=title")).toMatchObject({ total: 4, jobs: [{ title: "B" }] });
    await bench.api.delete(`/api/jobs/${one.id}`).expect(204);
    expect(await titles("outcome=found")).toEqual(["B"]);
    expect(await titles("deleted=true")).toEqual(["A"]);
    // Emptied is gone for good, words and all.
    expect((await bench.api.post("/api/jobs/empty").expect(200)).body).toEqual({ jobs: 1 });
    expect(await titles("deleted=true")).toEqual([]);
    expect((await bench.db.raw("SELECT count(*) AS n FROM words"))[0].n).toBe(3);
    for (const table of ["found_faults", "readings", "circuits", "history"])
      expect(await bench.db(table).where({ job_id: one.id }), table).toEqual([]);
  });

  it("counts what fails, with intervals, minutes, whether the first was right, and how true what was said was", async () => {
    const j2 = { part: "J2", mode: "high" };
    await ended({
      faults: [j2],
      minutes: 10,
      said: [
        { part: "J2", probability: 0.9 },
        { part: "M1", probability: 0.1 },
      ],
    });
    await ended({
      faults: [j2],
      minutes: 20,
      said: [
        { part: "J2", probability: 0.7 },
        { part: "M1", probability: 0.3 },
      ],
    });
    await ended({
      faults: [{ part: "M1", mode: "open" }],
      minutes: 60,
      said: [
        { part: "J2", probability: 0.8 },
        { part: "M1", probability: 0.2 },
      ],
    });
    await ended({ trail: VENT, faults: [] });
    const gone = await ended({ faults: [j2], minutes: 500 });
    await bench.api.delete(`/api/jobs/${gone.id}`).expect(204);
    const found = Statistics.parse((await bench.api.get("/api/statistics").expect(200)).body);
    expect(found.outcomes).toEqual({ found: 3, nothing: 1, givenUp: 0 });
    expect(found.circuits).toHaveLength(1);
    expect(found.circuits[0]).toMatchObject({ jobs: 3, name: "Pump controller", minutes: 30 });
    expect(found.circuits[0].parts.map((p) => `${p.part} ${p.mode} ${p.rate.times}/${p.rate.of}`)).toEqual([
      "J2 high 2/3",
      "M1 open 1/3",
    ]);
    expect(found.kinds.map((k) => `${k.kind} ${k.rate.times}`)).toEqual(["connector 2", "coil 1"]);
    expect(found.minutes).toEqual({ median: 20, counted: 3 });
    expect(found.firstRight).toMatchObject({ times: 2, of: 3 });
    // 0.1 and 0.2 and 0.3 were said of what was not, but for 0.2; 0.7, 0.8, 0.9 of what was, but for 0.8.
    expect(found.calibration.map((c) => [Number(c.said.toFixed(2)), c.rate.times, c.rate.of])).toEqual([
      [0.1, 0, 1],
      [0.25, 1, 2],
      [0.7, 1, 1],
      [0.85, 1, 2],
    ]);
  });

  it("gives an interval that Wilson's formula gives by hand", () => {
    // 4 of 9: centre (4/9 + 3.8415/18)/(1 + 3.8415/9), half 1.96·√(20/81/9 + 3.8415/324)/(1 + 3.8415/9).
    const rate = rateOf(4, 9);
    expect(rate.low).toBeCloseTo(0.1888, 3);
    expect(rate.high).toBeCloseTo(0.7334, 3);
    expect(rateOf(0, 0)).toMatchObject({ low: 0, high: 1 });
  });

  it("teaches habits by kind and by circuit, from a day on, with what was added by hand", async () => {
    await ended({ faults: [{ part: "J2", mode: "high" }] });
    await ended({
      faults: [
        { part: "J2", mode: "high" },
        { part: "F1", mode: "open" },
      ],
    });
    await ended({ trail: VENT, faults: [{ part: "R1", mode: "open" }] });
    const read = async () => Habits.parse((await bench.api.get("/api/habits").expect(200)).body);
    const habits = await read();
    expect(habits.jobs).toBe(3);
    expect(habits.kinds.map((k) => `${k.kind} ${k.mode} ${k.count}`).sort()).toEqual([
      "connector high 2",
      "fuse open 1",
      "resistor open 1",
    ]);
    expect(habits.circuits[0]).toMatchObject({
      jobs: 2,
      parts: expect.arrayContaining([{ part: "J2", mode: "high", count: 2 }]),
    });
    // Four faults in all: what was to be expected adds up to them, by parts times rate.
    expect(Object.values(habits.expected).reduce((s, n) => s + n, 0)).toBeCloseTo(4, 9);
    const { exposure } = await bench.db("circuits").first();
    expect(JSON.parse(exposure)).toMatchObject({ connector: 2, fuse: 1, resistor: 1, coil: 1, supply: 1 });
    const since = new Date(bench.clock + 1000).toISOString();
    const patch = (body: object) => bench.api.patch("/api/habits").send(body).expect(200);
    const lamp = { kind: "lamp", mode: "open" };
    const more = { id: crypto.randomUUID(), since, adjust: { ...lamp, by: 3 } };
    const changed = Habits.parse((await patch(more)).body);
    expect(changed.expected).toEqual({});
    expect(changed).toMatchObject({
      jobs: 0,
      kinds: [],
      settings: { revision: 1, since, isOn: true, adjust: [{ ...lamp, count: 3 }] },
    });
    // Sent again it is done once; what somebody else changed stays.
    await patch({ id: crypto.randomUUID(), isOn: false });
    await patch({ id: crypto.randomUUID(), adjust: { ...lamp, by: -1 } });
    await patch(more);
    expect((await read()).settings).toMatchObject({ isOn: false, since, adjust: [{ ...lamp, count: 2 }] });
    await patch({ id: crypto.randomUUID(), adjust: { ...lamp, by: -2 } });
    expect((await read()).settings.adjust).toEqual([]);
    await patch({ id: crypto.randomUUID(), isCleared: true, isOn: true });
    await ended({ faults: [{ part: "J1", mode: "open" }] });
    expect((await read()).kinds).toEqual([{ kind: "connector", mode: "open", count: 1 }]);
  });

  it("keeps what was believed of a job at each change, whatever is closed, reopened or switched off since", async () => {
    const twice = [{ part: "J2", mode: "high", count: 2 }];
    const habitsNow = async () => habitsOf(Habits.parse((await bench.api.get("/api/habits").expect(200)).body), pump);
    const pump = fingerprintOf(readTrail(PUMP).circuit as Circuit);
    await ended({ faults: [{ part: "J2", mode: "high" }] });
    const first = await ended({ faults: [{ part: "J2", mode: "high" }] });
    const learnt = await habitsNow();
    expect(learnt).toMatchObject({ failed: twice });
    const { body: job } = await bench.api.post("/api/jobs").send({ title: "Third", trail: PUMP }).expect(201);
    const believed = async () =>
      Believed.parse((await bench.api.get(`/api/jobs/${job.id}/believed`).expect(200)).body).believed;
    expect(await believed()).toEqual([{ at: job.createdAt, habits: learnt }]);
    // What is found in the job itself taught nothing before it was closed.
    const closing = { outcome: "found", faults: [{ part: "F1", mode: "open" }], said: null, at: job.createdAt };
    await bench.api.patch(`/api/jobs/${job.id}`).send({ revision: 0, state: "solved", closing }).expect(200);
    expect(await believed()).toHaveLength(1);
    await bench.api.delete(`/api/jobs/${first.id}`).expect(204);
    await bench.api.patch("/api/habits").send({ id: crypto.randomUUID(), isOn: false }).expect(200);
    const note = { id: crypto.randomUUID(), text: "came back" };
    const { body: noted } = await bench.api.post(`/api/jobs/${job.id}/notes`).send(note).expect(201);
    await bench.api
      .post(`/api/jobs/${job.id}/notes`)
      .send({ ...note, id: crypto.randomUUID() })
      .expect(201);
    expect(await believed()).toEqual([
      { at: job.createdAt, habits: learnt },
      { at: noted.updatedAt, habits: {} },
    ]);
    // Of a job from before they were kept: what had been closed until it was begun.
    await bench.api.patch("/api/habits").send({ id: crypto.randomUUID(), isOn: true }).expect(200);
    await bench.db("believed").del();
    const [{ habits }] = await believed();
    expect(habits).toMatchObject({ failed: [{ part: "J2", mode: "high", count: 1 }] });
  });

  it("is made anew of jobs that an older version wrote", async () => {
    await ended({ title: "Old job", faults: [{ part: "J2", mode: "high" }] });
    for (const table of ["logbook", "found_faults"]) await bench.db(table).del();
    await bench.db.raw("DELETE FROM words");
    await bench.db("circuits").update({ key: null, name: null, kinds: null });
    expect(await titles("")).toEqual([]);
    expect(await rebuildLogbook(bench.db)).toBe(1);
    expect(await titles("search=old&part=J2")).toEqual(["Old job"]);
    expect((await bench.api.get("/api/habits")).body.kinds).toEqual([{ kind: "connector", mode: "high", count: 1 }]);
  });

  it("says who did what, and adds minutes up", async () => {
    const { body } = await bench.api
      .post("/api/jobs")
      .set("x-hound-who", "Ann")
      .send({ title: "Named", trail: PUMP })
      .expect(201);
    const who = encodeURIComponent("Bö");
    await bench.api
      .patch(`/api/jobs/${body.id}`)
      .set("x-hound-who", who)
      .send({ revision: 0, title: "Renamed" })
      .expect(200);
    await bench.api
      .put(`/api/jobs/${body.id}/circuit`)
      .set("x-hound-who", who)
      .send({ revision: 0, trail: VENT })
      .expect(200);
    const note = { id: "00000000-0000-4000-8000-000000000009", text: "warm to the hand" };
    for (const _ of [1, 2])
      await bench.api.post(`/api/jobs/${body.id}/notes`).set("x-hound-who", "Ann").send(note).expect(201);
    const { entries } = JobHistory.parse((await bench.api.get(`/api/jobs/${body.id}/history`).expect(200)).body);
    expect(entries.map((e) => `${e.what} ${e.who}`)).toEqual(["note Ann", "circuit Bö", "field Bö", "job Ann"]);
    for (const minutes of [1.5, 2])
      await bench.api.post(`/api/jobs/${body.id}/minutes`).send({ stage: "readings", minutes }).expect(204);
    expect((await bench.api.get(`/api/jobs/${body.id}/minutes`).expect(200)).body).toEqual({ readings: 3.5 });
    await bench.api.post(`/api/jobs/${body.id}/minutes`).send({ stage: "lunch", minutes: 30 }).expect(400);
  });
});
