import { PICTURE_LIMITS, type PictureChange, type PictureList, PictureWords } from "@hound/core/record";
import { useMemo } from "react";
import type { z } from "zod";
import { picturesApi } from "../api/pictures.ts";
import { useNotice } from "../app/Notice.tsx";
import { newId } from "../app/newId.ts";
import { useErrands, useRun } from "../desk/OutboxContext.tsx";
import { useSeen } from "../desk/useSeen.ts";
import type { ErrandBodies } from "../outbox/errandKinds.ts";
import type { Errand } from "../outbox/errands.ts";

type List = z.infer<typeof PictureList>["pictures"];

/** A picture of a job, kept by the server, or here and on its way to it. */
export interface ShownPicture extends PictureWords {
  readonly id: string;
  readonly name: string;
  /** ISO 8601; null where the server does not have it yet. */
  readonly createdAt: string | null;
  readonly who: string | null;
  /** Where it is here alone. */
  readonly file: File | null;
}

/** The pictures of a job with what is on its way, and what can be done with them. */
export function usePictures(job: string) {
  const { data } = useSeen(["pictures", job], () => picturesApi.list(job), { staleTime: 30_000 });
  const { list } = useErrands();
  const run = useRun();
  const notice = useNotice();
  const pictures = useMemo(() => withWaiting(data?.pictures ?? [], list, job), [data, list, job]);
  const send = <K extends "addPicture" | "changePicture" | "deletePicture">(
    kind: K,
    body: ErrandBodies[K],
    words: string,
  ) => run(kind, body, words).catch((error: Error) => notice({ text: `${words}: ${error.message}` }));
  /** Each is sent by itself; one that is no picture says so, and the others go on. */
  const add = (files: readonly File[]) => {
    for (const file of files) {
      const why = troubleWith(file);
      if (why) notice({ text: `${file.name}: ${why}` });
      else void send("addPicture", { job, id: newId(), file }, `Picture ${file.name}`);
    }
  };
  const remove = ({ id, name }: ShownPicture) => {
    const put = (isDeleted: boolean) =>
      send("deletePicture", { job, id, isDeleted }, `${isDeleted ? "Delete" : "Restore"} picture ${name}`);
    void put(true);
    notice({ text: "Picture deleted", action: { label: "Undo", run: () => void put(false) } });
  };
  const change = ({ id, name }: ShownPicture, what: PictureChange) =>
    void send("changePicture", { job, id, change: what }, `Picture ${name}`);
  return { pictures, add, change, remove };
}

/** As they will be once all is sent that waits. */
function withWaiting(kept: List, errands: readonly Errand[], job: string): ShownPicture[] {
  let shown: ShownPicture[] = kept.map((picture) => ({ ...picture, file: null }));
  for (const { kind, body, refused } of errands) {
    if (refused !== undefined) continue;
    if (kind === "addPicture") {
      const { job: of, id, file } = body as ErrandBodies["addPicture"];
      if (of !== job || shown.some((p) => p.id === id)) continue;
      shown.push({ id, name: file.name, createdAt: null, who: null, file, ...PictureWords.parse({}) });
    } else if (kind === "changePicture") {
      const { id, change } = body as ErrandBodies["changePicture"];
      shown = shown.map((p) => (p.id === id ? { ...p, ...change } : p));
    } else if (kind === "deletePicture") {
      const { id, isDeleted } = body as ErrandBodies["deletePicture"];
      if (isDeleted) shown = shown.filter((p) => p.id !== id);
    }
  }
  return shown;
}

function troubleWith({ type, size }: File): string | null {
  if (!(PICTURE_LIMITS.types as readonly string[]).includes(type)) return "only JPEG, PNG and WebP are kept";
  return size > PICTURE_LIMITS.bytes ? `it is larger than ${PICTURE_LIMITS.bytes / 1e6} MB` : null;
}

/** Pictures among what was dropped or pasted. */
export function picturesIn(data: DataTransfer | null): File[] {
  return [...(data?.files ?? [])].filter((f) => f.type.startsWith("image/"));
}
