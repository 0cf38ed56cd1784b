import { CaseFile, writeCase, writeTable } from "@hound/core/notation";
import { LibraryCircuit } from "@hound/core/record";
import type { Knex } from "knex";
import { z } from "zod";
import { jsonOf } from "../database/json.ts";
import { DAMAGED, sumOf } from "../database/sums.ts";
import { inTransaction } from "../database/transaction.ts";
import { unsoundAt } from "../http/sound.ts";
import { ArchivedJob, archiveOf, bringBack, openFilesOf } from "../jobs/archive.ts";
import { JobService } from "../jobs/service.ts";
import { LibraryRepository } from "../library/repository.ts";
import { habitSettingsIn } from "../logbook/habits.ts";
import { PictureStore } from "../pictures/store.ts";
import { workJobs } from "../practice/repository.ts";
import { Problem } from "../problems.ts";
import type { Reader } from "../threads/threads.ts";
import { StoredConventions } from "./conventions.ts";
import { StoredMeter } from "./meters.ts";
import { letterheadIn, peopleIn } from "./people.ts";
import type { Tell } from "./work.ts";
import type { Folder, FolderFile } from "./zip.ts";

/** Rows of the workshop's that go along, each with the shape of its data; what is this server's own stays. */
const SHAPES: readonly { readonly wanted: RegExp; readonly shape: (db: Knex) => z.ZodType }[] = [
  { wanted: /^conventions$/, shape: () => StoredConventions },
  { wanted: /^habits$/, shape: (db) => habitSettingsIn(db).stored },
  { wanted: /^meter:/, shape: () => StoredMeter },
  { wanted: /^people$/, shape: (db) => peopleIn(db).stored },
  { wanted: /^letterhead$/, shape: (db) => letterheadIn(db).stored },
];

const Workshop = z.object({
  format: z.literal("clever-hound-workshop"),
  version: z.literal(1),
  rows: z.record(z.string(), z.unknown()),
  library: z.array(LibraryCircuit),
});

const README = `This folder holds a workshop: everything in open formats.

workshop.json       conventions, people, letterhead, habits, meters, the library
library/            circuits kept by name, as trails
jobs/NNNN-title/    one job each:
  job.json          all of it, with its timeline and every version (what is read when the folder is brought in)
  case.json         the case file: circuit, readings, meter, habits, finding
  circuit.trail     the circuit
  readings.csv      the readings as a table
  pictures/         photographs, as JPEG
jobs.csv            a line for each job
`;

const COLUMNS = [
  "number",
  "title",
  "state",
  "finding",
  "circuit_version",
  "readings",
  "created",
  "changed",
  "deleted",
] as const;

const encoder = new TextEncoder();
const text = (path: string, content: string): FolderFile => ({ path, bytes: encoder.encode(content) });

/** Every file of the folder, one after another. @param tell how many jobs are done */
export async function* folderOf(db: Knex, tell: Tell = () => {}): AsyncGenerator<FolderFile> {
  yield text("README.txt", README);
  const rows = (await db("workshop")) as { key: string; data: string }[];
  const known = rows.filter((r) => SHAPES.some((s) => s.wanted.test(r.key)));
  const library: LibraryCircuit[] = [];
  for (const { id } of (await db("library").select("id").orderBy("name")) as { id: string }[]) {
    const circuit = await new LibraryRepository(db).find(id);
    if (circuit) library.push(circuit);
  }
  const workshop = {
    format: "clever-hound-workshop",
    version: 1,
    rows: Object.fromEntries(known.flatMap((r) => (jsonOf(r.data) ? [[r.key, jsonOf(r.data)]] : []))),
    library,
  };
  yield text("workshop.json", `${JSON.stringify(workshop, null, 2)}\n`);
  for (const [n, circuit] of library.entries())
    yield text(`library/${numbered(n, circuit.name)}.trail`, `${circuit.trail}\n`);
  const pictures = new PictureStore(db);
  const jobs = new JobService(db, () => new Date());
  const lines: Record<(typeof COLUMNS)[number], unknown>[] = [];
  const ids = (await workJobs(db).select("id").orderBy("created_at")) as { id: string }[];
  for (const [n, { id }] of ids.entries()) {
    tell(n, ids.length);
    const archived = await archiveOf(db, id);
    if (!archived) continue;
    const { job } = archived;
    const folder = `jobs/${numbered(n, job.title)}`;
    const files = openFilesOf(archived);
    yield text(`${folder}/job.json`, `${JSON.stringify(archived, null, 2)}\n`);
    yield text(`${folder}/case.json`, writeCase(CaseFile.parse(await jobs.exportCase(id))));
    yield text(`${folder}/circuit.trail`, files.trail);
    yield text(`${folder}/readings.csv`, files.readings);
    for (const picture of archived.pictures) {
      const bytes = await pictures.bytes(id, picture.id, false);
      if (bytes) yield { path: `${folder}/pictures/${picture.id}.jpg`, bytes };
    }
    const { title, state, finding, createdAt: created, updatedAt: changed, deletedAt: deleted } = job;
    const counts = { number: n + 1, circuit_version: job.circuit.revision + 1, readings: job.readings.length };
    lines.push({ ...counts, title, state, finding, created, changed, deleted });
  }
  yield text("jobs.csv", writeTable(COLUMNS, lines));
}

/** Paths of the folder, within whatever folder they were packed with. */
export const PATHS =
  /^(?:[^/]+\/)?(?:README\.txt|workshop\.json|jobs\.csv|library\/[^/]+\.trail|jobs\/[^/]+\/(?:job\.json|case\.json|circuit\.trail|readings\.csv|pictures\/[0-9a-f-]{36}\.jpg))$/;

export interface Brought {
  readonly jobs: number;
  readonly circuits: number;
}

/**
 * Brings a folder into an empty workshop, all of it or nothing; one job after another is in memory.
 * @param tell how many jobs are done
 * @param signal ends it, and leaves nothing of it
 * @throws Problem where there are jobs already, or a file cannot be read: it says which
 */
export async function bringIn(
  db: Knex,
  folder: Folder,
  reader: Reader,
  tell: Tell = () => {},
  signal?: AbortSignal,
): Promise<Brought> {
  const { paths } = folder;
  const base = paths.find((path) => /(?:^|\/)workshop\.json$/.test(path));
  if (!base) throw new Problem("no-workshop", { detail: "there is no workshop.json in it" });
  const root = base.slice(0, -"workshop.json".length);
  const workshop = await parsed(folder, base, Workshop);
  const jobs = paths.filter((path) => path.startsWith(`${root}jobs/`) && path.endsWith("/job.json"));
  const all = new Set(paths);
  return inTransaction(db, async (trx) => {
    if (await hasJobs(trx)) throw new Problem("not-empty");
    for (const [key, data] of Object.entries(workshop.rows)) {
      const shape = SHAPES.find((s) => s.wanted.test(key))?.shape(trx);
      if (!shape?.safeParse(data).success) continue;
      await trx("workshop")
        .insert({ key, data: JSON.stringify(data) })
        .onConflict("key")
        .merge();
    }
    for (const circuit of workshop.library) await bringBackCircuit(trx, circuit, reader);
    const store = new PictureStore(trx);
    for (const [n, path] of jobs.entries()) {
      signal?.throwIfAborted();
      tell(n, jobs.length);
      const archived = await parsed(folder, path, ArchivedJob);
      await bringBack(trx, archived, reader);
      for (const { id, name, who, createdAt, deletedAt, caption, turns, inReport } of archived.pictures) {
        signal?.throwIfAborted();
        const picture = `${path.slice(0, -"job.json".length)}pictures/${id}.jpg`;
        if (!all.has(picture)) continue;
        const bytes = Buffer.from(await folder.read(picture));
        await store.add(archived.job.id, { id, name, bytes, who }, createdAt);
        await store.change(archived.job.id, id, { caption, turns, inReport });
        if (deletedAt) await store.setDeleted(archived.job.id, id, deletedAt);
      }
    }
    return { jobs: jobs.length, circuits: workshop.library.length };
  });
}

/** Whether anybody has begun to work here. */
export async function hasJobs(db: Knex): Promise<boolean> {
  return (await workJobs(db).first("id")) !== undefined;
}

async function bringBackCircuit(db: Knex, circuit: LibraryCircuit, reader: Reader) {
  const { id, name, notes, revision, updatedAt, deletedAt, revisions } = circuit;
  if (await db("library").where({ id }).first("id")) return;
  const first = revisions[revisions.length - 1]?.createdAt ?? updatedAt;
  await db("library").insert({
    id,
    name,
    notes,
    revision,
    created_at: first,
    updated_at: updatedAt,
    deleted_at: deletedAt,
  });
  for (const { revision: version, trail, createdAt } of revisions) {
    const isDamaged = trail.startsWith(DAMAGED);
    const row = {
      library_id: id,
      revision: version,
      trail: isDamaged ? trail.slice(DAMAGED.length) : trail,
      created_at: createdAt,
    };
    const { partCount } = await reader.look(row.trail);
    await db("library_revisions").insert({
      ...row,
      part_count: partCount,
      // Without a checksum it is never taken for whole.
      sum: isDamaged ? null : sumOf.libraryRevision(row),
    });
  }
}

async function parsed<T>(folder: Folder, path: string, shape: z.ZodType<T>): Promise<T> {
  const bytes = await folder.read(path);
  let data: unknown;
  try {
    data = JSON.parse(new TextDecoder("utf-8", { fatal: true }).decode(bytes));
  } catch (error) {
    throw new Problem("no-workshop", { detail: `${path} is not JSON: ${(error as Error).message}` });
  }
  const unsound = unsoundAt(data);
  if (unsound !== null) throw new Problem("no-workshop", { detail: `${path}: ${unsound}: half a character` });
  const result = shape.safeParse(data);
  if (result.success) return result.data;
  const [issue] = result.error.issues;
  throw new Problem("no-workshop", { detail: `${path}: ${issue.path.join(".")}: ${issue.message}` });
}

/** `0007-vent-drive`: a name for a file, in the order of the list. */
export function numbered(n: number, title: string): string {
  const words = title
    .normalize("NFKD")
    .replace(/[^A-Za-z0-9]+/g, "-")
    .toLowerCase()
    .slice(0, 40)
    .replace(/^-|-$/g, "");
  return `${String(n + 1).padStart(4, "0")}${words === "" ? "" : `-${words}`}`;
}
