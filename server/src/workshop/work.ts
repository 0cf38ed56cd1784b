import { Progress } from "@hound/core/record";
import type { Request, Response } from "express";
import { z } from "zod";
import { type Route, route } from "../http/route.ts";
import { Problem } from "../problems.ts";

/** Told how far a piece of work is. */
export type Tell = (done: number, of: number) => void;

interface InHand {
  progress: Progress;
  readonly response: Response;
}

const Id = z.uuid();

/**
 * Long pieces of work, such as packing a workshop, under ids that their pages made: how far they are can be asked, and they
 * are stopped by ending the answer that they are for.
 */
export class WorkInHand {
  private readonly all = new Map<string, InHand>();

  /** Work under the id that the request brings, if it brings one, until its answer is ended. */
  begin(request: Request, response: Response): Tell {
    const id = Id.safeParse(request.query.work).data;
    if (id === undefined || this.all.has(id)) return () => {};
    const work: InHand = { progress: { done: 0, of: 0 }, response };
    this.all.set(id, work);
    response.on("close", () => this.all.delete(id));
    return (done, of) => {
      work.progress = { done, of };
    };
  }

  /** `/api/work/:id` */
  routes(): Route[] {
    const params = z.object({ id: Id });
    const found = (id: string) => {
      const work = this.all.get(id);
      if (!work) throw new Problem("not-found", { detail: "it is done, or was not begun" });
      return work;
    };
    return [
      route(
        { method: "get", path: "/work/:id", summary: "How far a long piece of work is", params, answer: Progress },
        async ({ params: { id } }) => found(id).progress,
      ),
      route(
        { method: "delete", path: "/work/:id", summary: "Stop a long piece of work", params },
        async ({ params: { id } }) => {
          found(id).response.destroy();
        },
      ),
    ];
  }
}
