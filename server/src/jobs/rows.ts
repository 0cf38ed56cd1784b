import { Configuration } from "@hound/core/configuration";
import {
  Claims,
  Closing,
  type Damaged,
  Details,
  type Job,
  type JobReading,
  JobState,
  Meter,
  NEW_JOB_FIELDS,
  Priors,
  Reading,
  RepairWork,
  Situation,
} from "@hound/core/record";
import { z } from "zod";
import { jsonOf } from "../database/json.ts";
import { sumOf } from "../database/sums.ts";
import { Recent } from "../recent.ts";

/** What of a job changes together under its own revision. */
export interface JobFields {
  readonly title: string;
  readonly complaint: string;
  readonly finding: string;
  readonly details: Details;
  readonly state: JobState;
  readonly meter: Meter;
  readonly priors: Priors;
  readonly situation: Situation;
  readonly isWet: boolean;
  readonly standing: Configuration;
  readonly tags: readonly string[];
  readonly claims: Claims;
  readonly work: RepairWork | null;
  readonly closing: Closing | null;
}

export interface JobRow {
  id: string;
  title: string;
  complaint: string;
  finding: string;
  state: string;
  settings: string;
  revision: number;
  created_at: string;
  updated_at: string;
  deleted_at: string | null;
  sum: string | null;
}

export interface CircuitRow {
  job_id: string;
  revision: number;
  trail: string;
  part_count: number;
  key: string | null;
  name: string | null;
  kinds: string | null;
  exposure: string | null;
  who: string | null;
  created_at: string;
  sum: string | null;
}

export interface ReadingRow {
  id: string;
  job_id: string;
  place: number;
  data: string;
  revision: number;
  created_at: string;
  deleted_at: string | null;
  sum: string | null;
}

/** Meter and habits of a job, and how its circuit stands; stored as JSON with the version of its shape. */
const Settings = z.object({
  version: z.literal(1),
  meter: Meter,
  priors: Priors,
  situation: Situation.default("complaint"),
  isWet: z.boolean().default(false),
  standing: Configuration.default({}),
  details: Details.default({}),
  tags: z.array(z.string()).default([]),
  claims: Claims.default({}),
  work: RepairWork.nullable().default(null),
  closing: Closing.nullable().default(null),
});
const StoredReading = z.object({ version: z.literal(1), reading: Reading });

export function rowOf({ title, complaint, finding, state, ...fields }: JobFields) {
  const { meter, priors, situation, isWet, standing, details, tags, claims, work, closing } = fields;
  const stored = { version: 1, meter, priors, situation, isWet, standing, details, tags, claims, work, closing };
  return { title, complaint, finding, state, settings: JSON.stringify(stored) };
}

export const dataOf = (reading: Reading) => JSON.stringify({ version: 1, reading });

/** A job of its rows, the circuit's newest first. Rows that are not as they were stored are set apart, the rest goes on. */
export function jobOf(row: JobRow, circuits: readonly CircuitRow[], readings: readonly ReadingRow[]): Job {
  const damaged: Damaged[] = [];
  const settings = Settings.safeParse(jsonOf(row.settings));
  const state = JobState.safeParse(row.state);
  if (row.sum !== sumOf.job(row) || !settings.success || !state.success)
    damaged.push({
      what: "fields",
      id: row.id,
      text: [row.title, row.complaint, row.finding, row.state, row.settings].join("\n"),
    });
  const good = circuits.find(isWhole);
  if (circuits[0] && circuits[0] !== good)
    damaged.push({ what: "circuit", id: String(circuits[0].revision), text: String(circuits[0].trail) });
  const whole: JobReading[] = [];
  for (const r of readings) {
    const reading = readingOf(r);
    if (reading) whole.push(reading);
    else damaged.push({ what: "reading", id: r.id, text: String(r.data) });
  }
  return {
    id: row.id,
    title: String(row.title),
    complaint: String(row.complaint),
    finding: String(row.finding),
    state: state.success ? state.data : "open",
    ...withoutVersion(settings.success ? settings.data : NEW_JOB_FIELDS),
    revision: Number(row.revision),
    circuit: { trail: good ? good.trail : "", revision: circuits[0]?.revision ?? 0 },
    readings: whole,
    damaged,
    createdAt: String(row.created_at),
    updatedAt: String(row.updated_at),
    deletedAt: row.deleted_at,
  };
}

export const isWhole = (row: CircuitRow) => row.sum === sumOf.circuit(row);

/** A job's readings are read at each of its changes, and hardly ever are they others than before. */
const readRecently = new Recent<JobReading | null>(3000);

/** Null where the row is not what was stored. */
export function readingOf(row: ReadingRow): JobReading | null {
  const { deleted_at, ...stored } = row;
  return readRecently.of(JSON.stringify(stored), () => readAgain(row));
}

function readAgain(row: ReadingRow): JobReading | null {
  const stored = StoredReading.safeParse(jsonOf(row.data));
  if (row.sum !== sumOf.reading(row) || !stored.success) return null;
  return { id: row.id, revision: row.revision, reading: stored.data.reading, createdAt: row.created_at };
}

function withoutVersion(settings: Omit<z.infer<typeof Settings>, "version">) {
  const { meter, priors, situation, isWet, standing, details, tags, claims, work, closing } = settings;
  return { meter, priors, situation, isWet, standing, details, tags, claims, work, closing };
}
