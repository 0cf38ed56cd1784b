import { expect, it } from "vitest";
import type { Circuit } from "../circuit/index.ts";
import { differences, readTrail } from "./index.ts";

const circuit = (trail: string) => readTrail(trail).circuit as Circuit;

it("two circuits differ part by part, in words one would write", () => {
  const before = circuit("BT1 9V: [P] R1 1k + [A] R2 2k 5% + [B] R3 470");
  const after = circuit("BT1 9V: [P] R1 1k2 + [A] R2 2k 5% + [C] (R3 470 | R4 10)");
  expect(differences(before, before)).toEqual([]);
  expect(differences(before, after)).toEqual([
    { kind: "changed", designator: "R1", before: "R1 1k", after: "R1 1.2k", moved: null },
    {
      kind: "changed",
      designator: "R2",
      before: "R2 2k 5%",
      after: "R2 2k 5%",
      moved: { before: "A to B", after: "A to C" },
    },
    {
      kind: "changed",
      designator: "R3",
      before: "R3 470",
      after: "R3 470",
      moved: { before: "B to 0", after: "C to 0" },
    },
    { kind: "added", designator: "R4", words: "R4 10", ends: "C to 0" },
  ]);
  expect(differences(after, before).at(-1)).toMatchObject({ kind: "removed", designator: "R4" });
});
