import { Meter, MeterChange, MeterList, SHIPPED_METERS, WorkshopMeter } from "@hound/core/record";
import type { Knex } from "knex";
import { z } from "zod";
import { jsonOf } from "../database/json.ts";
import { inTransaction } from "../database/transaction.ts";
import { type Route, route } from "../http/route.ts";
import { Problem } from "../problems.ts";

export const StoredMeter = z.object({ version: z.literal(1), revision: z.number().int(), meter: Meter });
const PREFIX = "meter:";
const Id = z.strictObject({ id: z.uuid() });

/** The workshop's own meters: a row each among the workshop's, kept as JSON with the version of its shape. */
class MeterStore {
  constructor(private readonly db: Knex) {}

  async list(): Promise<WorkshopMeter[]> {
    const rows = await this.db("workshop").where("key", "like", `${PREFIX}%`).orderBy("key");
    return rows
      .flatMap((row) => meterIn(row) ?? [])
      .sort((a, b) => (a.meter.name ?? "").localeCompare(b.meter.name ?? "", "en"));
  }

  async find(id: string): Promise<WorkshopMeter | null> {
    const row = await this.db("workshop")
      .where({ key: PREFIX + id })
      .first();
    return row ? meterIn(row) : null;
  }

  async write(id: string, revision: number, meter: Meter): Promise<WorkshopMeter> {
    const data = JSON.stringify({ version: 1, revision, meter });
    await this.db("workshop")
      .insert({ key: PREFIX + id, data })
      .onConflict("key")
      .merge();
    return { id, revision, meter, isShipped: false };
  }

  async remove(id: string) {
    await this.db("workshop")
      .where({ key: PREFIX + id })
      .delete();
  }
}

/** Null where what is kept is no meter. */
function meterIn(row: { key: string; data: string }): WorkshopMeter | null {
  const stored = StoredMeter.safeParse(jsonOf(row.data));
  if (!stored.success) return null;
  const { revision, meter } = stored.data;
  return { id: row.key.slice(PREFIX.length), revision, meter, isShipped: false };
}

/** `/api/meters`: those that come with the product, and the workshop's own. */
export function meterRoutes(db: Knex): Route[] {
  const shipped = SHIPPED_METERS.map(({ id, meter }): WorkshopMeter => ({ id, revision: 0, meter, isShipped: true }));
  return [
    route({ method: "get", path: "/meters", summary: "All meters", answer: MeterList }, async () => ({
      meters: [...shipped, ...(await new MeterStore(db).list())],
    })),
    route(
      {
        method: "put",
        path: "/meters/:id",
        summary: "Add a meter (revision 0), or change one; the id is the sender's, so that a repeat is harmless",
        params: Id,
        body: MeterChange,
        answer: WorkshopMeter,
      },
      ({ params: { id }, body: { revision, meter } }) =>
        inTransaction(db, async (trx) => {
          const store = new MeterStore(trx);
          const current = await store.find(id);
          if (current && JSON.stringify(current.meter) === JSON.stringify(meter)) return current;
          if ((current?.revision ?? 0) !== revision) throw new Problem("stale-revision", { current });
          return store.write(id, revision + 1, meter);
        }),
    ),
    route(
      { method: "delete", path: "/meters/:id", summary: "Remove a meter; jobs keep their copy of it", params: Id },
      ({ params: { id } }) => new MeterStore(db).remove(id),
    ),
  ];
}
