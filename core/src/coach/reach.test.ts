import { describe, expect, it } from "vitest";
import { buildNetwork, type Circuit, type NodeName } from "../circuit/index.ts";
import { readTrail } from "../notation/index.ts";
import { prepare } from "../rank/index.ts";
import { meterData, type NumericReading } from "../record/index.ts";
import { drawCircuit, FaultDrawer, seededRandom, takeReadings } from "../simulate/index.ts";
import { everyPoint } from "../test/arbitrary/circuits.ts";
import { missedReach, reachesOf } from "./index.ts";

const METER = meterData({});

describe("what may be read with one fault at most", () => {
  const circuit = readTrail("BT1 24V ri=0.1: [A] R1 1k 5% + [B] R2 1k 5% + S1 + [C] R3 1k 5%").circuit as Circuit;
  const network = buildNetwork(circuit);
  const isMissed = (reading: object, standing = {}) =>
    missedReach(reachesOf(network, standing, METER), reading as NumericReading, "0", METER) !== null;
  const volts = (value: number, from: string, to?: string) => ({
    quantity: "voltage",
    from,
    value,
    ...(to ? { to } : {}),
  });

  it("lies between the supply's ends at every point of a chain, whichever way the leads are", () => {
    // Any one part open, shorted or drifted leaves each point between 0 V and what the supply gives.
    for (const value of [0, 8, 16, 24]) expect(isMissed(volts(value, "B")), `B ${value}`).toBe(false);
    for (const value of [-16, 7620, 0.5 * 24 * 4]) expect(isMissed(volts(value, "B")), `B ${value}`).toBe(true);
    expect([isMissed(volts(-16, "0", "B")), isMissed(volts(16, "0", "B"))]).toEqual([false, true]);
    expect([isMissed(volts(8, "A", "B")), isMissed(volts(-8, "A", "B"))]).toEqual([false, true]);
  });

  it("holds the current of any short, and ohms of any drift up to an open", () => {
    const amps = (value: number) => isMissed({ quantity: "current", through: "R1", value });
    // 24 V over two of the three, or none of them in a supply at half as much again: no more than 18 mA; never backwards.
    expect([amps(0), amps(0.008), amps(0.012), amps(0.06), amps(-0.008)]).toEqual([false, false, false, true, true]);
    const ohms = (value: number) => isMissed({ quantity: "resistance", from: "A", to: "B", value });
    expect([ohms(0), ohms(1000), ohms(90e3)]).toEqual([false, false, false]);
  });

  it("is of the circuit as it stands, and nothing where it is not known", () => {
    // With the switch open all of the supply lies across it, and nothing across the rest.
    const standing = { switches: { S1: "open" as const } };
    expect(isMissed({ ...volts(24, "B"), state: standing }, standing)).toBe(false);
    expect(isMissed(volts(5, "B", "NOWHERE"))).toBe(false);
    expect(isMissed({ ...volts(-90, "B"), beyond: "over" })).toBe(false);
  });

  it("never misses what a drawn circuit with one drawn fault and parts in tolerance shows", () => {
    let read = 0;
    for (let seed = 1; seed <= 40; seed += 1) {
      const random = seededRandom(seed);
      const drawn = drawCircuit(3 + (seed % 7), random);
      const prepared = prepare({
        circuit: drawn,
        readings: [],
        priors: { healthy: 1e-6, doubleShare: 0, rates: { bridge: 0 } },
      });
      if (prepared.kind === "problem") continue;
      const own = buildNetwork(drawn);
      const taken = takeReadings(
        own,
        new FaultDrawer(prepared).draw(random),
        everyPoint(drawn),
        {
          meter: METER,
          bridges: [],
          blunder: 0,
          counts: 6000,
        },
        random,
      );
      const reaches = reachesOf(own, {}, METER);
      const reference = own.nodes[own.reference] as NodeName;
      for (const { reading } of taken ?? []) {
        read += 1;
        expect(missedReach(reaches, reading as NumericReading, reference, METER), JSON.stringify(reading)).toBeNull();
      }
    }
    expect(read).toBeGreaterThan(100);
  });
});
