import { request } from "node:http";
import { seededRandom } from "@hound/core/simulate";
import { BenchServer } from "./server.ts";
import { row } from "./timing.ts";

/** Requests made up of true and broken pieces: none may end in a fault of the server, and it answers all of them. */
const COUNT = Number(process.env.HOUND_FUZZ ?? 200_000);
const AT_ONCE = 8;
const random = seededRandom(7);
const pick = <T>(list: readonly T[]): T => list[Math.floor(random.next() * list.length)];
/** As a browser puts a text into an address; half a character it would not send. */
const encodeSafely = (text: string) => encodeURIComponent(text.replace(/[\ud800-\udfff]/g, "\ufffd"));
const server = new BenchServer();
const tally = new Map<number, number>();
const faults: string[] = [];

try {
  await server.start();
  const { json } = await server.send("POST", "/jobs", { title: "Fuzzed", trail: "BT1 9V: [A] R1 1k [B] R2 2k" });
  const { id } = json as { id: string };
  const ids = [id, id, crypto.randomUUID(), "x", "%00", "..%2f..", "é", "%ff", "0".repeat(3000)];
  const halves = ["\ud83d", "Ann\udc00"];
  const scalars = ["A", "", "R1", "\u0000", "é😀", ...halves, "x".repeat(5000), 0, -1, 1e308, 1.5, null, true, [], {}];
  const keys = [
    "title",
    "trail",
    "id",
    "revision",
    "reading",
    "circuitRevision",
    "complaint",
    "state",
    "meter",
    "priors",
    "text",
    "name",
    "__proto__",
    "constructor",
    "toString",
    "hasOwnProperty",
    "note",
    "add",
    "adjust",
    "isOn",
    "cases",
    "standing",
  ];
  const readings = [
    { quantity: "voltage", from: "A", value: 1 },
    { quantity: "current", through: "R1", value: 0.1 },
    { quantity: "observation", part: "R1", seen: "burnt" },
    { quantity: "voltage" },
    { quantity: "wood", from: 3 },
  ];
  const value = (): unknown => {
    const what = random.next();
    if (what < 0.15) return pick(readings);
    if (what < 0.25) return Object.fromEntries([[pick(keys), pick(scalars)]]);
    return pick(scalars);
  };
  const body = (): string | Buffer => {
    const what = random.next();
    if (what < 0.1) return pick(["{", "[", "null", '"', "\u0000", "{}".repeat(1000), "[".repeat(5000)]);
    if (what < 0.15) return Buffer.from([0x7b, 0xff, 0xfe, 0x7d]);
    if (what < 0.17) {
      const deep = pick([99, 200, 150_000]);
      return `{"${pick(keys)}":${"[".repeat(deep)}${"]".repeat(deep)}}`;
    }
    const good = pick([
      { title: "T", trail: "BT1 9V: R1 1k" },
      { revision: 0, trail: `BT1 9V: R1 ${Math.floor(random.next() * 99)}` },
      { id: crypto.randomUUID(), circuitRevision: 0, reading: pick(readings) },
      { revision: 0, finding: "x" },
      { text: '{"format":"clever-hound-case","version":1,"circuit":"BT1 9V: R1 1k"}' },
      { text: '{"format":"clever-hound-case","version":1,"circuit":"BT1 9V: constructor 1k + toString 5"}' },
      {
        cases: [{ format: "clever-hound-case", version: 1, circuit: "BT1 9V: [A] R1 1k", readings: [pick(readings)] }],
      },
      { id: crypto.randomUUID(), text: pick(["hot", "", ...halves]) },
      { id: crypto.randomUUID(), adjust: { kind: "lamp", mode: "open", by: pick([1, -1, 1e9, 0.5]) } },
      { add: pick(["Ann", "", "x".repeat(100), ...halves]) },
      { revision: 0, meter: { name: pick(["a", "", "__proto__"]) } },
      { stage: "readings", minutes: pick([1, -1, 1e9]) },
      {},
    ]) as Record<string, unknown>;
    const changed: Record<string, unknown> = { ...good };
    for (let n = Math.floor(random.next() * 3); n > 0; n -= 1) changed[pick(keys)] = value();
    return JSON.stringify(changed);
  };
  const path = () =>
    pick([
      "/api/jobs",
      `/api/jobs?limit=${pick(["1", "x", "-1", "99999999"])}&search=${pick(["a", "%", "%25_", "%ff", "a".repeat(300)])}&state=${pick(["new", "x"])}`,
      `/api/jobs/${pick(ids)}`,
      `/api/jobs/${pick(ids)}/circuit`,
      `/api/jobs/${pick(ids)}/circuit/revisions`,
      `/api/jobs/${pick(ids)}/readings`,
      `/api/jobs/${pick(ids)}/readings/${pick(ids)}`,
      `/api/jobs/${pick(ids)}/readings/${pick(ids)}/restore`,
      `/api/jobs/${pick(ids)}/history?limit=${pick(["1", "0"])}`,
      `/api/jobs/${pick(ids)}/case`,
      `/api/jobs/${pick(ids)}/notes`,
      `/api/jobs/${pick(ids)}/minutes`,
      `/api/jobs/${pick(ids)}/pictures?name=${pick(["a", "%ff", "\ud83d"].map(encodeSafely))}`,
      `/api/jobs/${pick(ids)}/pictures/${pick(ids)}.jpg`,
      `/api/meters/${pick(ids)}`,
      `/api/work/${pick(ids)}`,
      "/api/habits",
      "/api/people",
      "/api/letterhead",
      "/api/statistics",
      "/api/rankings",
      "/api/next",
      "/api/cases",
      "/api/library",
      `/api/library/${pick(ids)}`,
      "/api/conventions",
      "/api/copies",
      "/api/copies/restore",
      "/api/health",
      "/api/openapi.json",
      "/assets/x",
      "/index.html",
      "/%ff",
      "/",
    ]);
  const headers = (): Record<string, string> => {
    const made: Record<string, string> = { "Content-Type": "application/json" };
    const what = random.next();
    if (what < 0.05)
      made["Content-Type"] = pick([
        "text/plain",
        "application/x-www-form-urlencoded",
        "",
        "application/json; charset=latin9",
      ]);
    else if (what < 0.1) made["Content-Encoding"] = pick(["gzip", "br", "deflate", "zstd"]);
    else if (what < 0.15) made.Range = pick(["bytes=0-1", "bytes=99999999-", "bytes=x", "lines=1-2"]);
    else if (what < 0.2) made["If-Match"] = pick(['"x"', "*", "W/", "\u00e9"]);
    else if (what < 0.22) made.Origin = pick(["http://evil.example", "null", server.address]);
    else if (what < 0.24) made.Host = pick(["evil.example", "localhost", ""]);
    else if (what < 0.26) made["Sec-Fetch-Site"] = pick(["cross-site", "same-site", "same-origin"]);
    return made;
  };
  const one = (): Promise<void> => {
    const method = pick(["GET", "POST", "PUT", "PATCH", "DELETE", "HEAD", "OPTIONS"]);
    const where = path();
    const sent = method === "GET" || method === "HEAD" ? undefined : body();
    // Node says of no body of DELETE and OPTIONS how long it is: what comes then is no request at all.
    const length = sent === undefined ? {} : { "Content-Length": Buffer.byteLength(sent) };
    return new Promise((done) => {
      const options = { method, headers: { ...headers(), ...length }, agent: false };
      const asked = request(server.address + where, options, (response) => {
        const status = response.statusCode ?? 0;
        tally.set(status, (tally.get(status) ?? 0) + 1);
        if (status >= 500) faults.push(`${status} ${method} ${where} ${String(sent).slice(0, 200)}`);
        response.resume().on("end", done).on("error", done);
      });
      asked.on("error", (error) => {
        faults.push(`${error.message} ${method} ${where}`);
        done();
      });
      asked.end(sent);
    });
  };
  const memoryBefore = server.memory();
  let left = COUNT;
  await Promise.all(
    Array.from({ length: AT_ONCE }, async () => {
      while (left > 0) {
        left -= 1;
        await one();
      }
    }),
  );
  await server.send("GET", "/health");
  row("requests", "faults", "MB before", "MB after");
  row(String(COUNT), String(faults.length), memoryBefore, server.memory());
  row(
    [...tally]
      .sort(([a], [b]) => a - b)
      .map(([status, n]) => `${status}: ${n}`)
      .join("  "),
  );
  for (const fault of faults.slice(0, 10)) row(fault);
} finally {
  await server.remove();
}
process.exitCode = faults.length > 0 ? 1 : 0;
