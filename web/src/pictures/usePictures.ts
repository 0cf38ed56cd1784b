import { PICTURE_LIMITS, type PictureList } from "@hound/core/record";
import { useQueryClient } from "@tanstack/react-query";
import type { z } from "zod";
import { picturesApi } from "../api/pictures.ts";
import { useNotice } from "../app/Notice.tsx";
import { newId } from "../app/newId.ts";
import { useSeen } from "../desk/useSeen.ts";

type List = z.infer<typeof PictureList>;

/** The pictures of a job, and what can be done with them. */
export function usePictures(job: string) {
  const key = ["pictures", job];
  const { data } = useSeen(key, () => picturesApi.list(job), { staleTime: 30_000 });
  const queries = useQueryClient();
  const notice = useNotice();
  const put = (list: List) => queries.setQueryData(key, list);
  const trouble = (what: string) => (error: unknown) => notice({ text: `${what}: ${(error as Error).message}` });
  /** Each is sent by itself; one that is refused says why, and the others go on. */
  const add = async (files: readonly File[]) => {
    for (const file of files) {
      const why = troubleWith(file);
      if (why) notice({ text: `${file.name}: ${why}` });
      else await picturesApi.add(job, newId(), file).then(put, trouble(`${file.name} was not kept`));
    }
  };
  const remove = (id: string) =>
    picturesApi.remove(job, id).then((list) => {
      put(list);
      const restore = () => picturesApi.restore(job, id).then(put, trouble("The picture was not restored"));
      notice({ text: "Picture deleted", action: { label: "Undo", run: restore } });
    }, trouble("The picture was not deleted"));
  return { pictures: data?.pictures ?? [], add, remove };
}

function troubleWith({ type, size }: File): string | null {
  if (!(PICTURE_LIMITS.types as readonly string[]).includes(type)) return "only JPEG, PNG and WebP are kept";
  return size > PICTURE_LIMITS.bytes ? `it is larger than ${PICTURE_LIMITS.bytes / 1e6} MB` : null;
}

/** Pictures among what was dropped or pasted. */
export function picturesIn(data: DataTransfer | null): File[] {
  return [...(data?.files ?? [])].filter((f) => f.type.startsWith("image/"));
}
