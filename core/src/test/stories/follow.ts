import type { Circuit } from "../../circuit/index.ts";
import { afterChange, type Configuration } from "../../configuration/index.ts";
import { readQuick, readTrail } from "../../notation/index.ts";
import type { RankInput, Ranking } from "../../rank/index.ts";
import { type Meter, type Priors, type Reading, type Situation, takenSo } from "../../record/index.ts";

export interface Bench {
  readonly trail: string;
  /** Lines as typed with both probes in hand. */
  readonly lines: readonly string[];
  readonly situation?: Situation;
  readonly priors?: Priors;
  readonly meter?: Meter;
}

/** What a job holds after lines were typed, each taken of the circuit as it stood then. @throws Error on a line that is not understood */
export function follow({ trail, lines, situation, priors, meter }: Bench): RankInput {
  const { circuit, mistakes } = readTrail(trail);
  if (!circuit) throw new Error(mistakes.map((m) => m.message).join("; "));
  let standing: Configuration = {};
  const readings: Reading[] = [];
  for (const line of lines) {
    const read = readQuick(line, circuit as Circuit, undefined, { standing, meter });
    if (read.kind === "reading") readings.push(takenSo(read.reading, standing));
    else if (read.kind === "change") {
      standing = afterChange(standing, read.change);
      if (read.after) readings.push(takenSo(read.after, standing));
    } else throw new Error(`${line}: ${read.kind === "mistake" ? read.message : read.kind}`);
  }
  return { circuit, readings, standing, situation, priors, meter };
}

/** `R3 open`, `nothing`, `F1 open & R3 short`: faults in the order of their names. */
export function nameOf(faults: Ranking["suspects"][number]["faults"]): string {
  const names = faults.map((f) => ("nodes" in f ? f.nodes.join("~") : `${f.part} ${f.mode}`));
  return names.sort().join(" & ") || "nothing";
}
