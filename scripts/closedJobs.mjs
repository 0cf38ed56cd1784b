// Made-up closed jobs on the demo's circuits: what the logbook's pictures show.
import { readFileSync } from "node:fs";
import { join } from "node:path";
import { root } from "./bringUp.mjs";

const CIRCUITS = [
  {
    circuit: "4-pump-controller",
    title: "Pump controller",
    complaint: "Pump stays off.",
    faults: ["J2 high", "J2 high", "K1 open", "J2 open", "S1 stuckOpen", "LA1 open"],
    other: "R5",
  },
  {
    circuit: "2-vent-drive",
    title: "Vent drive",
    complaint: "Vent stops halfway.",
    faults: ["R4 open", "F1 open", "R4 open", "R1 high"],
    other: "R2",
  },
];
const CUSTOMERS = ["Halloway nursery", "Brook allotments", "Fern & Moss"];
const DAY = 86_400_000;

/** Adds so many to a running server, with what the ranking is made to have said. */
export async function addClosedJobs(address, count = 36) {
  let seed = 7;
  const random = () => {
    seed = (seed * 16807) % 2147483647;
    return seed / 2147483647;
  };
  const send = async (method, path, body) => {
    const headers = { "Content-Type": "application/json", "X-Hound-Who": n % 2 ? "Ann" : "Bo" };
    const response = await fetch(`${address}/api${path}`, { method, headers, body: JSON.stringify(body) });
    if (!response.ok) throw new Error(await response.text());
    return response.json();
  };
  let n = 0;
  for (; n < count; n += 1) {
    const { circuit, title, complaint, faults, other } = CIRCUITS[n % 3 === 0 ? 1 : 0];
    const trail = readFileSync(join(root, "demo", "circuits", `${circuit}.trail`), "utf8");
    const [part, mode] = faults[Math.floor(random() * faults.length)].split(" ");
    const probability = 0.55 + 0.43 * random();
    const isRight = random() < probability;
    const job = await send("POST", "/jobs", { title: `${title}, house ${n + 1}`, complaint, trail });
    const repairs = [
      { repair: [{ part: isRight ? part : other }], probability },
      { repair: [{ part: isRight ? other : part }], probability: 0.8 * (1 - probability) },
    ];
    const closing = {
      outcome: "found",
      faults: [{ part, mode }],
      used: [{ part, what: "like the one drawn" }],
      minutes: 8 + Math.floor(50 * random()),
      said: { repairs, suspects: [], readings: 4 },
      at: new Date(Date.now() - n * DAY).toISOString(),
    };
    const finding = `${part} ${mode === "stuckOpen" ? "stuck open" : mode === "high" ? "made poor contact" : mode}; replaced.`;
    const details = { customer: CUSTOMERS[n % CUSTOMERS.length] };
    const tags = n % 5 === 0 ? ["second visit"] : [];
    await send("PATCH", `/jobs/${job.id}`, {
      revision: job.revision,
      state: "solved",
      finding,
      details,
      tags,
      closing,
    });
  }
}
