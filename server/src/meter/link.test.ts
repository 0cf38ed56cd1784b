import { createServer, type Server, type Socket } from "node:net";
import type { MeterLinkState, ProbesAt } from "@hound/core/record";
import { afterEach, describe, expect, it } from "vitest";
import { MeterLink } from "./link.ts";
import { isAllowed } from "./routes.ts";

const JOB = "6f1c1a52-7c36-4b63-9a3e-0d5a3f1b2c4d";
const probesAt = (from: string, mark = from): ProbesAt => ({
  job: JOB,
  mark,
  reading: { quantity: "voltage", from, value: 0 },
});

/** A meter of a few lines: it answers queries with the value it is given, or sends it by itself. */
class SmallMeter {
  private server: Server | null = null;
  private readonly sockets = new Set<Socket>();
  readonly heard: string[] = [];
  value = "0.000";

  constructor(
    private readonly protocol: "scpi" | "lines",
    private readonly name = "Made-up,meter,0,1",
  ) {}

  async start(port = 0): Promise<number> {
    const server = createServer((socket) => {
      this.sockets.add(socket);
      socket.on("error", () => {});
      const timer = this.protocol === "lines" ? setInterval(() => socket.write(`${this.value} V\n`), 20) : undefined;
      socket.on("close", () => clearInterval(timer));
      socket.on("data", (data) => {
        for (const line of String(data).split("\n").filter(Boolean)) {
          this.heard.push(line);
          if (line === "SIM:CASE?") socket.write('SIM:NOTE "on another circuit"\n');
          else if (line === "*IDN?" && this.protocol === "scpi") socket.write(`${this.name}\n`);
          else if (line.endsWith("?") && this.protocol === "scpi") socket.write(`${this.value}\n`);
        }
      });
    });
    this.server = server;
    await new Promise<void>((done) => server.listen(port, "127.0.0.1", done));
    return (server.address() as { port: number }).port;
  }

  async stop() {
    for (const socket of this.sockets) socket.destroy();
    this.sockets.clear();
    await new Promise<void>((done) => (this.server ? this.server.close(() => done()) : done()));
    this.server = null;
  }
}

const running: { stop(): unknown }[] = [];
afterEach(async () => {
  for (const one of running.splice(0)) await one.stop();
});

async function linked(meter: SmallMeter, protocol: "scpi" | "lines" = "scpi") {
  const port = await meter.start();
  const link = new MeterLink({
    now: () => new Date(),
    circuitOf: async () => ({ title: "T", circuit: "BT1 9V: R1 1k" }),
  });
  running.push(link, meter);
  link.use({ isOn: true, address: `127.0.0.1:${port}`, protocol });
  return { link, port };
}

/** Sends the same again and again, as fast as it is taken. */
function flood(socket: Socket, text: string) {
  const more = () => {
    while (!socket.destroyed && socket.write(text));
    socket.once("drain", more);
  };
  more();
}

/** Waits for a state; how fast the machine is does not matter. */
function until(link: MeterLink, is: (state: MeterLinkState) => boolean): Promise<MeterLinkState> {
  return new Promise((done) => {
    const end = link.listen((state) => {
      if (!is(state)) return;
      end();
      done(state);
    });
    const now = link.snapshot();
    if (is(now)) {
      end();
      done(now);
    }
  });
}
const isOpen = (s: MeterLinkState) => s.state === "open";

describe("the connection to a meter", () => {
  it.each(["scpi", "lines"] as const)(
    "holds what is steady at a point once, and keeps it until it is taken (%s)",
    async (protocol) => {
      const meter = new SmallMeter(protocol);
      const { link } = await linked(meter, protocol);
      await until(link, isOpen);
      meter.value = "7.421";
      await link.put(probesAt("A"));
      const { held } = await until(link, (s) => s.held.length > 0);
      expect(held).toHaveLength(1);
      expect(held[0].reading).toMatchObject({ quantity: "voltage", from: "A", value: 7.421, step: 0.001 });
      // Another point is not read before this one is taken: who asks may not know of it yet.
      await link.put(probesAt("B"));
      expect(link.snapshot().probes).toBeNull();
      link.taken(held[0].id);
      link.taken(held[0].id);
      await link.put(probesAt("B"));
      const next = await until(link, (s) => s.held.length > 0);
      expect(next.held.map((h) => (h.reading as { from: string }).from)).toEqual(["B"]);
      expect(next.held[0].id).not.toBe(held[0].id);
    },
  );

  it("opens again by itself when the meter is gone and comes back, and loses nothing that was held", async () => {
    const meter = new SmallMeter("scpi");
    const { link, port } = await linked(meter);
    meter.value = "3.30";
    await link.put(probesAt("A"));
    const first = await until(link, (s) => s.held.length > 0);
    await meter.stop();
    const gone = await until(link, (s) => s.state === "waiting");
    expect(gone.why).not.toBe("");
    expect(gone.held).toEqual(first.held);
    await meter.start(port);
    await until(link, isOpen);
    link.taken(first.held[0].id);
    await link.put(probesAt("B"));
    await until(link, (s) => s.held.length > 0);
  });

  it("says why there is none, and goes on trying without anybody waiting", async () => {
    const link = new MeterLink({ now: () => new Date(), circuitOf: async () => null });
    running.push(link);
    link.use({ isOn: true, address: "127.0.0.1:1", protocol: "scpi" });
    expect((await until(link, (s) => s.state === "waiting")).why).toMatch(/nothing listens/);
    await link.put(probesAt("A"));
    link.use({ isOn: false, address: "127.0.0.1:1", protocol: "scpi" });
    expect(link.snapshot().state).toBe("off");
  });

  it("tells the simulated meter where its probes are, and no other", async () => {
    const plain = new SmallMeter("scpi");
    const real = await linked(plain);
    await until(real.link, isOpen);
    await real.link.put(probesAt("A"));
    const standIn = new SmallMeter("scpi", "Clever Hound,simulated meter,0,1");
    const simulated = await linked(standIn);
    await until(simulated.link, isOpen);
    await simulated.link.put(probesAt("A"));
    standIn.value = "5.00";
    await until(simulated.link, (s) => s.held.length > 0);
    expect(standIn.heard.find((l) => l.startsWith("SIM:CASE"))).toContain("BT1 9V: R1 1k");
    expect(standIn.heard.find((l) => l.startsWith("SIM:PROB {"))).toContain('"from":"A"');
    expect(plain.heard.some((l) => l.startsWith("SIM:"))).toBe(false);
    // What it says of where it stands reaches the page, and goes with it.
    await until(simulated.link, (s) => s.note === "on another circuit");
    await standIn.stop();
    await until(simulated.link, (s) => s.state === "waiting" && s.note === "");
  });

  it.each<[string, (socket: Socket) => void, RegExp]>([
    ["never ends a line", (socket) => flood(socket, "1".repeat(65_536)), /lines of more than 1000 characters/],
    ["has a name of 20 MB", (socket) => flood(socket, `${"M".repeat(65_536)}`), /lines of more than/],
    ["sends junk without end", (socket) => flood(socket, "junk\n".repeat(2000)), /more than 500 lines a second/],
  ])("is switched off, and stays so, where what is there %s", async (_what, behave, why) => {
    const server = createServer((socket) => {
      socket.on("error", () => {});
      socket.resume();
      behave(socket);
    });
    await new Promise<void>((done) => server.listen(0, "127.0.0.1", done));
    running.push({ stop: () => server.close() });
    const kept: object[] = [];
    const link = new MeterLink({ now: () => new Date(), circuitOf: async () => null, onGivenUp: (s) => kept.push(s) });
    running.push(link);
    const address = `127.0.0.1:${(server.address() as { port: number }).port}`;
    link.use({ isOn: true, address, protocol: "lines" });
    const off = await until(link, (s) => s.state === "off");
    expect(off.why).toMatch(why);
    expect(off.why).toMatch(/switched off$/);
    expect(kept).toEqual([{ isOn: false, address, protocol: "lines" }]);
  });

  it("shows no more of a name than has room, and opens nothing that is not allowed or cannot be", async () => {
    const long = new SmallMeter("scpi", `${"Name ".repeat(100)}\u0007`);
    const { link } = await linked(long);
    expect((await until(link, isOpen)).name.length).toBeLessThanOrEqual(121);
    const elsewhere = new MeterLink({ now: () => new Date(), circuitOf: async () => null, allows: () => false });
    elsewhere.use({ isOn: true, address: "192.0.2.1:5025", protocol: "scpi" });
    expect(elsewhere.snapshot()).toMatchObject({ state: "off", settings: { isOn: false } });
    expect(elsewhere.snapshot().why).toMatch(/HOUND_METERS/);
    const nowhere = new MeterLink({ now: () => new Date(), circuitOf: async () => null });
    nowhere.use({ isOn: true, address: "127.0.0.1:99999", protocol: "scpi" });
    expect(nowhere.snapshot()).toMatchObject({ state: "off", why: expect.stringMatching(/switched off/) });
  });

  it("goes to this machine alone, unless other hosts were allowed", () => {
    for (const address of ["127.0.0.1:5025", "localhost:5025", "[::1]:5025", "127.0.1.1:1"])
      expect(isAllowed(address, []), address).toBe(true);
    for (const address of ["192.168.0.9:5025", "meter.lan:5025", "127.0.0.1.example:1", "[::ffff:a]:1"])
      expect(isAllowed(address, []), address).toBe(false);
    expect(isAllowed("Meter.lan:5025", ["meter.lan"])).toBe(true);
  });
});
