import { afterEach, beforeEach, expect, it, vi } from "vitest";
import { SerialMeter } from "./serial.ts";

/** A port whose far end hears lines and answers as it is told; null says nothing. */
function portOf(answer: (line: string, n: number) => string | null) {
  let far!: ReadableStreamDefaultController<Uint8Array>;
  const heard: string[] = [];
  const readable = new ReadableStream<Uint8Array>({
    start: (controller) => {
      far = controller;
    },
  });
  const writable = new WritableStream<Uint8Array>({
    write: (bytes) => {
      const line = new TextDecoder().decode(bytes).trim();
      heard.push(line);
      const said = answer(line, heard.length);
      if (said !== null) far.enqueue(new TextEncoder().encode(`${said}\r\n`));
    },
  });
  return { heard, port: { open: async () => {}, close: async () => {}, readable, writable } };
}

async function meterOn(answer: (line: string, n: number) => string | null) {
  const { heard, port } = portOf(answer);
  const samples: number[] = [];
  const closed: string[] = [];
  const meter = new SerialMeter(port, {
    wanted: () => "voltage",
    onName: () => {},
    onSample: (sample) => samples.push(sample.value),
    onHeld: () => {},
    onClosed: (why) => closed.push(why),
  });
  await meter.open(9600);
  return { heard, samples, closed };
}

beforeEach(() => void vi.useFakeTimers());
afterEach(() => void vi.useRealTimers());

it("asks again where one query stays without an answer, or is answered with something that is no reading", async () => {
  const { samples, closed } = await meterOn((line, n) => {
    if (line === "*IDN?") return "Made-up,meter";
    return n === 3 ? null : n === 6 ? "?#!" : "1.25";
  });
  await vi.advanceTimersByTimeAsync(20_000);
  expect(samples.length).toBeGreaterThan(20);
  expect(closed).toEqual([]);
});

it("ends, and says so, where nothing is answered any more", async () => {
  const { heard, samples, closed } = await meterOn((line, n) =>
    line === "*IDN?" ? "Made-up,meter" : n < 6 ? "1.25" : null,
  );
  await vi.advanceTimersByTimeAsync(60_000);
  expect(samples.length).toBeGreaterThan(2);
  expect(closed).toEqual(["it does not answer any more"]);
  const asked = heard.length;
  await vi.advanceTimersByTimeAsync(60_000);
  expect(heard.length).toBe(asked);
});
