import { CaseFile } from "@hound/core/notation";
import { SCHOOLS, type School } from "@hound/core/plan";
import type { Response } from "express";
import { z } from "zod";
import { type Route, route } from "../http/route.ts";
import type { DiagnoseService } from "./service.ts";

/** Cases in one request at most; the size of a request is limited besides. */
const MOST_CASES = 64;

const Cases = z.array(CaseFile).min(1).max(MOST_CASES);
const RankRequest = z.strictObject({
  cases: Cases,
  min: z.number().min(0).max(1).default(0),
  explain: z.boolean().default(false),
});
const NextRequest = z.strictObject({
  cases: Cases,
  school: z.enum(Object.keys(SCHOOLS) as [School, ...School[]]).default("information"),
});
/** As `hound rank` and `hound next` print them, in the order of the cases. */
const Rankings = z.strictObject({ rankings: z.array(z.looseObject({ title: z.string() })) });
const Plans = z.strictObject({ plans: z.array(z.looseObject({ title: z.string() })) });

/** `/api/rankings` and `/api/next`: for other programs, such as a test rig. */
export function diagnoseRoutes(service: DiagnoseService): Route[] {
  return [
    route(
      {
        method: "post",
        path: "/rankings",
        summary: "Rank the faults of one or more cases; nothing is stored",
        body: RankRequest,
        answer: Rankings,
      },
      async ({ body: { cases, min, explain } }, response) => ({
        rankings: (await service.all(cases, { kind: "rank", min, explain }, goneOf(response))) as { title: string }[],
      }),
    ),
    route(
      {
        method: "post",
        path: "/next",
        summary: "What to measure next in one or more cases; nothing is stored",
        body: NextRequest,
        answer: Plans,
      },
      async ({ body: { cases, school } }, response) => ({
        plans: (await service.all(cases, { kind: "next", school }, goneOf(response))) as { title: string }[],
      }),
    ),
  ];
}

/** Ends the work of a request whose sender has hung up. */
function goneOf(response: Response): AbortSignal {
  const gone = new AbortController();
  response.on("close", () => gone.abort());
  return gone.signal;
}
