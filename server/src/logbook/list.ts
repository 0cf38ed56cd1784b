import { JOB_STATES, type JobState, type JobSummary, type LogbookFilter, type Outcome } from "@hound/core/record";
import type { Knex } from "knex";

interface Row {
  n: number;
  job_id: string;
  title: string;
  complaint: string;
  state: string;
  created_at: string;
  updated_at: string;
  deleted_at: string | null;
  circuit: string;
  circuit_name: string;
  tags: string;
  customer: string;
  device: string;
  finding: string;
  outcome: string | null;
  minutes: number | null;
  part_count: number;
  reading_count: number;
  hit?: string;
}

const ORDERS: Readonly<Record<LogbookFilter["sort"], string>> = {
  touched: "logbook.updated_at DESC",
  begun: "logbook.created_at DESC",
  title: "logbook.title COLLATE NOCASE ASC",
  minutes: "logbook.minutes DESC NULLS LAST",
};

/** Words around what was found that are shown of it. */
const AROUND = 12;

/** The jobs that a filter asks for, `limit` of them after the first `skip`, and how many there are. */
export async function listJobs(
  db: Knex,
  filter: LogbookFilter,
  limit: number,
  skip: number,
): Promise<{ jobs: JobSummary[]; total: number }> {
  const query = filtered(db, filter);
  const counted = await query.clone().count("* as total").first();
  const words = matchOf(filter.search);
  const page = query.clone().select("logbook.*").limit(limit).offset(skip);
  const rows = (await page.orderByRaw(`${ORDERS[filter.sort]}, logbook.n DESC`)) as unknown as Row[];
  if (words !== null) await addHits(db, rows, words);
  return { jobs: rows.map(summaryOf), total: Number(counted?.total ?? 0) };
}

function filtered(db: Knex, { search, state, outcome, circuit, part, tag, from, to, deleted }: LogbookFilter) {
  const query = db("logbook");
  if (deleted) query.whereNotNull("logbook.deleted_at");
  else query.whereNull("logbook.deleted_at");
  if (state) query.where("logbook.state", state);
  if (outcome) query.where("logbook.outcome", outcome);
  if (circuit) query.where("logbook.circuit", circuit);
  if (from) query.where("logbook.updated_at", ">=", from);
  if (to) query.where("logbook.updated_at", "<", `${to}T99`);
  if (part)
    query.whereExists((q) =>
      q.select(db.raw("1")).from("found_faults").whereRaw("found_faults.job_id = logbook.job_id").where({ part }),
    );
  if (tag)
    query.whereRaw("EXISTS (SELECT 1 FROM json_each(logbook.tags) WHERE json_each.value = ? COLLATE NOCASE)", [tag]);
  const words = matchOf(search);
  if (words !== null) query.whereRaw("logbook.n IN (SELECT rowid FROM words WHERE words MATCH ?)", [words]);
  else if (search.trim() !== "") {
    // Signs alone, such as %: no word begins with them.
    const like = `%${search.trim().replace(/[\\%_]/g, "\\$&")}%`;
    query.where((q) => {
      for (const column of ["title", "complaint", "finding"]) q.orWhereRaw(`${column} like ? escape '\\'`, [like]);
    });
  }
  return query;
}

/** Where in each job the words stand: only those shown are looked at. */
async function addHits(db: Knex, rows: readonly Row[], words: string) {
  if (rows.length === 0) return;
  const marks = rows.map(() => "?").join(", ");
  const found = (await db.raw(
    `SELECT rowid AS n, snippet(words, -1, '‹', '›', '…', ${AROUND}) AS hit FROM words WHERE words MATCH ? AND rowid IN (${marks})`,
    [words, ...rows.map((r) => r.n)],
  )) as { n: number; hit: string }[];
  const hits = new Map(found.map((f) => [f.n, f.hit]));
  for (const row of rows) row.hit = hits.get(row.n);
}

/**
 * What was typed as a query: every word has to stand somewhere, as the beginning of one.
 * @returns null where there is no word in it
 */
export function matchOf(search: string): string | null {
  const words = search.normalize("NFKC").match(/[\p{L}\p{N}\p{M}]+/gu) ?? [];
  return words.length === 0 ? null : words.map((w) => `"${w}"*`).join(" ");
}

function summaryOf(row: Row): JobSummary {
  return {
    id: row.job_id,
    title: row.title,
    complaint: row.complaint,
    state: (row.state in JOB_STATES ? row.state : "open") as JobState,
    createdAt: row.created_at,
    updatedAt: row.updated_at,
    deletedAt: row.deleted_at,
    partCount: row.part_count,
    readingCount: row.reading_count,
    circuit: row.circuit,
    circuitName: row.circuit_name,
    tags: JSON.parse(row.tags),
    customer: row.customer,
    device: row.device,
    outcome: row.outcome as Outcome | null,
    finding: row.finding,
    minutes: row.minutes,
    hit: row.hit ?? null,
  };
}
