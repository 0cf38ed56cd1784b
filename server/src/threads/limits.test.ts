import { setFlagsFromString } from "node:v8";
import { runInNewContext } from "node:vm";
import { expect, it } from "vitest";
import { within } from "./limits.ts";

/** Never done by itself. @returns why it was ended */
const endless = (signal: AbortSignal) =>
  new Promise<string>((done) => signal.addEventListener("abort", () => done("ended")));

it("ends what takes too long, though garbage is collected meanwhile", async () => {
  setFlagsFromString("--expose-gc");
  const collect = runInNewContext("gc") as () => void;
  const ended = within(0.2, endless, new AbortController().signal);
  for (let n = 0; n < 4; n += 1) {
    await new Promise((done) => setTimeout(done, 10));
    collect();
  }
  expect(await ended).toBe("ended");
});

it("ends it when nobody waits any more, before or meanwhile, and lets what is done in time pass", async () => {
  const gone = new AbortController();
  const ended = within(1e6, endless, gone.signal);
  gone.abort();
  expect(await ended).toBe("ended");
  expect(await within(1e6, async (signal) => signal.aborted, gone.signal)).toBe(true);
  expect(await within(1e6, async () => 7)).toBe(7);
});
