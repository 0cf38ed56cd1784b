import { JOB_STATES, type JobState, type JobSummary, type LogbookFilter, type Outcome } from "@hound/core/record";
import type { Knex } from "knex";
import { jsonOf } from "../database/json.ts";
import { hitsIn, wordsOf } from "./hits.ts";

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
}

const ORDERS: Readonly<Record<LogbookFilter["sort"], string>> = {
  touched: "logbook.updated_at DESC",
  begun: "logbook.created_at DESC",
  title: "logbook.title COLLATE NOCASE ASC",
  minutes: "logbook.minutes DESC NULLS LAST",
};

/** The jobs that a filter asks for, `limit` of them after the first `skip`, and how many there are. */
export async function listJobs(
  db: Knex,
  filter: LogbookFilter,
  limit: number,
  skip: number,
): Promise<{ jobs: JobSummary[]; total: number }> {
  const query = filtered(db, filter);
  const counted = await query.clone().count("* as total").first();
  const words = wordsOf(filter.search);
  const page = query.clone().select("logbook.*").limit(limit).offset(skip);
  const rows = (await page.orderByRaw(`${ORDERS[filter.sort]}, logbook.n DESC`)) as unknown as Row[];
  const hits = await hitsIn(db, words.length > 0 ? rows.map((r) => r.n) : [], words);
  return { jobs: rows.map((row) => summaryOf(row, hits.get(row.n) ?? null)), total: Number(counted?.total ?? 0) };
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
  if (part) query.whereIn("logbook.job_id", (q) => q.select("job_id").from("found_faults").where({ part }));
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

/**
 * What was typed as a query of the index: every word has to stand somewhere, as the beginning of one.
 * @returns null where there is no word in it
 */
function matchOf(search: string): string | null {
  const words = wordsOf(search);
  return words.length === 0 ? null : words.map((w) => `"${w}"*`).join(" ");
}

/** What is no list of words has none: the job itself has them, and the logbook is made anew of it. */
function tagsIn(text: string): string[] {
  const tags = jsonOf(text);
  return Array.isArray(tags) ? tags.filter((tag) => typeof tag === "string") : [];
}

function summaryOf(row: Row, hit: string | null): JobSummary {
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
    tags: tagsIn(row.tags),
    customer: row.customer,
    device: row.device,
    outcome: row.outcome as Outcome | null,
    finding: row.finding,
    minutes: row.minutes,
    hit,
  };
}
