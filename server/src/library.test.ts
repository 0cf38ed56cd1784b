import { Conventions, Job, LibraryCircuit, LibraryList, ProblemDetails } from "@hound/core/record";
import { describe, expect, it } from "vitest";
import { apiBench } from "./test/apiBench.ts";

const bench = apiBench();

const keep = async (fields: object = {}) =>
  LibraryCircuit.parse(
    (
      await bench.api
        .post("/api/library")
        .send({ name: "Vent drive", notes: "all houses", trail: "BT1 9V: R1 1k", ...fields })
        .expect(201)
    ).body,
  );

describe("the library API", () => {
  it("keeps circuits by name, finds them, and keeps every version", async () => {
    const kept = await keep();
    await keep({ name: "Pump", notes: "" });
    const list = async (query = "") =>
      LibraryList.parse((await bench.api.get(`/api/library${query}`).expect(200)).body).circuits.map((c) => c.name);
    expect(await list()).toEqual(["Pump", "Vent drive"]);
    expect(await list("?search=houses")).toEqual(["Vent drive"]);
    const change = (revision: number, fields: object) =>
      bench.api.patch(`/api/library/${kept.id}`).send({ revision, ...fields });
    const second = LibraryCircuit.parse((await change(0, { trail: "BT1 9V: R1 2k + R2 5" }).expect(200)).body);
    expect(second.revisions.map((r) => r.trail)).toEqual(["BT1 9V: R1 2k + R2 5", "BT1 9V: R1 1k"]);
    expect([second.revision, second.partCount]).toEqual([1, 3]);
    const renamed = LibraryCircuit.parse((await change(1, { name: "Vent drive, new" }).expect(200)).body);
    expect([renamed.revision, renamed.name]).toEqual([1, "Vent drive, new"]);
    const stale = ProblemDetails.parse((await change(0, { trail: "BT1 1V: R1 1" }).expect(409)).body);
    expect(LibraryCircuit.parse(stale.current).trail).toBe("BT1 9V: R1 2k + R2 5");
    await bench.api.delete(`/api/library/${kept.id}`).expect(200);
    expect([await list(), await list("?deleted=true")]).toEqual([["Pump"], ["Vent drive, new"]]);
    await bench.api.post(`/api/library/${kept.id}/restore`).expect(200);
    expect(await list()).toHaveLength(2);
  });

  it("knows the jobs that started from a circuit, and refuses what it cannot keep", async () => {
    const kept = await keep();
    const job = Job.parse(
      (await bench.api.post("/api/jobs").send({ title: "House 3", trail: kept.trail, libraryId: kept.id }).expect(201))
        .body,
    );
    const now = LibraryCircuit.parse((await bench.api.get(`/api/library/${kept.id}`).expect(200)).body);
    expect(now.jobs).toEqual([{ id: job.id, title: "House 3", state: "new" }]);
    expect(now.jobCount).toBe(1);
    await bench.api.get("/api/library/00000000-0000-4000-8000-000000000009").expect(404);
    await bench.api.post("/api/library").send({ name: " ", trail: "" }).expect(400);
    await bench.api
      .post("/api/jobs")
      .send({ title: "x", libraryId: "00000000-0000-4000-8000-000000000009" })
      .expect(404);
  });
});

describe("the conventions API", () => {
  it("gives the defaults, keeps a change, and refuses what is no convention", async () => {
    const read = async () => Conventions.parse((await bench.api.get("/api/conventions").expect(200)).body);
    const first = await read();
    expect(first).toEqual(Conventions.parse({}));
    await bench.api
      .put("/api/conventions")
      .send({ ...first, symbols: "ansi" })
      .expect(200);
    expect((await read()).symbols).toBe("ansi");
    await bench.api
      .put("/api/conventions")
      .send({ ...first, symbols: "other" })
      .expect(400);
    expect((await read()).symbols).toBe("ansi");
  });
});

describe("the OpenAPI document", () => {
  it("describes every endpoint of library and conventions from the schemas that check them", async () => {
    const { body } = await bench.api.get("/api/openapi.json").expect(200);
    const paths = Object.keys(body.paths);
    for (const path of ["/api/library", "/api/library/{id}", "/api/library/{id}/restore", "/api/conventions"])
      expect(paths, path).toContain(path);
    const change = body.paths["/api/conventions"].put.requestBody.content["application/json"].schema;
    expect(Object.keys(change.properties)).toEqual(Object.keys(Conventions.parse({})));
    const kept = body.paths["/api/library"].post.requestBody.content["application/json"].schema;
    expect(kept.required).toEqual(expect.arrayContaining(["name", "trail"]));
  });
});
