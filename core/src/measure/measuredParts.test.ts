import { expect, it } from "vitest";
import { buildNetwork, type Circuit, type NodeName } from "../circuit/index.ts";
import { readTrail } from "../notation/index.ts";
import { meterData, type Reading } from "../record/index.ts";
import { asMeasured } from "./index.ts";

const node = (name: string) => name as NodeName;

it("takes a part's own ohms from a lifted lead, or from across it where nothing leads past it, the last one first", () => {
  const network = buildNetwork(readTrail("[A] R1 33 5% + [B] (R2 100 | R3 220) + [C] R4 47 [D]").circuit as Circuit);
  const readings: Reading[] = [
    { quantity: "resistance", from: node("A"), to: node("B"), value: 30, plusMinus: 0.5 },
    { quantity: "resistance", from: node("B"), to: node("A"), value: 34, plusMinus: 0.5 },
    // Beside R2 lies R3: this is not R2's own.
    { quantity: "resistance", from: node("B"), to: node("C"), value: 70 },
    { quantity: "resistance", lifted: "R3", value: 225, plusMinus: 1 },
    // Of another configuration, over range, across more than the part, and no ohms.
    { quantity: "resistance", from: node("C"), to: node("D"), value: 99, state: { lifted: ["R1"] } },
    { quantity: "resistance", from: node("A"), to: node("C"), value: 100 },
    { quantity: "voltage", from: node("A"), to: node("B"), value: 12 },
  ];
  const { network: measured, parts } = asMeasured(network, readings, meterData({}));
  expect(parts).toEqual([
    { name: "R1", ohms: 34, plusMinus: 0.5 },
    { name: "R3", ohms: 225, plusMinus: 1 },
  ]);
  const own = Object.fromEntries(measured.branches.map((b) => [b.name, [b.law, b.part.tolerance]]));
  expect(own.R1).toEqual([{ kind: "resistance", ohms: 34 }, 0.5 / 34]);
  expect(own.R2).toEqual([{ kind: "resistance", ohms: 100 }, network.branches[1].part.tolerance]);
  // Without another point a reading is against the reference.
  expect(
    asMeasured(network, [{ quantity: "resistance", from: node("C"), value: 45 }], meterData({})).parts,
  ).toMatchObject([{ name: "R4", ohms: 45 }]);
  // A supply is disconnected: it is no way past.
  const driven = buildNetwork(readTrail("BT1 9V: [P] R1 33").circuit as Circuit);
  const across: Reading = { quantity: "resistance", from: node("P"), to: node("0"), value: 31 };
  expect(asMeasured(driven, [across], meterData({})).parts.map((p) => p.name)).toEqual(["R1"]);
  expect(asMeasured(driven, [{ ...across, beyond: "over" }], meterData({})).parts).toEqual([]);
});
