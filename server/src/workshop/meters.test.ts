import { MeterLinkState, MeterList, SHIPPED_METERS, WorkshopMeter } from "@hound/core/record";
import { describe, expect, it } from "vitest";
import { apiBench } from "../test/apiBench.ts";

const bench = apiBench(undefined, { metersAt: ["meter.lan"] });
const ID = "00000000-0000-4000-8000-000000000001";

describe("the workshop's meters", () => {
  it("are those that come with the product, and its own, added, changed and removed", async () => {
    const list = async () => MeterList.parse((await bench.api.get("/api/meters").expect(200)).body).meters;
    expect((await list()).map((m) => m.id)).toEqual(SHIPPED_METERS.map((m) => m.id));
    const meter = { name: "mine", checks: [{ quantity: "voltage", known: 5, shown: 4.98, plusMinus: 0 }] };
    const put = (revision: number, what: object) => bench.api.put(`/api/meters/${ID}`).send({ revision, meter: what });
    const made = WorkshopMeter.parse((await put(0, meter).expect(200)).body);
    // Sent again it is the same; changed on an older one it is refused, with what stands there.
    expect((await put(0, meter).expect(200)).body).toEqual(made);
    const stale = await put(0, { name: "other" }).expect(409);
    expect(stale.body.current.meter.name).toBe("mine");
    expect((await put(made.revision, { name: "other" }).expect(200)).body.revision).toBe(made.revision + 1);
    expect((await list()).at(-1)).toMatchObject({ id: ID, isShipped: false, meter: { name: "other" } });
    await put(2, { name: " " }).expect(400);
    await put(2, { name: "m", voltage: { inputResistance: -1 } }).expect(400);
    await bench.api.delete(`/api/meters/${ID}`).expect(204);
    expect(await list()).toHaveLength(SHIPPED_METERS.length);
  });
});

describe("the meter that streams", () => {
  const settings = (address: string) => ({ isOn: false, address, protocol: "scpi" });

  it("is on this machine or on a host that was allowed, and its address is kept", async () => {
    await bench.api.put("/api/meter-link").send(settings("10.0.0.5:5025")).expect(403);
    await bench.api.put("/api/meter-link").send(settings("meter.lan")).expect(400);
    await bench.api.put("/api/meter-link").send(settings("meter.lan:5025")).expect(200);
    const state = MeterLinkState.parse((await bench.api.get("/api/meter-link").expect(200)).body);
    expect(state.settings.address).toBe("meter.lan:5025");
    const row = await bench.db("workshop").where({ key: "meter-link" }).first();
    expect(JSON.parse(row.data).settings.address).toBe("meter.lan:5025");
  });

  it("is told where the probes are, and does not mind being told twice that a reading was taken", async () => {
    const probes = { job: ID, mark: "1", reading: { quantity: "voltage", from: "A", value: 0 } };
    const { body } = await bench.api.put("/api/meter-link/probes").send({ probes }).expect(200);
    expect(body.probes).toEqual(probes);
    await bench.api
      .put("/api/meter-link/probes")
      .send({ probes: { ...probes, reading: { quantity: "voltage" } } })
      .expect(400);
    await bench.api.delete(`/api/meter-link/held/${ID}`).expect(204);
    await bench.api.delete(`/api/meter-link/held/${ID}`).expect(204);
  });
});
