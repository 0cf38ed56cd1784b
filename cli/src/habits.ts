import { expectedOf, exposureOf, habitsFrom, repairsOf } from "@hound/core/faults";
import { InputError } from "./failure.ts";
import { readFile } from "./files.ts";

/** `hound habits`: rates and shares of modes as closed cases teach them, ready to stand as `priors` in another case. */
export function habits(paths: readonly string[]): object {
  const lessons = paths.map((path) => {
    const { circuit, file } = readFile(path);
    if (!circuit || !file?.repair?.length)
      throw new InputError(`${path}: nothing is said of what was repaired (the key “repair”)`);
    const repairs = repairsOf(circuit, file.repair);
    if (typeof repairs === "string")
      throw new InputError(`${path}: repair: there is no part ${repairs} in the circuit`);
    return { repairs, expected: expectedOf(exposureOf(circuit), repairs.length) };
  });
  return habitsFrom(lessons);
}
