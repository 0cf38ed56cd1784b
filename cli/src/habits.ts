import { habitsFrom, type Repair, repairsOf } from "@hound/core/faults";
import { InputError } from "./failure.ts";
import { readFile } from "./files.ts";

/** `hound habits`: rates and shares of modes as closed cases teach them, ready to stand as `priors` in another case. */
export function habits(paths: readonly string[]): object {
  const repairs = paths.flatMap((path): Repair[] => {
    const { circuit, file } = readFile(path);
    if (!circuit || !file?.repair?.length)
      throw new InputError(`${path}: nothing is said of what was repaired (the key “repair”)`);
    const found = repairsOf(circuit, file.repair);
    if (typeof found === "string") throw new InputError(`${path}: repair: there is no part ${found} in the circuit`);
    return found;
  });
  return habitsFrom(repairs);
}
