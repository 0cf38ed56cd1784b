import { Letterhead, LetterheadChange, People, PeopleChange } from "@hound/core/record";
import type { Knex } from "knex";
import { inTransaction } from "../database/transaction.ts";
import { type Route, route } from "../http/route.ts";
import { WorkshopValue } from "./value.ts";

export const peopleIn = (db: Knex) => new WorkshopValue(db, "people", People, { names: [] });
export const letterheadIn = (db: Knex) => new WorkshopValue(db, "letterhead", Letterhead, { head: "", foot: "" });

/** `/api/people`, `/api/letterhead`: who works here, and what stands over a report. */
export function peopleRoutes(db: Knex): Route[] {
  return [
    route({ method: "get", path: "/people", summary: "Names of those who work here", answer: People }, () =>
      peopleIn(db).read(),
    ),
    route(
      {
        method: "patch",
        path: "/people",
        summary: "Add a name or take one off; the others stay",
        body: PeopleChange,
        answer: People,
      },
      ({ body: { add, remove } }) =>
        inTransaction(db, async (trx) => {
          const { names } = await peopleIn(trx).read();
          const kept = names.filter((name) => name !== remove && name !== add);
          return peopleIn(trx).write({ names: add === undefined ? kept : [...kept, add] });
        }),
    ),
    route({ method: "get", path: "/letterhead", summary: "What stands over a report", answer: Letterhead }, () =>
      letterheadIn(db).read(),
    ),
    route(
      {
        method: "patch",
        path: "/letterhead",
        summary: "Change what stands over a report, or below it; the other stays",
        body: LetterheadChange,
        answer: Letterhead,
      },
      ({ body: { head, foot } }) =>
        inTransaction(db, async (trx) => {
          const kept = await letterheadIn(trx).read();
          return letterheadIn(trx).write({ head: head ?? kept.head, foot: foot ?? kept.foot });
        }),
    ),
  ];
}
