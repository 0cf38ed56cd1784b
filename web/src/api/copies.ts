import { CopyList, Restored } from "@hound/core/record";
import { call, upload } from "./client.ts";

/** The endpoints of backups, one function each. */
export const copiesApi = {
  list: () => call("GET", "/copies", CopyList),
  restore: (name: string) => call("POST", "/copies/restore", Restored, { name }),
  upload: (file: File, signal: AbortSignal, onSent: (share: number) => void) =>
    upload(`/restore?${new URLSearchParams({ name: file.name })}`, Restored, file, signal, onSent),
};
