import { describe, expect, it } from "vitest";
import type { Circuit } from "../../circuit/index.ts";
import type { Configuration } from "../../configuration/index.ts";
import { readTrail } from "../../notation/index.ts";
import type { Seen } from "../../record/index.ts";
import { lookProbability } from "../../test/plain/evidence.ts";
import { plainSingles } from "../../test/plain/prior.ts";
import { nameOfSite } from "../answer/describe.ts";
import { faultsAt } from "../hypotheses/cells.ts";
import { prepare } from "../prepare.ts";
import type { Observation } from "./observations.ts";

/** Every look at a part under every single fault, beside the law written again. */
function compareLooks(trail: string, part: string, seen: readonly Seen[], state: Configuration = {}, alone = false) {
  const circuit = readTrail(trail).circuit as Circuit;
  const looks = seen.map(
    (s): Observation => ({ quantity: "observation", part, seen: s, state, ...(alone ? { alone } : {}) }),
  );
  const prepared = prepare({ circuit, readings: looks });
  if (prepared.kind === "problem" || !prepared.observations) throw new Error("no looks");
  const { prior, integrator, observations } = prepared;
  const singles = plainSingles(circuit, [state]);
  for (const single of [prior.healthy, ...prior.singles]) {
    const faults = faultsAt(single.sites, [0.3]);
    const { y } = integrator.predictor.predict(faults, "values");
    const names = single.sites.map((s) => nameOfSite(prepared, s));
    const plain = names.map((name) => {
      const found = singles.find((s) => s.name === name);
      if (!found) throw new Error(name);
      return found.faultAt(0.3);
    });
    const mistaken = new Float64Array(looks.length);
    observations.addMistaken(0.5, y, faults, mistaken);
    looks.forEach((look, i) => {
      const own = observations.chanceOf(i, y, faults);
      const exact = lookProbability(circuit, look, looks, plain, { factor: {} }, 0.01);
      expect(Math.abs(own - exact), `${part} ${look.seen} under ${names}: ${own}, ${exact}`).toBeLessThan(2e-5);
      // Of one look in a hundred that is not so, half show just this.
      expect((2 * mistaken[i] * exact) / 0.005).toBeCloseTo(1, 1);
    });
  }
}

describe("what the eye and the finger find", () => {
  it("of a lamp follows its power: dark, dim, lit, bright, at every step", () => {
    const looks: Seen[] = ["dark", "dim", "lit", "bright"];
    for (const volts of [2, 5, 8, 12, 15, 18, 24]) {
      compareLooks(`BT1 ${volts}V ri=0.1: F1 2A + [A] LA1 12V 5W + [B] R1 1.5`, "LA1", looks);
      // Without a rating it is held against what it has when all is well.
      compareLooks(`BT1 ${volts}V ri=0.1: J1 + [A] LA1 33 + [B] R1 10`, "LA1", looks);
    }
    compareLooks("BT1 12V: S1 open + [A] LA1 12V 5W", "LA1", looks, { switches: { S1: "closed" } });
    compareLooks("BT1 12V: S1 + [A] LA1 12V 5W", "LA1", looks, { switches: { S1: "open" } });
    compareLooks("BT1 12V: S1 + [A] LA1 12V 5W", "LA1", looks, { swapped: ["LA1"] });
    compareLooks("BT1 12V ri=3: F1 1A + [A] LA1 12V 5W + R1 10", "LA1", looks, {}, true);
    compareLooks("BT1 12V ri=3: F1 1A + [A] LA1 12V 5W + R1 10", "LA1", looks, { swapped: ["BT1"] }, true);
  });

  it("of a winding and a heater follows their power too", () => {
    for (const volts of [6, 14, 24]) {
      compareLooks(`BT1 ${volts}V: J1 + [A] K1 24V 4W`, "K1", ["silent", "pulls"]);
      compareLooks(`BT1 ${volts}V: J1 + [A] HR1 24V 60W`, "HR1", ["cold", "hot"]);
      compareLooks(`BT1 ${volts}V: J1 + [A] HR1 10`, "HR1", ["cold", "hot"]);
      compareLooks(`BT1 ${volts}V: J1 + [A] R1 100 2W`, "R1", ["cold", "hot"]);
    }
  });

  it("of a fuse is what it says; a new one may have blown again", () => {
    const trail = "BT1 24V ri=0.1: F1 1A + [A] R1 47 50W + [B] R2 10 50W";
    compareLooks(trail, "F1", ["blown", "intact"]);
    compareLooks(trail, "F1", ["blown", "intact"], { swapped: ["F1"] });
  });
});
