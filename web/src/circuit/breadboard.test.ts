import { buildNetwork, type Circuit } from "@hound/core/circuit";
import { type BreadboardPlan, nameOfHole, planBreadboard } from "@hound/core/layout";
import { readTrail } from "@hound/core/notation";
import { expect, it } from "vitest";
import { readOnce } from "../trail/readOnce.ts";
import { breadboardSteps } from "./breadboardSteps.ts";

const networkOf = (trail: string) => buildNetwork(readTrail(trail).circuit as Circuit);
const VENT =
  "BT1 24V: F1 1A + [A] R1 220 + [B] (R2 1k | R3 470 + [C] R4 330) + [D] R5 100\n[B] RV1 10k at=30% wiper=[D] [D]";

it("the steps name every part, hole and jumper once, and the supply comes first off and last on", () => {
  const network = networkOf(VENT);
  const plan = planBreadboard(network) as BreadboardPlan;
  const groups = breadboardSteps(network, plan);
  expect(groups.map((g) => g.title)).toEqual(["Gather", "Supply off", "Place", "Trace back, with a finger", "Connect"]);
  const place = groups[2].steps.join("\n");
  for (const { part } of plan.leads) expect(place).toContain(`${part} `);
  for (const { hole } of plan.leads) expect(place.split(nameOfHole(hole)).length, nameOfHole(hole)).toBeGreaterThan(1);
  expect(groups[2].steps.filter((s) => s.includes("jumper"))).toHaveLength(plan.jumpers.length);
  expect(place).toMatch(/RV1 first lead in .*, RV1 wiper in .*, RV1 second lead in/);
  const traced = groups[3].steps;
  expect(traced).toHaveLength(new Set(plan.leads.map((l) => l.node)).size);
  expect(traced.find((s) => s.startsWith("C:"))).toBe("C: R3 second lead, R4 first lead, and nothing else");
  expect(groups[4].steps[1]).toMatch(/^BT1 plus to the plus rail/);
});

it("a trail is read once for all who ask, and anew when it changes", () => {
  expect(readOnce(VENT)).toBe(readOnce(VENT));
  const first = readOnce(VENT);
  expect(readOnce("BT1 9V: R1 1k").places.size).toBe(2);
  expect(readOnce(VENT)).not.toBe(first);
  expect(readOnce(VENT).circuit).toEqual(first.circuit);
});
