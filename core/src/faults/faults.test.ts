import { describe, expect, it } from "vitest";
import { buildNetwork, type Circuit } from "../circuit/index.ts";
import { readTrail } from "../notation/index.ts";
import { bridgeCandidates, MODE_SHARES, priorData, RATES, sitesOf } from "./index.ts";
import { normalQuantile } from "./normalQuantile.ts";

const networkOf = (trail: string) => buildNetwork(readTrail(trail).circuit as Circuit);
const sites = (trail: string, priors = priorData()) => {
  const network = networkOf(trail);
  return sitesOf(network, bridgeCandidates(network), priors).map((site) => ({
    ...site,
    name: site.branch < 0 ? "bridge" : `${network.branches[site.branch].name} ${site.mode}`,
  }));
};
const find = (trail: string, name: string) => {
  const site = sites(trail).find((s) => s.name === name);
  if (!site) throw new Error(`no site ${name}`);
  return site;
};

describe("faults", () => {
  it("have shares that add up to one for every kind", () => {
    for (const [kind, shares] of Object.entries(MODE_SHARES)) {
      const sum = Object.values(shares).reduce((s, v) => s + v, 0);
      expect(sum, kind).toBeCloseTo(1, 9);
    }
    expect(RATES.lamp).toBeGreaterThan(RATES.resistor);
  });

  it("weigh rate times share, and a switch has only what differs from good in a position it had", () => {
    const trail = "BT1 9V: F1 1A + S1 + R1 1k + S2 open + LA1 6V 1W";
    expect(find(trail, "F1 open").weight).toBeCloseTo(9.5, 9);
    expect(find(trail, "LA1 open").weight).toBeCloseTo(18.4, 9);
    const names = sites(trail).map((s) => s.name);
    expect(names).toContain("S1 stuckOpen");
    expect(names).not.toContain("S1 stuckClosed");
    expect(names).toContain("S2 stuckClosed");
    expect(names).not.toContain("S2 high");
    const network = networkOf(trail);
    const moved = sitesOf(network, [], priorData(), { states: [{ switches: { S1: "open" } }] });
    const ofS1 = moved.filter((s) => network.branches[s.branch].name === "S1").map((s) => [s.mode, s.weight]);
    expect(ofS1).toEqual([
      ["high", expect.closeTo(3.2, 9)],
      ["stuckOpen", 4],
      ["stuckClosed", expect.closeTo(0.8, 9)],
    ]);
    const given = priorData({ modes: { resistor: { open: 1 } }, rates: { resistor: 7 } });
    // Bridges that never happen are no suspects at all.
    const bridged = "BT1 9V: R1 1k + [A] R2 1k + [B] R3 1k";
    const none = sites(bridged, priorData({ rates: { bridge: 0 } }));
    expect([sites(bridged), none].map((list) => list.some((s) => s.mode === "bridged"))).toEqual([true, false]);
    expect(sites(trail, given).filter((s) => s.name.startsWith("R1"))).toMatchObject([{ mode: "open", weight: 7 }]);
  });

  it("have the quantiles of the normal distribution, to nine digits of it, from the middle into both tails", () => {
    // Abramowitz and Stegun, Handbook of Mathematical Functions, table 26.5.
    const table = [
      [0.5, 0],
      [0.6, 0.2533471031],
      [0.8, 0.8416212336],
      [0.975, 1.9599639845],
      [0.99, 2.326347874],
      [0.9999, 3.7190164855],
    ];
    for (const [p, z] of table) {
      expect(Math.abs(normalQuantile(p) - z)).toBeLessThan(5e-9 * (1 + z));
      expect(Math.abs(normalQuantile(1 - p) + z)).toBeLessThan(5e-9 * (1 + z));
    }
  });

  it("split a potentiometer between its sections and its wiper", () => {
    const trail = "BT1 9V: [P] RV1 10k at=40% wiper=[W]\n[W] R1 1k [0]";
    expect(find(trail, "RV1.top open").weight).toBeCloseTo(0.6, 9);
    expect(find(trail, "RV1.bottom open").weight).toBeCloseTo(0.6, 9);
    expect(find(trail, "RV1.wiper wiperOpen").weight).toBeCloseTo(2.1, 9);
    expect(sites(trail).some((s) => s.name === "RV1.wiper high")).toBe(false);
  });

  it("drift from the edge of tolerance to a hundredfold, contacts by what is added, supplies by their own ranges", () => {
    const trail = "BT1 10V 2% ri=0.1: J1 + R1 1k 5%";
    const range = (name: string) => [0, 1].map((t) => find(trail, name).value?.(t) as number);
    expect(range("R1 high")).toEqual([expect.closeTo(1050, 6), expect.closeTo(1e5, 4)]);
    expect(range("R1 low")).toEqual([expect.closeTo(950, 6), expect.closeTo(10, 6)]);
    expect(range("J1 high")).toEqual([expect.closeTo(0.52, 6), expect.closeTo(10000.02, 4)]);
    expect(range("BT1 low")).toEqual([expect.closeTo(3, 9), expect.closeTo(9.8, 9)]);
    expect(range("BT1 high")).toEqual([expect.closeTo(10.2, 9), expect.closeTo(15, 9)]);
    expect(range("BT1 weak")).toEqual([expect.closeTo(0.3, 9), expect.closeTo(30, 9)]);
    expect(find(trail, "R1 open").value).toBeNull();
    // Even steps of the prior are even steps of the logarithm.
    const middle = find(trail, "R1 high").value?.(0.5) as number;
    expect(middle).toBeCloseTo(Math.sqrt(1050 * 1e5), 6);
  });

  it("put a lead on the node next to its own, on a new build only", () => {
    const network = networkOf("BT1 9V: [P] R1 100 5% + [A] R2 220");
    const all = sitesOf(network, [], priorData(), { isNew: true }).filter((s) => s.mode === "misplaced");
    const named = all.map(({ branch, moved }) => {
      const { belongs = -1, at = -1, pair = [-1, -1] } = moved ?? {};
      return [network.branches[branch].name, ...[belongs, at, ...pair].map((n) => network.nodes[n])].join(" ");
    });
    // R1 lies between P and A; P is next to 0, A too. What would lie with both leads on one node is no way to misplace it.
    expect(named.sort()).toEqual(["R1 A 0 P 0", "R1 P 0 0 A", "R2 0 P A P", "R2 A P P 0"].sort());
    expect(all.every((s) => s.weight === RATES.bridge)).toBe(true);
    expect(all[0].value?.(0.5)).toBeCloseTo(100, 9);
    // Two standard deviations are the tolerance.
    expect(all[0].value?.(0.97725)).toBeCloseTo(105, 3);
    expect(sitesOf(network, [], priorData()).some((s) => s.mode === "misplaced")).toBe(false);
  });

  it("bridge nodes that share a neighbour and have no part between them", () => {
    const network = networkOf("BT1 9V: [P] R1 1 + [A] R2 1 + [B] R3 1 + [C] R4 1");
    const pairs = bridgeCandidates(network).map((pair) =>
      pair
        .map((n) => network.nodes[n])
        .sort()
        .join("-"),
    );
    expect(pairs.sort()).toEqual(["0-A", "0-B", "A-C", "B-P", "C-P"].sort());
  });
});
