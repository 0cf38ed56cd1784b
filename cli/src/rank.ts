import { type RankInput, type RankProblem, rankFaults } from "@hound/core/rank";
import { InputError } from "./failure.ts";
import { readFile } from "./files.ts";

/** `hound rank`: one object for a case; suspects below `min` are left out. */
export function rank(path: string, min: number): object {
  const { input, title } = inputOf(path);
  const ranking = rankFaults(input);
  if (ranking.kind === "problem") return refuse(path, ranking);
  return {
    title,
    suspects: ranking.suspects
      .filter((s) => s.probability >= min)
      .map(({ faults, probability }) => ({ faults, probability })),
    ...(ranking.unknowns.length > 0 ? { unknowns: ranking.unknowns } : {}),
    readings: ranking.readings.map(({ index, blunderProbability }) => ({ index, blunderProbability })),
  };
}

/** What a case file gives to rank. */
export function inputOf(path: string): { input: RankInput; title: string } {
  const { circuit, readings, file } = readFile(path);
  if (!circuit) throw new InputError(`${path}: there is no circuit in this file`);
  return {
    input: { circuit, readings, meter: file?.meter, priors: file?.priors },
    title: file?.title || circuit.title,
  };
}

/** @throws InputError that names the file and the reading */
export function refuse(path: string, problem: RankProblem): never {
  const where = problem.index === undefined ? "" : `reading ${problem.index + 1}: `;
  throw new InputError(`${path}: ${where}${problem.message}`);
}
