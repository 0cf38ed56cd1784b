import { buildNetwork } from "@hound/core/circuit";
import { bridgeCandidates } from "@hound/core/faults";
import { prepare, type RankInput } from "@hound/core/rank";
import { meterData, type NumericReading } from "@hound/core/record";
import { drawCircuit, FaultDrawer, seededRandom, takeReadings } from "@hound/core/simulate";

/** A drawn circuit with a drawn fault and readings at nodes and through parts, always the same for a seed. */
export function drawnInput(parts: number, readingCount: number, seed: number): RankInput {
  const random = seededRandom(seed);
  for (;;) {
    const circuit = drawCircuit(parts - 1, random);
    const network = buildNetwork(circuit);
    const bridges = bridgeCandidates(network);
    const prepared = prepare({ circuit, readings: [], priors: { healthy: 0.001, doubleShare: 0 } });
    if (prepared.kind === "problem") continue;
    const faults = new FaultDrawer(prepared).draw(random);
    const nodes = network.nodes.filter((n) => n !== circuit.reference);
    const points = Array.from({ length: readingCount }, (_, i): NumericReading => {
      const through = circuit.parts[i % circuit.parts.length].designator;
      return i < nodes.length && i % 4 !== 3
        ? { quantity: "voltage", from: nodes[i], value: 0 }
        : { quantity: "current", through, value: 0 };
    });
    const options = { meter: meterData({}), bridges, blunder: 0, counts: 6000 };
    const taken = takeReadings(network, faults, points, options, random);
    if (taken) return { circuit, readings: taken.map((t) => t.reading) };
  }
}
