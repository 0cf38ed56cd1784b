import { designatorOf } from "@hound/core/circuit";
import { pairKey } from "@hound/core/configuration";
import { type Exposure, expectedOf } from "@hound/core/faults";
import { type Closing, isSameRepair, type Job, type Repaired, wasFirstRight } from "@hound/core/record";
import type { Knex } from "knex";

/** What of a job the logbook is made of. */
export interface JobFacts {
  readonly job: Job;
  /** Of the circuit in force: its key, its title, the kind of each part, and how many of each can fail. */
  readonly circuit: {
    readonly key: string;
    readonly name: string;
    readonly kinds: Readonly<Record<string, string>>;
    readonly exposure: Exposure;
  };
  readonly partCount: number;
  /** What was noted in the log. */
  readonly notes: readonly string[];
}

/**
 * The logbook: a row for each job with what is listed, searched and counted, and the words of all jobs for full-text
 * search (SQLite FTS5). All of it follows from the jobs and can be made anew; it is kept in step with them.
 */
export class LogbookKeeper {
  constructor(private readonly db: Knex) {}

  /** What changed of a job besides its words: readings came or went, it was touched or deleted. */
  async touch(id: string) {
    await this.db.raw(
      `UPDATE logbook SET
         updated_at = (SELECT updated_at FROM jobs WHERE id = logbook.job_id),
         deleted_at = (SELECT deleted_at FROM jobs WHERE id = logbook.job_id),
         reading_count = (SELECT count(*) FROM readings WHERE job_id = logbook.job_id AND deleted_at IS NULL)
       WHERE job_id = ?`,
      [id],
    );
  }

  async write({ job, circuit, partCount, notes }: JobFacts) {
    const { closing } = job;
    const isClosed = closing !== null && (job.state === "solved" || job.state === "givenUp");
    const row = {
      title: job.title,
      complaint: job.complaint,
      state: job.state,
      created_at: job.createdAt,
      updated_at: job.updatedAt,
      deleted_at: job.deletedAt,
      circuit: circuit.key,
      circuit_name: circuit.name,
      tags: JSON.stringify(job.tags),
      customer: job.details.customer ?? "",
      device: job.details.device ?? "",
      finding: job.finding,
      outcome: isClosed ? closing.outcome : null,
      closed_at: isClosed ? closing.at : null,
      minutes: isClosed ? (closing.minutes ?? null) : null,
      first_right: isClosed ? numberOf(wasFirstRight(closing)) : null,
      expected: JSON.stringify(
        isClosed && closing.outcome === "found" ? expectedOf(circuit.exposure, closing.faults.length) : {},
      ),
      part_count: partCount,
      reading_count: job.readings.length,
    };
    await this.db("logbook")
      .insert({ job_id: job.id, ...row })
      .onConflict("job_id")
      .merge();
    const { n } = await this.db("logbook").where({ job_id: job.id }).first("n");
    await this.writeWords(n, { job, circuit, partCount, notes });
    await this.writeFaults(job, circuit, isClosed ? closing : null);
  }

  private async writeWords(n: number, { job, circuit, notes }: JobFacts) {
    await this.db.raw("DELETE FROM words WHERE rowid = ?", [n]);
    const found = (job.closing?.faults ?? []).flatMap((f) => ("nodes" in f ? f.nodes : [f.part]));
    const used = (job.closing?.used ?? []).flatMap((u) => [u.part, u.what]);
    const { customer = "", device = "", serial = "", number = "" } = job.details;
    await this.db.raw(
      "INSERT INTO words (rowid, title, complaint, finding, parts, circuit, people, notes) VALUES (?, ?, ?, ?, ?, ?, ?, ?)",
      [
        n,
        job.title,
        job.complaint,
        job.finding,
        [...found, ...used, ...Object.keys(circuit.kinds)].join(" "),
        circuit.name,
        [customer, device, serial, number, ...job.tags].join(" "),
        [...notes, ...job.readings.flatMap((r) => r.reading.note ?? [])].join("\n"),
      ],
    );
  }

  private async writeFaults(job: Job, { key, kinds }: JobFacts["circuit"], closing: Closing | null) {
    await this.db("found_faults").where({ job_id: job.id }).del();
    await this.db("said").where({ job_id: job.id }).del();
    if (closing?.outcome !== "found") return;
    const rows = closing.faults.map((fault) => ({ job_id: job.id, circuit: key, ...faultRow(fault, kinds) }));
    if (rows.length > 0) await this.db("found_faults").insert(rows);
    const said = (closing.said?.repairs ?? []).map(({ repair, probability }) => ({
      job_id: job.id,
      probability,
      was_true: Number(isSameRepair(repair, closing.faults)),
    }));
    if (said.length > 0) await this.db("said").insert(said);
  }
}

const numberOf = (is: boolean | null) => (is === null ? null : Number(is));

function faultRow(fault: Repaired, kinds: Readonly<Record<string, string>>) {
  if ("nodes" in fault)
    return { kind: "bridge", part: pairKey(...(fault.nodes as [string, string])), mode: fault.mode };
  const part = String(fault.part);
  return { kind: kinds[designatorOf(part)] ?? "", part, mode: fault.mode };
}
