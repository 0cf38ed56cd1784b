import type { CaseFile } from "@hound/core/notation";
import { expect, it } from "vitest";
import { Problem } from "../problems.ts";
import { isAborted, Threads } from "./threads.ts";

it("turns away what comes while as many wait as may, and nothing else; what is given up waits no longer", async () => {
  const threads = new Threads();
  const given = new AbortController();
  const file: CaseFile = { format: "clever-hound-case", version: 1, circuit: "BT1 9V: R1 1k", readings: [] } as never;
  const ask = () =>
    threads.diagnose({ kind: "rank", file, min: 0, explain: false }, given.signal).then(
      () => "answered",
      (error: unknown) => (error instanceof Problem ? error.code : isAborted(error) ? "given up" : String(error)),
    );
  const asked = Array.from({ length: 300 }, ask);
  const turnedAway = asked.slice(-40);
  expect(new Set(await Promise.all(turnedAway))).toEqual(new Set(["busy"]));
  given.abort();
  const ends = await Promise.all(asked);
  // As many as wait, and one that may have begun.
  const busy = ends.filter((end) => end === "busy").length;
  expect([300 - 256, 300 - 257]).toContain(busy);
  expect(ends.filter((end) => end !== "busy" && end !== "given up" && end !== "answered")).toEqual([]);
  await threads.close();
});
