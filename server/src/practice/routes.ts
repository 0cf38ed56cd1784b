import { Hunt, HuntList, NewAct, NewHunt, NewNaming, Told } from "@hound/core/practice";
import { z } from "zod";
import { type Route, route } from "../http/route.ts";
import type { HuntService } from "./service.ts";

const Id = z.object({ id: z.uuid() });
const Limit = z.object({ limit: z.coerce.number().int().min(1).max(2000).default(500) });

/** Everything under `/api/hunts`. */
export function huntRoutes(hunts: HuntService): Route[] {
  return [
    route(
      { method: "get", path: "/hunts", summary: "List the hunts, the newest first", query: Limit, answer: HuntList },
      ({ query }) => hunts.list(query.limit),
    ),
    route(
      {
        method: "post",
        path: "/hunts",
        summary: "Hide a fault in a circuit",
        body: NewHunt,
        status: 201,
        answer: Hunt,
      },
      ({ body, who }) => hunts.as(who).create(body),
    ),
    route(
      { method: "get", path: "/hunts/:id", summary: "A hunt, without what is hidden", params: Id, answer: Hunt },
      ({ params }) => hunts.find(params.id),
    ),
    route(
      {
        method: "post",
        path: "/hunts/:id/acts",
        summary: "Do one thing at the stand-in bench",
        params: Id,
        body: NewAct,
        answer: z.strictObject({ told: Told, acts: z.number().int() }),
      },
      ({ params, body }) => hunts.act(params.id, body.after, body.act),
    ),
    route(
      {
        method: "post",
        path: "/hunts/:id/names",
        summary: "Name what is wrong; no name: nothing is",
        params: Id,
        body: NewNaming,
        answer: Hunt,
      },
      ({ params, body }) => hunts.name(params.id, body),
    ),
    route(
      {
        method: "post",
        path: "/hunts/:id/end",
        summary: "Give a hunt up: what was hidden is told",
        params: Id,
        answer: Hunt,
      },
      ({ params }) => hunts.giveUp(params.id),
    ),
    route(
      {
        method: "put",
        path: "/hunts/:id/best",
        summary: "Keep what the planner needed in the same world",
        params: Id,
        body: Hunt.shape.best.unwrap(),
        answer: Hunt,
      },
      ({ params, body }) => hunts.mark(params.id, body),
    ),
    route(
      { method: "delete", path: "/hunts/:id", summary: "Take a hunt away for good", params: Id },
      async ({ params }) => {
        await hunts.remove(params.id);
        return undefined;
      },
    ),
  ];
}
