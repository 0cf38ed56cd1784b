import { Attempt, AttemptList, NewAttempt, PracticeSet, ShownSet, ShownSets } from "@hound/core/paper";
import { Hunt, HuntList, NewAct, NewHunt, NewNaming, RunFile, Told } from "@hound/core/practice";
import { z } from "zod";
import { type Route, route } from "../http/route.ts";
import type { ExerciseService } from "./exercises.ts";
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
      {
        method: "post",
        path: "/hunts/runs",
        summary: "Take in a run that was made elsewhere",
        body: RunFile,
        status: 201,
        answer: Hunt,
      },
      ({ body, who }) => hunts.as(who).bring(body),
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

const SetHunt = z.strictObject({ id: z.uuid(), exercise: z.number().int().min(1) });

/** Sets that were handed out, and exercises on paper that were done. */
export function exerciseRoutes(exercises: ExerciseService): Route[] {
  return [
    route(
      { method: "get", path: "/exercises/sets", summary: "List the sets of exercises", answer: ShownSets },
      async () => ({ sets: await exercises.sets() }),
    ),
    route(
      {
        method: "put",
        path: "/exercises/sets/:id",
        summary: "Take in a set of exercises",
        params: Id,
        body: PracticeSet,
        answer: ShownSet,
      },
      ({ params, body }) => exercises.keep(params.id, body),
    ),
    route(
      {
        method: "delete",
        path: "/exercises/sets/:id",
        summary: "Take a set away; what was done of it stays",
        params: Id,
      },
      async ({ params }) => {
        await exercises.removeSet(params.id);
        return undefined;
      },
    ),
    route(
      {
        method: "post",
        path: "/exercises/sets/:id/hunts",
        summary: "Begin a hunt of a set",
        params: Id,
        body: SetHunt,
        status: 201,
        answer: Hunt,
      },
      ({ params, body, who }) => exercises.start(params.id, body.exercise, body.id, who),
    ),
    route(
      { method: "get", path: "/exercises", summary: "List exercises on paper that were done", answer: AttemptList },
      async () => ({ attempts: await exercises.attempts() }),
    ),
    route(
      {
        method: "post",
        path: "/exercises",
        summary: "Keep an exercise on paper that was done",
        body: NewAttempt,
        status: 201,
        answer: Attempt,
      },
      ({ body, who }) => exercises.attempted(body, who),
    ),
  ];
}
