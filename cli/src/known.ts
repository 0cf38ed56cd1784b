import { buildNetwork, type Circuit, type Network } from "@hound/core/circuit";
import { withInstruments } from "@hound/core/measure";
import { type Estimate, settleUnknowns } from "@hound/core/rank";
import { meterData } from "@hound/core/record";
import { InputError } from "./failure.ts";
import { type Contents, readFile } from "./files.ts";

/** A file's circuit with every value known: those it leaves open are estimated from its readings. */
export interface Known extends Contents {
  readonly circuit: Circuit;
  readonly network: Network;
  readonly estimates: readonly Estimate[] | null;
  readonly title: string;
}

export function readKnown(path: string): Known {
  const contents = readFile(path);
  const { file, readings } = contents;
  if (!contents.circuit) throw new InputError(`${path}: there is no circuit in this file`);
  const circuit = withInstruments(contents.circuit, meterData(file?.meter));
  const settled = settleUnknowns(circuit, readings, meterData(file?.meter));
  const open = settled?.estimates.filter((e) => !e.isSettled).map((e) => e.designator) ?? [];
  if (open.length > 0) throw new InputError(`${path}: ${open.join(", ")} cannot be told from the readings given`);
  const known = settled?.circuit ?? circuit;
  return {
    ...contents,
    circuit: known,
    network: buildNetwork(known),
    estimates: settled?.estimates ?? null,
    title: file?.title || circuit.title,
  };
}
