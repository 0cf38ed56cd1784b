import { Letterhead, People } from "@hound/core/record";
import type { Knex } from "knex";
import { z } from "zod";
import { type Route, route } from "../http/route.ts";

/** Rows of the workshop's that are one value each, kept as JSON with the version of its shape. */
export class WorkshopValue<T> {
  /** The shape of its row. */
  readonly stored: z.ZodType<{ version: 1; value: T }>;

  constructor(
    private readonly db: Knex,
    private readonly key: string,
    private readonly shape: z.ZodType<T>,
    private readonly empty: T,
  ) {
    this.stored = z.object({ version: z.literal(1), value: shape });
  }

  async read(): Promise<T> {
    const row = await this.db("workshop").where({ key: this.key }).first();
    return row ? this.stored.parse(JSON.parse(row.data)).value : this.empty;
  }

  async write(value: T): Promise<T> {
    const data = JSON.stringify({ version: 1, value: this.shape.parse(value) });
    await this.db("workshop").insert({ key: this.key, data }).onConflict("key").merge();
    return value;
  }
}

export const peopleIn = (db: Knex) => new WorkshopValue(db, "people", People, { names: [] });
export const letterheadIn = (db: Knex) => new WorkshopValue(db, "letterhead", Letterhead, { head: "", foot: "" });

/** `/api/people`, `/api/letterhead`: who works here, and what stands over a report. */
export function peopleRoutes(db: Knex): Route[] {
  return [
    route({ method: "get", path: "/people", summary: "Names of those who work here", answer: People }, () =>
      peopleIn(db).read(),
    ),
    route({ method: "put", path: "/people", summary: "Say who works here", body: People, answer: People }, ({ body }) =>
      peopleIn(db).write({ names: [...new Set(body.names)] }),
    ),
    route({ method: "get", path: "/letterhead", summary: "What stands over a report", answer: Letterhead }, () =>
      letterheadIn(db).read(),
    ),
    route(
      {
        method: "put",
        path: "/letterhead",
        summary: "Change what stands over a report",
        body: Letterhead,
        answer: Letterhead,
      },
      ({ body }) => letterheadIn(db).write(body),
    ),
  ];
}
