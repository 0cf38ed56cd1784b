import { habitsOf } from "@hound/core/faults";
import {
  type FaultCount,
  HabitChange,
  HabitSettings,
  Habits,
  type PartCount,
  type Priors,
  withHabitChange,
} from "@hound/core/record";
import type { Knex } from "knex";
import { z } from "zod";
import { inTransaction } from "../database/transaction.ts";
import { type Route, route } from "../http/route.ts";
import { WorkshopValue } from "../workshop/value.ts";

export const habitSettingsIn = (db: Knex) =>
  new WorkshopValue(db, "habits", HabitSettings, HabitSettings.parse({ revision: 0 }));

/** What closed jobs taught, counted anew each time it is asked for; what somebody made of it is a row of the workshop's. */
class HabitStore {
  constructor(private readonly db: Knex) {}

  /**
   * @param only the circuit whose own counts are wanted; left out, those of all
   * @param until ISO 8601: jobs that were closed at that moment or later do not count, so that what was said then stays said
   */
  async read(only?: string, until?: string): Promise<Habits> {
    const settings = await habitSettingsIn(this.db).read();
    const within = (q: Knex.QueryBuilder, column: string) => {
      if (settings.since) q.where(column, ">=", settings.since);
      if (until !== undefined) q.where(column, "<", until);
    };
    const rows = (await this.db("found_faults as f")
      .join("logbook as l", "l.job_id", "f.job_id")
      .whereNull("l.deleted_at")
      .where("f.kind", "<>", "")
      .where((q) => within(q, "l.closed_at"))
      .groupBy("f.circuit", "f.kind", "f.part", "f.mode")
      .select("f.circuit", "f.kind", "f.part", "f.mode")
      .count("* as n")) as unknown as FaultRow[];
    const jobs = (await this.db("logbook")
      .whereNull("deleted_at")
      .where({ outcome: "found" })
      .where((q) => within(q, "closed_at"))
      .groupBy("circuit")
      .select("circuit")
      .max("circuit_name as name")
      .max("title as title")
      .count("* as n")) as unknown as { circuit: string; name: string; title: string; n: number }[];
    const due = (await this.db.raw(
      `SELECT circuit, key AS kind, sum(value) AS n FROM logbook, json_each(expected)
       WHERE deleted_at IS NULL AND outcome = 'found' AND closed_at >= ? AND closed_at < ?
       GROUP BY circuit, key`,
      // Nothing that is written as a moment comes after a letter.
      [settings.since ?? "", until ?? "z"],
    )) as { circuit: string; kind: string; n: number }[];
    const expectedIn = (wanted: (circuit: string) => boolean) => {
      const found: Record<string, number> = {};
      for (const { circuit, kind, n } of due) if (wanted(circuit)) found[kind] = (found[kind] ?? 0) + n;
      return found;
    };
    return {
      settings,
      jobs: jobs.reduce((sum, j) => sum + j.n, 0),
      kinds: summed(rows),
      expected: expectedIn(() => true),
      circuits: jobs
        .filter((j) => j.circuit !== "" && (only === undefined || j.circuit === only))
        .sort((a, b) => b.n - a.n)
        .map(({ circuit, name, title, n }) => {
          const own = rows.filter((r) => r.circuit === circuit);
          return {
            circuit,
            name: name || title,
            jobs: n,
            kinds: summed(own),
            expected: expectedIn((one) => one === circuit),
            parts: own.map(({ part, mode, n: count }): PartCount => ({ part, mode, count })),
          };
        }),
    };
  }
}

/**
 * What closed jobs taught that counts for a circuit; null where that is nothing.
 * @param until as for reading all of it
 */
export async function habitsFor(db: Knex, circuit: string, until?: string): Promise<Priors | null> {
  const found = habitsOf(await new HabitStore(db).read(circuit, until), circuit);
  return Object.keys(found).length > 0 ? found : null;
}

interface FaultRow {
  circuit: string;
  kind: FaultCount["kind"];
  part: string;
  mode: FaultCount["mode"];
  n: number;
}

function summed(rows: readonly FaultRow[]): FaultCount[] {
  const found = new Map<string, FaultCount>();
  for (const { kind, mode, n } of rows) {
    const key = `${kind} ${mode}`;
    found.set(key, { kind, mode, count: (found.get(key)?.count ?? 0) + n });
  }
  return [...found.values()].sort((a, b) => b.count - a.count);
}

/** `/api/habits`: what fails how often, as closed jobs say. */
export function habitRoutes(db: Knex): Route[] {
  return [
    route(
      {
        method: "get",
        path: "/habits",
        summary: "What closed jobs taught; with a circuit's key, of that circuit alone besides all kinds",
        query: z.object({ circuit: z.string().max(100).optional() }),
        answer: Habits,
      },
      ({ query }) => new HabitStore(db).read(query.circuit),
    ),
    route(
      {
        method: "patch",
        path: "/habits",
        summary: "Switch learning on or off, begin it anew from a day on, or add to what was counted; the rest stays",
        body: HabitChange,
        answer: Habits,
      },
      ({ body }) =>
        inTransaction(db, async (trx) => {
          const kept = habitSettingsIn(trx);
          await kept.write(withHabitChange(await kept.read(), body));
          return new HabitStore(trx).read();
        }),
    ),
  ];
}
