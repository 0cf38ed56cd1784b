import { type PictureChange, PictureList } from "@hound/core/record";
import { call, send } from "./client.ts";

/** Milliseconds that a photograph may take on its way. */
const UPLOAD_PATIENCE = 120_000;

/** The endpoints of a job's pictures, one function each. */
export const picturesApi = {
  list: (job: string, isDeleted = false) => call("GET", `/jobs/${job}/pictures?deleted=${isDeleted}`, PictureList),
  add: (job: string, id: string, file: File) =>
    send("POST", `/jobs/${job}/pictures?${new URLSearchParams({ id, name: file.name })}`, PictureList, {
      body: file,
      headers: { "Content-Type": "application/octet-stream" },
      patience: UPLOAD_PATIENCE,
    }),
  change: (job: string, id: string, change: PictureChange) =>
    call("PATCH", `/jobs/${job}/pictures/${id}`, PictureList, change),
  remove: (job: string, id: string) => call("DELETE", `/jobs/${job}/pictures/${id}`, PictureList),
  restore: (job: string, id: string) => call("POST", `/jobs/${job}/pictures/${id}/restore`, PictureList),
  /** @param turns quarter turns clockwise */
  address: (job: string, id: string, { turns = 0, isSmall = false }: { turns?: number; isSmall?: boolean } = {}) => {
    const asked = [...(isSmall ? ["small"] : []), ...(turns === 0 ? [] : [`turns=${turns}`])];
    return `/api/jobs/${job}/pictures/${id}.jpg${asked.length === 0 ? "" : `?${asked.join("&")}`}`;
  },
};
