import { Job, NEW_JOB_FIELDS } from "@hound/core/record";
import { afterEach, expect, it, vi } from "vitest";
import { call } from "./client.ts";

const JOB = {
  id: "00000000-0000-4000-8000-000000000001",
  title: "Vent",
  complaint: "",
  ...NEW_JOB_FIELDS,
  revision: 0,
  circuit: { trail: "", revision: 0 },
  readings: [],
  damaged: [],
  createdAt: "2026-01-01T00:00:00.000Z",
  updatedAt: "2026-01-01T00:00:00.000Z",
  deletedAt: null,
};
const answer = (body: string, status = 200) => vi.stubGlobal("fetch", async () => new Response(body, { status }));
afterEach(() => vi.unstubAllGlobals());

it("reads what a newer server says, leaving out what it does not know", async () => {
  answer(JSON.stringify({ ...JOB, colour: "red", circuit: { trail: "", revision: 0, author: "somebody" } }));
  expect(await call("GET", "/jobs/1", Job)).toEqual(JOB);
});

it("takes an answer that cannot be read for none, and a refusal for what it says", async () => {
  for (const body of ["<html>Sign in</html>", "", '{"id":', JSON.stringify({ ...JOB, title: 7 })]) {
    answer(body);
    await expect(call("GET", "/jobs/1", Job)).rejects.toMatchObject({ status: 0, problem: { type: "unreadable" } });
  }
  answer("<html>Bad gateway</html>", 502);
  await expect(call("GET", "/jobs/1", Job)).rejects.toMatchObject({ status: 502 });
  vi.stubGlobal("fetch", () => Promise.reject(new TypeError("failed")));
  await expect(call("GET", "/jobs/1", Job)).rejects.toMatchObject({ status: 0, problem: { type: "unreachable" } });
});
