import { type AddressInfo, connect, type Server, type Socket } from "node:net";
import { join } from "node:path";
import { createInterface } from "node:readline";
import { afterEach, describe, expect, it } from "vitest";
import { listen, type MeterOptions } from "./meter.ts";

const DEMO = join(import.meta.dirname, "../../demo/cases");
const open: { close(): unknown }[] = [];
afterEach(async () => {
  for (const one of open.splice(0).reverse()) await one.close();
});

/** A connection to a stand-in of its own, whose lines can be waited for. */
async function talk(options: Partial<MeterOptions> = {}, path = DEMO) {
  const server: Server = await listen([path], {
    port: 0,
    host: "127.0.0.1",
    seed: 1,
    fault: [],
    protocol: "scpi",
    rate: 50,
    ...options,
  });
  open.push({ close: () => new Promise((done) => server.close(done)) });
  const socket: Socket = connect((server.address() as AddressInfo).port, "127.0.0.1");
  open.push({ close: () => socket.destroy() });
  const heard: string[] = [];
  let wake = () => {};
  createInterface({ input: socket }).on("line", (line) => {
    heard.push(line);
    wake();
  });
  const next = async () => {
    while (heard.length === 0) await new Promise<void>((done) => (wake = done));
    return heard.shift() as string;
  };
  const say = (...lines: string[]) => socket.write(lines.map((l) => `${l}\n`).join(""));
  const ask = (line: string) => {
    say(line);
    return next();
  };
  /** Asks until it is settled there. */
  const settled = async (line: string, is: (value: number) => boolean) => {
    for (;;) {
      const value = Number(await ask(line));
      if (is(value)) return value;
      await new Promise((done) => setTimeout(done, 50));
    }
  };
  return { say, ask, next, settled };
}

const probes = (reading: object) => `SIM:PROB ${JSON.stringify(reading)}`;
const VENT = `SIM:CASE ${JSON.stringify({ title: "Greenhouse vent drive, sensor rail" })}`;

describe("the simulated meter on a port", () => {
  it("answers what IEEE 488.2 and SCPI ask of any meter, and says what it does not know", async () => {
    const { say, ask } = await talk();
    expect(await ask("*IDN?")).toMatch(/^Clever Hound,simulated meter,/);
    expect(await ask("*OPC?")).toBe("1");
    say("NONSENSE:HERE");
    expect(await ask("SYST:ERR?")).toMatch(/^-113,/);
    expect(await ask("SYST:ERR?")).toMatch(/^0,/);
  });

  it("reads the points that it is told, with the fault of the case, and is over a range that is too small", async () => {
    const { say, ask, settled } = await talk();
    say(VENT, probes({ quantity: "voltage", from: "A", value: 0 }));
    expect(await settled("MEAS:VOLT:DC?", (v) => v > 23.5)).toBeLessThan(24.6);
    say("CONF:VOLT:DC 2");
    expect(await ask("READ?")).toBe("9.9E+37");
    // R4 is open: nothing flows from C to D, and all between B and D lies across it.
    say(probes({ quantity: "voltage", from: "C", to: "D", value: 0 }));
    expect(await settled("MEAS:VOLT:DC?", (v) => v > 15)).toBeGreaterThan(15);
    say(probes({ quantity: "resistance", lifted: "R4", value: 0 }));
    expect(await settled("MEAS:RES?", (v) => v > 1e37)).toBe(9.9e37);
    say(probes({ quantity: "voltage", from: "NOWHERE", value: 0 }));
    expect(await ask("SYST:ERR?")).toMatch(/-221,"there is no node NOWHERE/);
  });

  it("sends lines by itself where that is its way", async () => {
    const { say, next } = await talk({ protocol: "lines" });
    say(VENT, probes({ quantity: "voltage", from: "A", value: 0 }));
    let line = await next();
    while (!/^2[34]\.\d+ V$/.test(line)) line = await next();
    expect(line).toMatch(/ V$/);
  });

  it("takes the fault that is named, and refuses one that the circuit cannot have", async () => {
    const one = join(DEMO, "2-vent-drive.json");
    const { say, settled } = await talk({ fault: ["F1=open"] }, one);
    // All of the supply lies across the open fuse.
    say(VENT, probes({ quantity: "voltage", from: "+", to: "A", value: 0 }));
    expect(await settled("MEAS:VOLT:DC?", (v) => v > 23.5)).toBeLessThan(24.6);
    expect(() =>
      listen([one], { port: 0, host: "127.0.0.1", seed: 1, fault: ["Q9=open"], protocol: "scpi", rate: 10 }),
    ).toThrow(/Q9/);
    // Every word that `solve` takes.
    const words = await talk({ fault: ["F1 blown", "B to D bridged"] }, one);
    words.say(VENT, probes({ quantity: "voltage", from: "+", to: "A", value: 0 }));
    expect(await words.settled("MEAS:VOLT:DC?", (v) => v > 23.5)).toBeLessThan(24.6);
  });

  it("puts the fault that is named into whatever circuit the other end is on, and both ends are told", async () => {
    const heard: string[] = [];
    const { say, ask, settled } = await talk({ fault: ["R1 open"], onNote: (note) => heard.push(note) });
    const on = (title: string, circuit?: string) => say(`SIM:CASE ${JSON.stringify({ title, circuit })}`);
    const note = async () => JSON.parse((await ask("SIM:CASE?")).replace(/^SIM:NOTE /, ""));
    on("Greenhouse vent drive, sensor rail");
    expect(await note()).toBe("");
    // A title that no case has: drawn faults are for those who named none.
    on("Bed heater", "BT1 12V: [A] R1 100 + [B] R2 100");
    expect(await note()).toBe(
      "No case here is called “Bed heater”: the simulated meter is on the job’s own circuit, and R1 open is in it.",
    );
    say(probes({ quantity: "voltage", from: "A", to: "B", value: 0 }));
    expect(await settled("MEAS:VOLT:DC?", (v) => v > 11)).toBeLessThan(12.6);
    on("Bed heater", "BT1 12V: [A] R7 100");
    expect(await note()).toMatch(/and nothing is wrong with it\. It has no R1 open\.$/);
    on("Greenhouse vent drive, sensor rail", "BT1 24V: [A] R1 220 + [B] R2 100");
    expect(await note()).toMatch(
      /^The circuit of “Greenhouse vent drive, sensor rail” is another than that of its case/,
    );
    expect(heard).toHaveLength(3);
    const drawn = await talk();
    drawn.say(`SIM:CASE ${JSON.stringify({ title: "Bed heater", circuit: "BT1 12V: [A] R7 100" })}`);
    expect(await drawn.ask("SIM:CASE?")).toMatch(/and a fault was drawn for it\./);
  });
});
