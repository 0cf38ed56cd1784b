import { PICTURE_LIMITS, PictureChange, PictureList, PictureWords } from "@hound/core/record";
import express, { type RequestHandler } from "express";
import type { Knex } from "knex";
import { z } from "zod";
import { type Route, route, whoIs } from "../http/route.ts";
import type { JobService } from "../jobs/service.ts";
import { Problem } from "../problems.ts";
import { PictureStore } from "./store.ts";

const JobId = z.object({ id: z.uuid() });
const PictureId = z.object({ id: z.uuid(), picture: z.uuid() });

/** `/api/jobs/:id/pictures`: what a camera saw of the job. */
export function pictureRoutes(db: Knex, jobs: JobService, now: () => Date): Route[] {
  const store = new PictureStore(db);
  const setDeleted = async ({ id, picture }: z.infer<typeof PictureId>, at: string | null) => {
    if (!(await store.setDeleted(id, picture, at))) throw new Problem("picture-not-found");
    return { pictures: await store.list(id) };
  };
  return [
    route(
      {
        method: "get",
        path: "/jobs/:id/pictures",
        summary: "Pictures of a job",
        params: JobId,
        query: z.object({ deleted: z.enum(["true", "false"]).default("false") }),
        answer: PictureList,
      },
      async ({ params, query }) => {
        await jobs.find(params.id);
        return { pictures: await store.list(params.id, query.deleted === "true") };
      },
    ),
    route(
      {
        method: "patch",
        path: "/jobs/:id/pictures/:picture",
        summary: "Say something of a picture: caption, quarter turns, whether it stands on the report",
        params: PictureId,
        body: PictureChange,
        answer: PictureList,
      },
      async ({ params: { id, picture }, body }) => {
        if (!(await store.change(id, picture, body))) throw new Problem("picture-not-found");
        return { pictures: await store.list(id) };
      },
    ),
    route(
      {
        method: "delete",
        path: "/jobs/:id/pictures/:picture",
        summary: "Delete a picture; it can be restored",
        params: PictureId,
        status: 200,
        answer: PictureList,
      },
      ({ params }) => setDeleted(params, now().toISOString()),
    ),
    route(
      {
        method: "post",
        path: "/jobs/:id/pictures/:picture/restore",
        summary: "Restore a deleted picture",
        params: PictureId,
        answer: PictureList,
      },
      ({ params }) => setDeleted(params, null),
    ),
  ];
}

/** What a picture that is sent comes as. */
export const rawPicture: RequestHandler = express.raw({ type: () => true, limit: PICTURE_LIMITS.bytes });

/** `POST /api/jobs/:id/pictures?name=&id=`: a JPEG, PNG or WebP as it is. */
export function pictureUpload(db: Knex, jobs: JobService, now: () => Date): RequestHandler {
  const store = new PictureStore(db);
  const Sent = z.object({ name: z.string().max(200).default("picture"), id: z.uuid().optional() });
  return async (request, response) => {
    const params = JobId.safeParse(request.params);
    const query = Sent.safeParse(request.query);
    if (!params.success || !query.success || !Buffer.isBuffer(request.body)) throw new Problem("invalid-input");
    const { id } = params.data;
    if ((await jobs.find(id)).deletedAt !== null) throw new Problem("job-deleted");
    await store.add(id, { ...query.data, bytes: request.body, who: whoIs(request) }, now().toISOString());
    response.status(201).json({ pictures: await store.list(id) });
  };
}

const Turned = z.object({ turns: z.coerce.number().pipe(PictureWords.shape.turns.unwrap()).default(0) });

/** `GET /api/jobs/:id/pictures/:picture.jpg`, `?small`, `?turns=1`: the picture, by quarter turns clockwise. It never changes. */
export function pictureBytes(db: Knex): RequestHandler {
  const store = new PictureStore(db);
  return async (request, response) => {
    const found = PictureId.safeParse(request.params);
    const { data: turned } = Turned.safeParse(request.query);
    const bytes =
      found.success &&
      (await store.bytes(found.data.id, found.data.picture, "small" in request.query, turned?.turns ?? 0));
    if (!bytes) throw new Problem("picture-not-found");
    response
      .type("image/jpeg")
      .set("Cache-Control", "private, max-age=31536000, immutable")
      .set("Content-Disposition", "inline")
      .send(bytes);
  };
}
