import { expect, it } from "vitest";
import { apiBench } from "../test/apiBench.ts";

const bench = apiBench();
const change = (body: object) => bench.api.patch("/api/people").send(body);
const names = async () => (await bench.api.get("/api/people").expect(200)).body.names.sort();

it("keeps every name that is added at once, takes off the one that is named, and no other", async () => {
  const all = ["Ann", "Bo", "Cy", "Dee", "Eve", "Flo"];
  for (const { status } of await Promise.all(all.map((add) => change({ add })))) expect(status).toBe(200);
  expect(await names()).toEqual(all);
  await change({ remove: "Cy" }).expect(200);
  await change({ remove: "Cy" }).expect(200);
  await change({ add: "Ann" }).expect(200);
  expect(await names()).toEqual(["Ann", "Bo", "Dee", "Eve", "Flo"]);
  await change({ add: " " }).expect(400);
});
