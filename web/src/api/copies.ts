import { CopyList, Restored } from "@hound/core/record";
import { call, send } from "./client.ts";

/** Milliseconds that a large file may take on its way. */
const UPLOAD_PATIENCE = 600_000;

/** The endpoints of backups, one function each. */
export const copiesApi = {
  list: () => call("GET", "/copies", CopyList),
  restore: (name: string) => call("POST", "/copies/restore", Restored, { name }),
  upload: (file: File) =>
    send("POST", `/restore?${new URLSearchParams({ name: file.name })}`, Restored, {
      body: file,
      headers: { "Content-Type": "application/octet-stream" },
      patience: UPLOAD_PATIENCE,
    }),
};
