import type { Believed, HistoryEntry, Job, JobReading } from "./job.ts";
import type { Priors } from "./priors.ts";
import type { Reading } from "./reading.ts";

interface Version {
  readonly revision: number;
  readonly trail: string;
  readonly createdAt: string;
}

/**
 * A job as it was at a moment: what was done since is taken back, the newest first.
 * @param entries all of its history, the newest first
 * @param versions of its circuit, all of them
 * @param at ISO 8601; what was done at that very moment counts
 */
export function jobAt(job: Job, entries: readonly HistoryEntry[], versions: readonly Version[], at: string): Job {
  const fields: Record<string, unknown> = {};
  const readings = new Map<string, Reading | null>(job.readings.map((r) => [r.id, r.reading]));
  const since = new Map(job.readings.map((r) => [r.id, r.createdAt]));
  for (const entry of entries) {
    if (entry.what === "reading" && entry.done === "taken") since.set(entry.id, entry.at);
    if (entry.at <= at) continue;
    if (entry.what === "field") fields[entry.field] = entry.before;
    else if (entry.what === "reading") readings.set(entry.id, entry.done === "taken" ? null : entry.before);
  }
  const kept = [...readings].flatMap(([id, reading]): JobReading[] =>
    reading ? [{ id, revision: 0, reading, createdAt: since.get(id) ?? "" }] : [],
  );
  const version = versions
    .filter((v) => v.createdAt <= at || v.revision === 0)
    .reduce<Version | null>((newest, v) => (newest && newest.revision > v.revision ? newest : v), null);
  return {
    ...job,
    ...fields,
    circuit: version ? { trail: version.trail, revision: version.revision } : job.circuit,
    readings: kept.sort((a, b) => (a.createdAt < b.createdAt ? -1 : a.createdAt > b.createdAt ? 1 : 0)),
    damaged: [],
    updatedAt: at,
  };
}

/** @returns the habits that counted at a moment; before anything was kept, the first that were */
export function believedAt(believed: Believed["believed"], at: string): Priors {
  return (believed.findLast((b) => b.at <= at) ?? believed[0])?.habits ?? {};
}
