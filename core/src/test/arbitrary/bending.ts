import fc from "fast-check";
import {
  type Circuit,
  KINDS,
  MATERIALS,
  type Material,
  type NodeName,
  nodesOf,
  type Part,
} from "../../circuit/index.ts";
import { circuitOf, linearCircuits } from "./circuits.ts";

/** Where a part goes, and two nodes more for one of four leads. */
interface Ends extends Pick<Part, "from" | "to"> {
  readonly others: readonly [NodeName, NodeName];
}

const between = ({ from, to }: Ends) => ({ from, to });

const MAKES: readonly Material[] = ["silicon", "schottky", "red", "green", "blue", "white"];

/** What bends, in the place of a resistor: which one, and its value. */
const bentOf = fc.oneof(
  fc.constantFrom(...MAKES).map((material) => (ends: Ends, i: number): Part => {
    const kind = MATERIALS[material].of;
    const shared = {
      ...between(ends),
      designator: `${kind === "led" ? "LED" : "D"}${i}`,
      tolerance: KINDS[kind].tolerance,
    };
    return { ...shared, kind, material, volts: MATERIALS[material].volts };
  }),
  fc.constantFrom(3.3, 5.1, 12).map(
    (volts) =>
      (ends: Ends, i: number): Part => ({
        ...between(ends),
        designator: `ZD${i}`,
        kind: "zener",
        tolerance: 0.05,
        material: "silicon",
        volts,
      }),
  ),
  fc.constant((ends: Ends, i: number): Part => {
    const shared = { ...between(ends), designator: `BR${i}`, tolerance: KINDS.bridgeRectifier.tolerance };
    const [plus, minus] = ends.others;
    return { ...shared, kind: "bridgeRectifier", material: "silicon", volts: 0.65, plus, minus };
  }),
  fc.constantFrom(6, 12, 24).map(
    (volts) =>
      (ends: Ends, i: number): Part => ({
        ...between(ends),
        designator: `LA${i}`,
        kind: "lamp",
        tolerance: 0.1,
        resistance: { by: "rating", volts, watts: volts / 4 },
      }),
  ),
);

/** Connected networks in which up to `most` resistors gave way to what bends, either way round. */
export function bendingCircuits({ parts = 14, most = 8 } = {}): fc.Arbitrary<Circuit> {
  return fc
    .tuple(
      linearCircuits({ most: parts }),
      fc.array(fc.tuple(fc.nat(99), bentOf, fc.boolean()), { minLength: 1, maxLength: most }),
    )
    .map(([circuit, bent]) => {
      const all = [...circuit.parts];
      const nodes = nodesOf(circuit);
      bent.forEach(([place, make, isTurned], i) => {
        const resistors = all.flatMap((p, k) => (p.kind === "resistor" ? [k] : []));
        const at = resistors[place % resistors.length];
        // One resistor at least stays, to limit what flows.
        if (resistors.length < 2) return;
        const { from, to } = all[at];
        const others = [place, place >> 2].map((n) => nodes[n % nodes.length]) as [NodeName, NodeName];
        all[at] = make({ ...(isTurned ? { from: to, to: from } : { from, to }), others }, i + 1);
      });
      return circuitOf(all);
    });
}

/** Relays that switch each other's coils, lamps, and themselves: two to four coils with two contacts each. */
export function relayCircuits(): fc.Arbitrary<Circuit> {
  const contact = fc.tuple(fc.constantFrom("no", "nc"), fc.nat(3));
  return fc
    .tuple(fc.integer({ min: 2, max: 4 }), fc.array(fc.tuple(contact, contact), { minLength: 4, maxLength: 4 }))
    .map(([count, contacts]) => {
      const end = (name: string) => name as Part["from"];
      const parts: Part[] = [
        {
          designator: "BT1",
          kind: "supply",
          from: end("P"),
          to: end("0"),
          tolerance: 0.02,
          volts: 24,
          internalOhms: 0.05,
        },
      ];
      const used = new Map<string, number>();
      const put = (coil: number, rest: string, from: string, to: string) => {
        const n = (used.get(`${coil}${rest}`) ?? 0) + 1;
        used.set(`${coil}${rest}`, n);
        const designator = `K${coil}.${rest}${n}`;
        parts.push({ designator, kind: "contact", from: end(from), to: end(to), tolerance: 0.5, ohms: 0.02 });
      };
      for (let i = 1; i <= count; i += 1) {
        const [[rest, of], [besideRest, besideOf]] = contacts[i - 1];
        // The coil behind one contact and a bit of resistance, or beside it behind another.
        put((of % count) + 1, rest, "P", `A${i}`);
        if (i % 2 === 0) put((besideOf % count) + 1, besideRest, "P", `A${i}`);
        const coil = { designator: `K${i}`, kind: "coil" as const, tolerance: 0.1 };
        parts.push({
          ...coil,
          from: end(`A${i}`),
          to: end("0"),
          resistance: { by: "rating", volts: 24, watts: 1 + i / 2 },
        });
      }
      return circuitOf(parts);
    });
}
