import { buildNetwork, type Circuit } from "@hound/core/circuit";
import { readTrail } from "@hound/core/notation";
import { expect, it } from "vitest";
import { commaSeparated } from "../words/tables.ts";
import { partsOf, type Variant, variantOf, variantTable } from "./variants.ts";

const network = buildNetwork(readTrail("BT1 12V ri=0: [P] (R1 10 | R2 30) + [X] R3 4.5").circuit as Circuit);
const of = (text: string) => variantOf(text, network, {}, (c) => c) as Variant;

it("solves each variant: as it is, with something changed, with a part out, and by a trail of its own", () => {
  // 7.5 Ω + 4.5 Ω; 10 Ω + 4.5 Ω with R2 out; R1 as large as R2: 15 Ω + 4.5 Ω.
  expect(of("").total).toEqual({ amps: expect.closeTo(1, 6), watts: expect.closeTo(12, 5) });
  expect(of("").parts.get("R1")).toEqual({
    volts: expect.closeTo(7.5, 6),
    amps: expect.closeTo(0.75, 6),
    watts: expect.closeTo(5.625, 5),
  });
  expect(of("R2 out").total.amps).toBeCloseTo(12 / 14.5, 6);
  expect(of("R1 now 30").total.amps).toBeCloseTo(12 / 19.5, 6);
  expect(of("R1 now 30; R2 out").total.amps).toBeCloseTo(12 / 34.5, 6);
  const lamps = of("BT1 12V ri=0: LA1 6V 6W + LA2 6V 6W");
  expect(lamps.total.watts).toBeCloseTo(12, 3);
  expect(lamps.parts.get("LA1")?.glow?.word).toBe("lit");
  for (const wrong of ["R9 out", "BT1 12V: R1 ?", "BT1 12V: R1 4q7"])
    expect(variantOf(wrong, network, {}, (c) => c).kind).toBe("mistake");
});

it("lists every part of any variant once, and gives a spreadsheet three figures a variant", () => {
  const variants = [of(""), of("BT1 12V ri=0: R1 10 + R5 2")];
  expect(partsOf(variants)).toEqual(["BT1", "R1", "R2", "R3", "R5"]);
  const lines = commaSeparated([variantTable(["as it is", "other"], variants)], "now").split(/\r?\n/);
  expect(lines.find((l) => l.startsWith("R5"))).toMatch(/^R5,,,,2(\.0+\d*)?,1(\.0+\d*)?,2(\.0+\d*)?$|^R5,,,,1\.9999/);
  expect(lines.find((l) => l.startsWith("All supplies"))?.split(",")).toHaveLength(7);
});
