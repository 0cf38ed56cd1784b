import { JobList, JobState, Outcome, Sort, Statistics } from "@hound/core/record";
import type { Knex } from "knex";
import { z } from "zod";
import { type Route, route } from "../http/route.ts";
import { habitRoutes } from "./habits.ts";
import { listJobs } from "./list.ts";
import { statisticsOf } from "./statistics.ts";

const Limit = z.coerce.number().int().min(1).max(10_000);
const word = z.string().max(200);
const Day = z.iso.date();

const Filter = z.object({
  search: word.default(""),
  state: JobState.optional(),
  outcome: Outcome.optional(),
  circuit: word.optional(),
  part: word.optional(),
  tag: word.optional(),
  from: Day.optional(),
  to: Day.optional(),
  sort: Sort.default("touched"),
  deleted: z.enum(["true", "false"]).default("false"),
  limit: Limit.default(200),
  skip: z.coerce.number().int().min(0).default(0),
});

/** What is asked of all jobs together: the list, what fails here, the habits they teach. */
export function logbookRoutes(db: Knex): Route[] {
  return [
    route(
      { method: "get", path: "/jobs", summary: "List and search jobs", query: Filter, answer: JobList },
      ({ query: { deleted, limit, skip, ...filter } }) =>
        listJobs(db, { ...filter, deleted: deleted === "true" }, limit, skip),
    ),
    route({ method: "get", path: "/statistics", summary: "What fails here", answer: Statistics }, () =>
      statisticsOf(db),
    ),
    ...habitRoutes(db),
  ];
}
