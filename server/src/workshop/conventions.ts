import { ConventionChange, Conventions } from "@hound/core/record";
import type { Knex } from "knex";
import { z } from "zod";
import { jsonOf } from "../database/json.ts";
import { inTransaction } from "../database/transaction.ts";
import { type Route, route } from "../http/route.ts";

export const StoredConventions = z.object({ version: z.literal(1), conventions: Conventions });

/** The workshop's conventions: one row, kept as JSON with the version of its shape. */
export class ConventionStore {
  constructor(private readonly db: Knex) {}

  async read(): Promise<Conventions> {
    const row = await this.db("workshop").where({ key: "conventions" }).first();
    const stored = StoredConventions.safeParse(jsonOf(row?.data ?? ""));
    return stored.success ? stored.data.conventions : Conventions.parse({});
  }

  async write(conventions: Conventions): Promise<Conventions> {
    const data = JSON.stringify({ version: 1, conventions });
    await this.db("workshop").insert({ key: "conventions", data }).onConflict("key").merge();
    return conventions;
  }

  change(change: ConventionChange): Promise<Conventions> {
    return inTransaction(this.db, async (trx) => {
      const store = new ConventionStore(trx);
      return store.write({ ...(await store.read()), ...change });
    });
  }
}

/** `/api/conventions`: how the product shows things, for everybody who uses this server. */
export function conventionRoutes(db: Knex): Route[] {
  const store = new ConventionStore(db);
  return [
    route({ method: "get", path: "/conventions", summary: "Conventions in force", answer: Conventions }, () =>
      store.read(),
    ),
    route(
      {
        method: "put",
        path: "/conventions",
        summary: "Change the conventions",
        body: Conventions,
        answer: Conventions,
      },
      ({ body }) => store.write(body),
    ),
    route(
      {
        method: "patch",
        path: "/conventions",
        summary: "Change some of the conventions; the others stay",
        body: ConventionChange,
        answer: Conventions,
      },
      ({ body }) => store.change(body),
    ),
  ];
}
