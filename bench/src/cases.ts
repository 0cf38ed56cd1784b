import { buildNetwork, type Circuit, type Part } from "@hound/core/circuit";
import { bridgeCandidates } from "@hound/core/faults";
import { prepare, type RankInput } from "@hound/core/rank";
import { meterData, type NumericReading } from "@hound/core/record";
import { drawCircuit, FaultDrawer, type Random, seededRandom, takeReadings } from "@hound/core/simulate";

/** Diodes and shining ones in the place of so many of its resistors, walked as they lie. */
export const withJunctions =
  (count: number) =>
  (circuit: Circuit, random: Random): Circuit => {
    const parts = [...circuit.parts];
    const places = parts.flatMap((p, k) => (p.kind === "resistor" ? [k] : []));
    for (let i = 0; i < count && places.length > 0; i += 1) {
      const [k] = places.splice(Math.floor(random.next() * places.length), 1);
      const { from, to } = parts[k];
      const junction: Part =
        i % 2 === 0
          ? { designator: `D${i}`, kind: "diode", from, to, tolerance: 0.09, material: "silicon", volts: 0.65 }
          : { designator: `LED${i}`, kind: "led", from, to, tolerance: 0.03, material: "red", volts: 1.9 };
      parts[k] = junction;
    }
    return { ...circuit, parts };
  };

/** A drawn circuit with a drawn fault and readings at nodes and through parts, always the same for a seed. */
export function drawnInput(
  parts: number,
  readingCount: number,
  seed: number,
  change: (circuit: Circuit, random: Random) => Circuit = (circuit) => circuit,
): RankInput {
  const random = seededRandom(seed);
  for (;;) {
    const circuit = change(drawCircuit(parts - 1, random), random);
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
