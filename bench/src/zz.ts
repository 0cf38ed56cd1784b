import { BenchServer } from "./server.ts";
const server = new BenchServer();
await server.start();
const say = async (what: string, method: string, path: string, body?: unknown, raw?: string) => {
  try {
  const r = await fetch(`${server.address}/api${path}`, { method, headers: { "Content-Type": "application/json", Origin: server.address }, body: raw ?? (body === undefined ? undefined : JSON.stringify(body)) });
  const t = await r.text();
  console.log(r.status >= 500 ? "!!" : "  ", r.status, what, t.slice(0, 160));
  return JSON.parse(t || "null");
  } catch (e) { console.log("!!", what, String(e)); }
};
const NAMES = ["constructor", "toString", "__proto__", "hasOwnProperty", "valueOf", "prototype"];
const job = await say("job", "POST", "/jobs", { title: "T", trail: "BT1 9V: [A] R1 1k + [B] R2 2k" });
for (const n of NAMES) {
  const j = await say(`part ${n}`, "POST", "/jobs", { title: n, trail: `BT1 9V: [A] ${n} 1k + [B] R2 2k` });
  if (j?.id) {
    await say(` get ${n}`, "GET", `/jobs/${j.id}`);
    await say(` reading of ${n}`, "POST", `/jobs/${j.id}/readings`, { id: crypto.randomUUID(), circuitRevision: 0, reading: { quantity: "current", through: n, value: 1 } });
  }
  await say(`node ${n}`, "POST", "/jobs", { title: n, trail: `BT1 9V: [${n}] R1 1k + [B] R2 2k` });
  await say(`reading at ${n}`, "POST", `/jobs/${job.id}/readings`, { id: crypto.randomUUID(), circuitRevision: 0, reading: { quantity: "voltage", from: n, value: 1 } });
  await say(`lib ${n}`, "POST", "/library", { id: crypto.randomUUID(), name: n, trail: `BT1 9V: ${n} 1k`, notes: "" });
  for (const verb of ["rankings", "next"]) await say(`${verb} ${n}`, "POST", `/${verb}`, { cases: [{ format: "clever-hound-case", version: 1, circuit: `BT1 9V: [A] ${n} 1k + [B] R2 2k`, readings: [{ quantity: "voltage", from: "B", value: 1 }], priors: { [n]: 2 }, meter: n }] });
  await say(`search ${n}`, "GET", `/jobs?search=${n}&sort=${n}&state=${n}`);
  await say(`raw key ${n}`, "PATCH", `/jobs/${job.id}`, undefined, `{"revision":0,"${n}":{"x":1},"standing":{"${n}":1}}`);
  await say(`meter ${n}`, "PUT", `/meters/${n}`, { name: n });
  await say(`people ${n}`, "PUT", `/people`, { people: [n] });
  await say(`habits ${n}`, "GET", `/habits?circuit=${n}`);
}
const deep = "[".repeat(150_000) + "]".repeat(150_000);
for (const [m, p] of [["POST", "/jobs"], ["PATCH", `/jobs/${job.id}`], ["POST", "/rankings"], ["PUT", "/conventions"], ["POST", "/cases"], ["PUT", "/meter-link"], ["PUT", "/people"]] as const) {
  await say(`deep ${p}`, m, p, undefined, `{"title":${deep},"revision":0,"cases":[${deep}],"standing":${deep},"text":"x"}`);
  await say(`deep obj ${p}`, m, p, undefined, `${'{"a":'.repeat(100_000)}1${"}".repeat(100_000)}`);
}
await say("deep text", "POST", "/cases", { text: deep });
await say("surrogate title", "POST", "/jobs", undefined, '{"title":"A\\ud83d","trail":"BT1 9V: R1 1k"}');
await say("surrogate note", "POST", `/jobs/${job.id}/readings`, undefined, `{"id":"${crypto.randomUUID()}","circuitRevision":0,"reading":{"quantity":"voltage","from":"A","value":1,"note":"\\udc00"}}`);
await say("get", "GET", `/jobs/${job.id}`);
await say("people", "PUT", "/people", undefined, '{"people":["Ann\\ud83d"]}');
await say("lib", "POST", "/library", undefined, `{"id":"${crypto.randomUUID()}","name":"x\\ud83d","trail":"BT1 9V: R1 1k","notes":""}`);
await say("trail", "POST", "/jobs", { title: "x", trail: "BT1 9V: " + "(".repeat(50_000) + "R1 1k" });
await say("trail", "POST", "/jobs", { title: "x", trail: "BT1 9V: " + "(R1 1k | ".repeat(10_000) + "R2 1k" + ")".repeat(10_000) });
await say("health", "GET", "/health");
await server.remove();
