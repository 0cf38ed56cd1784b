import * as fc from "fast-check";
import { describe, expect, it } from "vitest";
import type { NodeName } from "../circuit/index.ts";
import { Configuration, type Fact, factsOf, isSameState, keyOf, only, placesOf, renamed } from "./index.ts";

const part = fc.constantFrom("R1", "S2", "BT1", "RV1.top", "toString");
const node = fc.constantFrom("A", "B", "C_2").map((n) => n as NodeName);
const ends = fc.record({ from: node, to: fc.option(node, { nil: undefined }) });
const ohms = fc.integer({ min: 1, max: 1e4 });
const parts = fc.uniqueArray(part, { minLength: 1, maxLength: 3 });
const some = <T>(each: fc.Arbitrary<T>) => fc.array(each, { minLength: 1, maxLength: 2 });

/** Every field that the schema has, each there or not. */
const FIELDS = {
  switches: fc.dictionary(part, fc.constantFrom("open" as const, "closed" as const), { minKeys: 1 }),
  values: fc.dictionary(part, ohms, { minKeys: 1 }),
  lifted: parts,
  swapped: parts,
  out: parts,
  off: parts,
  added: some(fc.tuple(ends, ohms).map(([place, of]) => ({ ...place, ohms: of }))),
  meters: some(
    fc.oneof(
      part.map((through) => ({ through, ohms: 2 })),
      ends,
    ),
  ),
  cleared: some(fc.tuple(node, node)),
  leads: fc.constantFrom(0, 0.3),
  inHand: fc.record({ through: part, at: node, done: fc.integer({ min: 1, max: 7 }) }),
};
const configuration = fc
  .record(FIELDS, { requiredKeys: [] })
  .map((c) => JSON.parse(JSON.stringify(c)) as Configuration);

describe("a configuration", () => {
  it("has an example here of every field of its schema", () => {
    expect(Object.keys(FIELDS).sort()).toEqual(Object.keys(Configuration.shape).sort());
  });

  it("is its facts, one by one, and what nobody here knows of stays", () => {
    fc.assert(
      fc.property(configuration, (c) => {
        expect(only(c, () => true)).toEqual(c);
        const more = { smell: "burnt", toString: "kept" };
        expect(only({ ...c, ...more } as Configuration, () => false)).toEqual(more);
      }),
    );
  });

  it("speaks of every name in it, and of all of them by another once it is renamed", () => {
    const after = { part: (p: string) => `x${p}`, node: (n: string) => `y${n}` };
    const back = { part: (p: string) => p.slice(1), node: (n: string) => n.slice(1) };
    fc.assert(
      fc.property(configuration, (c) => {
        const now = renamed(c, after);
        expect(renamed(now, back)).toEqual(c);
        const { parts: names, nodes } = placesOf(c);
        expect(placesOf(now)).toEqual({ parts: names.map(after.part), nodes: nodes.map(after.node) });
        // Nothing of the old names is left, wherever they stand.
        const kept = JSON.stringify(now).match(/"(?:R1|S2|BT1|RV1\.top|toString|A|B|C_2)"/g);
        expect(kept).toBeNull();
      }),
    );
  });

  it("is the same state in any order and either way round, whatever the leads and the branch in hand", () => {
    const turned = ({ from, to, ...rest }: { from: NodeName; to?: NodeName }) =>
      to === undefined ? { from, ...rest } : { from: to, to: from, ...rest };
    fc.assert(
      fc.property(configuration, (c) => {
        const other = {
          ...c,
          ...(c.lifted ? { lifted: [...c.lifted].reverse() } : {}),
          ...(c.added ? { added: c.added.map((a) => turned(a as never)).reverse() } : {}),
          ...(c.cleared ? { cleared: c.cleared.map(([a, b]) => [b, a]) } : {}),
          leads: 9,
          inHand: undefined,
        } as Configuration;
        expect(isSameState(c, other)).toBe(true);
      }),
    );
  });

  it("is another state with one thing less, but for the leads and the branch in hand", () => {
    const silent: readonly Fact["is"][] = ["leads", "inHand"];
    fc.assert(
      fc.property(configuration, (c) => {
        const facts = factsOf(c);
        for (const [i, fact] of facts.entries()) {
          let at = -1;
          const without = only(c, () => {
            at += 1;
            return at !== i;
          });
          const isTwice = facts.filter((f) => keyOf(only(c, sameAs(f))) === keyOf(only(c, sameAs(fact)))).length > 1;
          expect(isSameState(c, without)).toBe(silent.includes(fact.is) || isTwice);
        }
      }),
    );
  });
});

const sameAs = (wanted: Fact) => (fact: Fact) => JSON.stringify(fact) === JSON.stringify(wanted);
