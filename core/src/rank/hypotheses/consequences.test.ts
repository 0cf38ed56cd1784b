import { describe, expect, it } from "vitest";
import type { Circuit } from "../../circuit/index.ts";
import { readTrail } from "../../notation/index.ts";
import type { Reading } from "../../record/index.ts";
import { plainRise } from "../../test/plain/evidence.ts";
import { plainPrior, plainSingles } from "../../test/plain/prior.ts";
import { nameOfSite } from "../answer/describe.ts";
import { prepare } from "../prepare.ts";
import { consequencesOf } from "./consequences.ts";

describe("a fault and what it blew", () => {
  it.each([
    ["BT1 12V ri=0.05: [P] F1 1A + [A] (LA1 12V 5W | R1 22 5% 10W + [B] R2 33 5% 10W)", []],
    ["BT1 24V ri=0.1: F1 3A + [A] R1 12 5% 50W", []],
    ["BT1 24V: [A] R1 220 0.5W + [B] (R2 1k 0.25W | R3 470 0.25W) + [D] R4 100", []],
    ["BT1 24V: [A] LA1 12V 5W + [B] LA2 12V 5W", []],
    ["BT1 24V: S1 open + [A] F1 0.5A + [B] R1 100 5W + [C] R2 47 5W", [{ switches: { S1: "closed" } }]],
  ] as const)("is as likely as the fault times what it adds to the chance that it blows: %s", (trail, states) => {
    const circuit = readTrail(trail).circuit as Circuit;
    const readings = states.map((state): Reading => ({ quantity: "voltage", from: "A" as never, value: 1, state }));
    const prepared = prepare({ circuit, readings });
    if (prepared.kind === "problem") throw new Error(prepared.message);
    const { prior } = prepared;
    const singles = plainSingles(circuit, states);
    const consequences = consequencesOf(prepared);
    const told = new Set(consequences.map((c) => `${c.cause} ${c.victim}`));
    const victims = prior.singles.flatMap(({ sites: [s] }, v) => (s.mode === "open" ? [v] : []));
    prior.singles.forEach(({ sites: [site] }, cause) => {
      const plain = singles.find((s) => s.name === nameOfSite(prepared, site));
      if (!plain) throw new Error(nameOfSite(prepared, site));
      for (const victim of victims) {
        const [opened] = prior.singles[victim].sites;
        const part = prepared.network.branches[opened.branch].part.designator;
        if (plain.owner === part) continue;
        const found = consequences.find((c) => c.cause === cause && c.victim === victim);
        for (const t of [0, 0.5, 1]) {
          const exact = plainRise(circuit, readings, [plain.faultAt(t)], part);
          const own = found?.chance({ site, value: site.value?.(t) ?? 0 }) ?? 0;
          // What hardly ever blows is no hypothesis of its own.
          expect(Math.abs(own - exact), `${plain.name} blew ${part} at ${t}`).toBeLessThan(found ? 2e-5 : 1.5e-4);
        }
      }
    });
    expect(told.size).toBe(consequences.length);
  });

  it("is a consequence no more where the fault raises nothing", () => {
    const circuit = readTrail("BT1 24V ri=0.1: F1 3A + [A] R1 12 5% 50W").circuit as Circuit;
    const prepared = prepare({ circuit, readings: [] });
    if (prepared.kind === "problem") throw new Error(prepared.message);
    const causes = consequencesOf(prepared).map((c) => nameOfSite(prepared, c.sites[0]));
    expect(causes).toContain("R1 short");
    expect(causes.some((name) => /weak|dead|BT1 low|R1 high/.test(name))).toBe(false);
  });
});

describe("the prior", () => {
  it("has the masses of the model by class: nothing wrong, one fault, two", () => {
    for (const [trail, situation, healthy] of [
      ["BT1 12V: F1 1A + S1 + [A] RV1 1k at=30% wiper=[W] + [B] K1 100\n[W] R1 1k [0]", undefined, 0.02],
      ["BT1 9V: [A] R1 1k + [B] (LA1 6V 1W | R2 330 + [C] J1 + [D] R3 47)", "newBuild", 0.5],
    ] as const) {
      const circuit = readTrail(trail).circuit as Circuit;
      const prepared = prepare({ circuit, readings: [], situation });
      if (prepared.kind === "problem") throw new Error(prepared.message);
      const { prior } = prepared;
      const singles = plainSingles(circuit, [], situation === "newBuild");
      const plain = plainPrior(singles, healthy);
      expect(prior.healthy.logPrior).toBeCloseTo(plain.healthy, 12);
      expect(prior.singles).toHaveLength(singles.length);
      const named = prior.singles.map((s) => singles.find((x) => x.name === nameOfSite(prepared, s.sites[0])));
      let two = 0;
      prior.singles.forEach((s, i) => {
        const own = named[i];
        if (!own) throw new Error(nameOfSite(prepared, s.sites[0]));
        expect(s.logPrior).toBeCloseTo(plain.single(own), 9);
        for (let k = 0; k < i; k += 1) two += Math.exp(prior.pair(i, k)?.logPrior ?? Number.NEGATIVE_INFINITY);
      });
      const one = prior.singles.reduce((sum, s) => sum + Math.exp(s.logPrior), 0);
      expect(one).toBeCloseTo((1 - healthy) * 0.92, 9);
      expect(two).toBeCloseTo((1 - healthy) * 0.08, 9);
    }
  });
});
