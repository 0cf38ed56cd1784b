import { spawnSync } from "node:child_process";
import { mkdtempSync, readdirSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { seededRandom } from "@hound/core/simulate";
import Database from "better-sqlite3";
import { strToU8, unzipSync, zipSync } from "fflate";
import { BenchServer } from "./server.ts";
import { row } from "./timing.ts";

/**
 * The plug is pulled, or the disk is full, while all there is is copied, packed, brought in or put back; three clients write
 * meanwhile. After the next start there is what was acknowledged, or what was put in its place, and never half of it.
 */
const ROUNDS = Number(process.env.HOUND_KILLS ?? 250);
/** Jobs of the workshop that is packed and brought in. */
const JOBS = Number(process.env.HOUND_JOBS ?? 150);
/** Size of the disk that becomes full, in megabytes. */
const DISK = 24;
const random = seededRandom(11);
const TRAIL = "BT1 24V: F1 1A + [A] R1 220 + [B] R2 1k";
const faults: string[] = [];

const octets = (body: Uint8Array) => ({
  method: "POST",
  headers: { "Content-Type": "application/octet-stream" },
  body: Buffer.from(body),
});
const titlesOf = async (server: BenchServer) =>
  ((await server.send("GET", "/jobs?limit=10000")).json as { jobs: { title: string }[] }).jobs.map((j) => j.title);

/** Pages that go on writing new jobs until told to stop. @returns titles that were acknowledged */
function writing(server: BenchServer, prefix: string) {
  const acknowledged = new Set<string>();
  let isUp = true;
  const one = async () => {
    while (isUp) {
      const title = `${prefix} ${crypto.randomUUID()}`;
      const { status } = await server.send("POST", "/jobs", { title, trail: TRAIL });
      if (status === 201) acknowledged.add(title);
    }
  };
  const clients = [one(), one(), one()].map((c) => c.catch(() => {}));
  const stop = async () => {
    isUp = false;
    await Promise.all(clients);
  };
  return { acknowledged, stop };
}

const NOBODY: ReturnType<typeof writing> = { acknowledged: new Set(), stop: async () => {} };

/** What lies beside a database and is no whole copy of one. */
function brokenCopies(server: BenchServer): string[] {
  const names = readdirSync(server.folder, { recursive: true }) as string[];
  return names.filter((name) => {
    if (!/\.(?:before|replaced|backup)-[^/]*$|\.daily\/\d{4}-\d\d-\d\d\.sqlite$/.test(name)) return false;
    // What was broken off has not its name yet.
    if (/\.sha256$|-wal$|-shm$|\.unfinished/.test(name)) return false;
    const db = new Database(join(server.folder, name), { readonly: true });
    try {
      return db.pragma("quick_check", { simple: true }) !== "ok";
    } finally {
      db.close();
    }
  });
}

/** A workshop of many jobs, packed, and the same as a backup. */
async function workshop(): Promise<{ zip: Uint8Array; backup: Uint8Array; titles: readonly string[] }> {
  const server = new BenchServer();
  try {
    await server.start();
    const { json } = await server.send("POST", "/jobs", { title: "Packed", trail: TRAIL });
    const { id } = json as { id: string };
    const bytes = async (path: string) => new Uint8Array(await (await fetch(server.address + path)).arrayBuffer());
    const files = unzipSync(await bytes("/api/workshop.zip"));
    const path = Object.keys(files).find((name) => name.endsWith("job.json")) as string;
    const text = new TextDecoder().decode(files[path]);
    const many: Record<string, Uint8Array> = { "workshop.json": files["workshop.json"] };
    for (let n = 0; n < JOBS; n += 1) {
      const own = text.replaceAll(id, crypto.randomUUID()).replaceAll('"Packed"', `"Packed ${n}"`);
      many[`jobs/${n}/job.json`] = strToU8(own);
    }
    const zip = zipSync(many, { level: 1 });
    await server.send("DELETE", `/jobs/${id}`);
    await server.send("POST", "/jobs/empty");
    const { status } = await fetch(`${server.address}/api/workshop`, octets(zip));
    if (status !== 200) throw new Error(`the workshop was not brought in: ${status}`);
    return { zip, backup: await bytes("/api/backup"), titles: await titlesOf(server) };
  } finally {
    await server.remove();
  }
}

const made = await workshop();
/** What is done when the plug is pulled. */
const DOINGS: Readonly<Record<string, (server: BenchServer) => Promise<unknown>>> = {
  copy: (server) => fetch(`${server.address}/api/backup`).then((r) => r.arrayBuffer()),
  export: (server) => fetch(`${server.address}/api/workshop.zip`).then((r) => r.arrayBuffer()),
  import: (server) => fetch(`${server.address}/api/workshop`, octets(made.zip)).then((r) => r.json()),
  restore: (server) => fetch(`${server.address}/api/restore?name=made`, octets(made.backup)).then((r) => r.json()),
  start: async (server) => {
    await server.stop("SIGKILL");
    await server.startAndKill(50 + random.next() * 900);
  },
};

/** Whether all titles of one side are there; of a workshop that took another's place, all of that one. */
function judge(what: string, found: readonly string[], acknowledged: ReadonlySet<string>) {
  const there = new Set(found);
  const lost = [...acknowledged].filter((title) => !there.has(title)).length;
  const brought = made.titles.filter((title) => there.has(title)).length;
  const isReplaced = (what === "restore" || what === "import") && brought === made.titles.length;
  if (brought > 0 && brought < made.titles.length) faults.push(`${what}: ${brought} of ${made.titles.length} came`);
  // What was written before a backup took its place is in the copy of what was replaced.
  if (lost > 0 && !(what === "restore" && isReplaced)) faults.push(`${what}: ${lost} acknowledged jobs are lost`);
}

async function killed(what: string) {
  const server = new BenchServer();
  try {
    await server.start();
    // An import goes into an empty workshop; nobody writes meanwhile.
    const { acknowledged, stop } = what === "import" ? NOBODY : writing(server, "Written");
    const doing = DOINGS[what](server).catch(() => {});
    await new Promise((done) => setTimeout(done, random.next() * 700));
    await server.stop("SIGKILL");
    await doing;
    await stop();
    await server.start();
    judge(what, await titlesOf(server), acknowledged);
    for (const name of brokenCopies(server)) faults.push(`${what}: ${name} is no whole copy`);
    const { status } = await server.send("GET", "/health");
    if (status !== 200) faults.push(`${what}: health says ${status}`);
  } finally {
    await server.remove();
  }
}

/** All that writes, on a disk that has no room for it: refused in words, nothing lost, and it goes on once there is room. */
async function onFullDisk(): Promise<boolean> {
  const folder = mkdtempSync(join(tmpdir(), "hound-full-"));
  const mount = spawnSync("mount", ["-t", "tmpfs", "-o", `size=${DISK}m`, "tmpfs", folder]);
  if (mount.status !== 0) {
    rmSync(folder, { recursive: true });
    return false;
  }
  const server = new BenchServer({ TMPDIR: folder }, folder);
  try {
    await server.start();
    const kept: string[] = [];
    for (let n = 0; n < 20; n += 1) {
      const title = `Kept ${n}`;
      if ((await server.send("POST", "/jobs", { title, trail: TRAIL })).status === 201) kept.push(title);
    }
    const ballast = join(folder, "ballast");
    spawnSync("dd", ["if=/dev/zero", `of=${ballast}`, "bs=64k"]);
    for (const [what, work] of Object.entries(DOINGS)) {
      if (what === "start") continue;
      const answer = await work(server).catch((error: Error) => error.message);
      const status = (answer as { status?: number } | null)?.status;
      if ((what === "import" || what === "restore") && !(status && status >= 400))
        faults.push(`full disk, ${what}: ${JSON.stringify(answer).slice(0, 100)}`);
    }

    const { status } = await server.send("POST", "/jobs", { title: "Too much", complaint: "x".repeat(2000) });
    if (status === 201) kept.push("Too much");
    else if (status !== 507) faults.push(`full disk, a job: ${status}`);
    rmSync(ballast);

    const after = await server.send("POST", "/jobs", { title: "After", trail: TRAIL });
    if (after.status !== 201) faults.push(`full disk, room again: ${after.status}`);
    await server.stop("SIGKILL");
    await server.start();
    const there = await titlesOf(server);
    const lost = kept.filter((title) => !there.includes(title));
    if (lost.length > 0) faults.push(`full disk: ${lost.length} jobs are lost`);
    return true;
  } finally {
    await server.stop();
    spawnSync("umount", ["-l", folder]);
    rmSync(folder, { recursive: true, force: true });
  }
}

const kinds = Object.keys(DOINGS);
const counts = new Map<string, number>();
for (let round = 0; round < ROUNDS; round += 1) {
  const what = kinds[round % kinds.length];
  await killed(what);
  counts.set(what, (counts.get(what) ?? 0) + 1);
}
row("kills", ...kinds, "faults");
row(String(ROUNDS), ...kinds.map((kind) => String(counts.get(kind) ?? 0)), String(faults.length));
row("full disk", (await onFullDisk()) ? "tried" : "no disk of its own could be made: not tried");
for (const fault of faults.slice(0, 20)) row(fault);
process.exitCode = faults.length > 0 ? 1 : 0;
