import { existsSync, readFileSync, renameSync, writeFileSync } from "node:fs";
import { Paired } from "@hound/core/record";
import { z } from "zod";
import { jsonOf } from "../database/json.ts";

const Stored = z.array(Paired);

/** Browsers that were let in: what they are known by is a hash, from which no cookie can be made. */
export interface PairedList {
  readonly all: () => readonly Paired[];
  readonly add: (one: Paired) => void;
  readonly end: (id: string) => void;
}

/**
 * The list in a file beside the database, for this user alone: like the secret it lies in no copy, and none that is put back
 * brings one along.
 * @param file of the list; where it cannot be read nobody is let in
 */
export function pairedIn(file: string): PairedList {
  const kept = Stored.safeParse(jsonOf(existsSync(file) ? readFileSync(file, "utf8") : "[]"));
  let list = kept.success ? kept.data : [];
  const put = (next: Paired[]) => {
    writeFileSync(`${file}.new`, `${JSON.stringify(next, null, 2)}\n`, { mode: 0o600 });
    renameSync(`${file}.new`, file);
    list = next;
  };
  return {
    all: () => list,
    add: (one) => put([...list, one]),
    end: (id) => put(list.filter((one) => one.id !== id)),
  };
}
