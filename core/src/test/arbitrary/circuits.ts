import fc from "fast-check";
import { type Circuit, DEFAULTS, KINDS, type NodeName, type Part } from "../../circuit/index.ts";
import type { NumericReading } from "../../record/index.ts";

/** A value on the E24 grid over six decades. */
const ohmsOf = fc
  .tuple(fc.integer({ min: 10, max: 99 }), fc.integer({ min: -1, max: 4 }))
  .map(([digits, decade]) => Number(`${digits}e${decade - 1}`) * 10);

const toleranceOf = fc.constantFrom(0.01, 0.02, 0.05, 0.1);

const name = (i: number) => (i === 0 ? "0" : `N${i}`) as NodeName;

/** Resistors between random nodes, connected to each other. */
function resistorsOf(nodeCount: number, count: number): fc.Arbitrary<Part[]> {
  const one = (i: number) =>
    fc
      .tuple(fc.nat(nodeCount - 1), fc.nat(nodeCount - 2), ohmsOf, toleranceOf)
      .map(([a, step, ohms, tolerance]): Part => {
        // The first ones are a random tree over all nodes, the rest go anywhere.
        const [from, to] = i < nodeCount - 1 ? [i + 1, a % (i + 1)] : [a, (a + 1 + step) % nodeCount];
        const ends = { from: name(from), to: name(to) };
        return { designator: `R${i + 1}`, kind: "resistor", ...ends, tolerance, resistance: { by: "ohms", ohms } };
      });
  return fc.tuple(...Array.from({ length: Math.max(count, nodeCount - 1) }, (_, i) => one(i)));
}

const supplyOf = (i: number, nodeCount: number) =>
  fc
    .tuple(fc.integer({ min: 1, max: 48 }), fc.integer({ min: 1, max: nodeCount - 1 }), fc.constantFrom(0.05, 0.3, 2))
    .map(
      ([volts, plus, internalOhms]): Part => ({
        designator: `BT${i + 1}`,
        kind: "supply",
        from: name(plus),
        to: name(0),
        tolerance: 0.02,
        volts,
        internalOhms,
      }),
    );

/** Connected networks of resistors and one or two supplies: bridges, dead ends and all. */
export function linearCircuits({ most = 12 } = {}): fc.Arbitrary<Circuit> {
  return fc
    .tuple(fc.integer({ min: 2, max: Math.max(2, Math.floor(most / 2) + 1) }), fc.integer({ min: 1, max: 2 }))
    .chain(([nodeCount, supplies]) =>
      fc.tuple(
        resistorsOf(nodeCount, most - supplies),
        fc.tuple(...Array.from({ length: supplies }, (_, i) => supplyOf(i, nodeCount))),
      ),
    )
    .map(([resistors, supplies]) => circuitOf([...supplies, ...resistors]));
}

export function circuitOf(parts: readonly Part[], reference = "0"): Circuit {
  return { title: "", notes: [], parts: [...parts], reference: reference as NodeName };
}

const optional = <K extends string, V>(key: K, value: fc.Arbitrary<V>) =>
  fc.option(value, { nil: undefined }).map((v) => (v === undefined ? {} : { [key]: v })) as fc.Arbitrary<
    Partial<Record<K, V>>
  >;

const ratings = fc
  .tuple(
    optional("powerRating", fc.constantFrom(0.25, 0.5, 2)),
    optional("currentRating", fc.constantFrom(0.1, 1, 2.5)),
    optional("note", fc.constantFrom("by the hinge", "was hot, twice", "0 ohm?")),
  )
  .map((found) => Object.assign({}, ...found) as object);

/** One part of any kind between two named nodes, with everything the notation can say of it. */
export function anyPart(number: number, from: NodeName, to: NodeName): fc.Arbitrary<Part> {
  const resistance = fc.oneof(
    ohmsOf.map((ohms) => ({ by: "ohms", ohms })),
    fc.constant({ by: "unknown" }),
  );
  const rated = fc.oneof(
    resistance,
    fc
      .tuple(fc.constantFrom(6, 12, 24), fc.constantFrom(1, 5, 21))
      .map(([volts, watts]) => ({ by: "rating", volts, watts })),
  );
  const contact = fc.constantFrom<number>(DEFAULTS.contactOhms, 0.05);
  const shapes: Record<string, fc.Arbitrary<object>> = {
    resistor: fc.record({ resistance }),
    sensor: fc.tuple(fc.record({ resistance }), optional("hotOhms", fc.constantFrom(47, 1200))).map(joined),
    lamp: fc.record({ resistance: rated }),
    coil: fc
      .tuple(
        fc.record({ resistance: rated }),
        optional("pulls", fc.constantFrom(0.6, 0.75)),
        optional("drops", fc.constant(0.1)),
      )
      .map(joined),
    load: fc.record({ resistance: rated }),
    potentiometer: fc
      .tuple(fc.record({ ohms: ohmsOf, at: fc.constantFrom(0, 0.4, 0.5, 1) }), optional("wiper", fc.constant("WIPE")))
      .map(joined),
    fuse: fc.record({ ohms: fc.constantFrom(0.05, 0.2) }),
    switch: fc.record({ ohms: contact, position: fc.constantFrom("open", "closed") }),
    connector: fc.record({ ohms: contact }),
    wire: fc.record({ ohms: contact }),
    joint: fc.record({ ohms: contact }),
    contact: fc.record({ ohms: contact }),
    diode: fc.constantFrom(
      { material: "silicon", volts: 0.65 },
      { material: "schottky", volts: 0.3 },
      { material: "silicon", volts: 0.7 },
    ),
    led: fc.constantFrom(
      { material: "red", volts: 1.9 },
      { material: "white", volts: 3.1 },
      { material: "green", volts: 2.1 },
    ),
    zener: fc.record({ material: fc.constant("silicon"), volts: fc.constantFrom(3.3, 5.1, 12) }),
    bridgeRectifier: fc.constantFrom(
      { material: "silicon", volts: 0.65, plus: "PLUS", minus: "N1" },
      { material: "schottky", volts: 0.4, plus: "N2", minus: "MINUS" },
    ),
    capacitor: fc
      .tuple(
        optional("farads", fc.constantFrom(1e-4, 4.7e-6, 1e-7, 0.33)),
        optional("voltRating", fc.constantFrom(25, 6.3)),
      )
      .map(joined),
    meter: fc.record({ ohms: fc.constantFrom(0.05, 1, 1e7) }),
    supply: fc
      .tuple(
        fc.record({ volts: fc.constantFrom(1.5, 9, 24, null), internalOhms: fc.constantFrom(0, 0.05, 0.3) }),
        optional("limit", fc.constantFrom(0.5, 2)),
        optional("safety", fc.constantFrom("ac", "mains")),
      )
      .map(joined),
  };
  return fc.constantFrom(...(Object.keys(KINDS) as Part["kind"][])).chain((kind) =>
    fc
      .tuple(shapes[kind], ratings, fc.constantFrom(KINDS[kind].tolerance, 0.01, 0.07))
      .map(([shape, extra, tolerance]) => {
        const rating = (shape as { resistance?: { by: string; watts: number } }).resistance;
        const { powerRating, currentRating, ...rest } = extra as { powerRating?: number; currentRating?: number };
        // A supply's limit is written in another way.
        const amps = currentRating && kind !== "supply" ? { currentRating } : {};
        const power = rating?.by === "rating" ? { powerRating: rating.watts } : powerRating ? { powerRating } : {};
        const designator = kind === "contact" ? `K${number}.no` : `${KINDS[kind].letters[0]}${number}`;
        return { designator, kind, from, to, tolerance, ...power, ...amps, ...rest, ...shape } as Part;
      }),
  );
}

const joined = (found: readonly object[]): object => Object.assign({}, ...found);

/** Circuits of every kind of part, for the notation: they need not make electrical sense. */
export const anyCircuit: fc.Arbitrary<Circuit> = fc
  .integer({ min: 1, max: 8 })
  .chain((count) =>
    fc
      .tuple(
        ...Array.from({ length: count }, (_, i) =>
          fc
            .tuple(fc.nat(4), fc.integer({ min: 1, max: 4 }))
            .chain(([a, step]) => anyPart(i + 1, name(a), name((a + step) % 5))),
        ),
      )
      .map((parts) => ({ ...circuitOf(parts), reference: parts[0].from })),
  );

/** Readings at every node and through every part. */
export function everyPoint(circuit: Circuit): NumericReading[] {
  const nodes = [...new Set(circuit.parts.flatMap((p) => [p.from, p.to]))].filter((n) => n !== circuit.reference);
  return [
    ...nodes.map((from): NumericReading => ({ quantity: "voltage", from, value: 0 })),
    ...circuit.parts.map((p): NumericReading => ({ quantity: "current", through: p.designator, value: 0 })),
  ];
}
