import { describe, expect, it } from "vitest";
import { Configuration } from "../configuration/index.ts";
import {
  Closing,
  Conventions,
  DEFAULT_CONVENTIONS,
  isMended,
  isSamePlace,
  isSameRepair,
  keyOfStep,
  Meter,
  meterData,
  type NumericReading,
  Priors,
  Reading,
  SEEN,
  situationOf,
  wasFirstRight,
} from "./index.ts";

const refuses = (schema: { safeParse: (x: unknown) => { success: boolean } }, values: readonly unknown[]) => {
  for (const value of values) expect(schema.safeParse(value).success, JSON.stringify(value)).toBe(false);
};

describe("a meter", () => {
  it("is a common handheld one where nothing is written, and what is written replaces just that", () => {
    const plain = meterData();
    expect(meterData({})).toEqual(plain);
    const ideal = meterData({ current: { burdenResistance: 0 } });
    expect(ideal.ranges.current.map((r) => r.ohms)).toEqual(plain.ranges.current.map(() => 0));
    expect(ideal.ranges.voltage).toEqual(plain.ranges.voltage);
    expect(plain.ranges.current.map((r) => [r.span, r.resolution, r.ohms])).toEqual([
      [2e-3, 1e-6, 1],
      [2e-2, 1e-5, 1],
      [0.2, 1e-4, 1],
      [10, 1e-2, 0.02],
    ]);
    const own = meterData({ current: { ranges: [{ span: 0.4, burdenResistance: 2, fuse: 0.44 }, { span: 0.04 }] } });
    expect(own.ranges.current).toMatchObject([
      { span: 0.04, ohms: 1, percent: 1 },
      { span: 0.4, ohms: 2, fuse: 0.44 },
    ]);
    const fine = { percent: 0.05, counts: 1 };
    expect(meterData({ voltage: { accuracy: fine } }).accuracy).toEqual({ ...plain.accuracy, voltage: fine });
    expect(meterData({ resistance: { supplies: "internal" } })).toEqual({ ...plain, supplies: "internal" });
  });

  it("is ideal on volts with an infinite resistance, never with none", () => {
    expect(meterData({ voltage: { inputResistance: "ideal" } }).inputOhms).toBe(Number.POSITIVE_INFINITY);
    refuses(Meter, [
      { voltage: { inputResistance: 0 } },
      { voltage: { inputResistance: -1e6 } },
      { current: { burdenResistance: -1 } },
      { voltage: { accuracy: { percent: -1, counts: 0 } } },
      { resistance: { top: 0 } },
      { resistance: { supplies: "left" } },
    ]);
  });
});

describe("a reading", () => {
  const volts = { quantity: "voltage", from: "B", value: 7.42 };

  it("keeps what it does not know, so that a file survives being read by an older version", () => {
    const read = Reading.parse({ ...volts, colour: "red", state: { lifted: ["R1"], probes: "fine" } });
    expect(read).toEqual({ ...volts, colour: "red", state: { lifted: ["R1"], probes: "fine" } });
  });

  it("is a finite number of a known quantity at a place", () => {
    refuses(Reading, [
      { ...volts, value: Number.NaN },
      { ...volts, value: Number.POSITIVE_INFINITY },
      { ...volts, value: "7.42" },
      { ...volts, quantity: "power" },
      { quantity: "voltage", value: 1 },
      { quantity: "current", from: "B", value: 1 },
      { ...volts, plusMinus: -0.1 },
      { ...volts, step: 0 },
      { ...volts, beyond: "above" },
      { quantity: "observation", part: "LA1", seen: "sad" },
    ]);
  });

  it("can be each thing that the eye, the ear or a finger tells", () => {
    for (const seen of Object.keys(SEEN)) {
      const observation = { quantity: "observation", part: "LA1", seen };
      expect(Reading.parse(observation)).toEqual(observation);
    }
  });

  it("says how the circuit stood in words that can be so", () => {
    expect(Configuration.parse({ switches: { S1: "open" }, meters: [{ through: "R1", ohms: 0 }] })).toBeTruthy();
    refuses(Configuration, [
      { switches: { S1: "ajar" } },
      { lifted: "R1" },
      { meters: [{ from: "B", ohms: 0 }] },
      { meters: [{ ohms: 10 }] },
    ]);
  });
});

describe("habits and conventions", () => {
  it("are probabilities where they say so, and rates that are not negative", () => {
    expect(Priors.parse({})).toEqual({});
    refuses(Priors, [
      { healthy: 1.5 },
      { healthy: -0.1 },
      { blunder: 2 },
      { doubleShare: -1 },
      { rates: { resistor: -1 } },
      { modes: { resistor: { melted: 1 } } },
      { driftFactorMax: 0.5 },
    ]);
  });

  it("have a default for everything, and refuse what no one offers", () => {
    expect(Conventions.parse(DEFAULT_CONVENTIONS)).toEqual(DEFAULT_CONVENTIONS);
    for (const name of Object.keys(DEFAULT_CONVENTIONS))
      refuses(Conventions, [{ ...DEFAULT_CONVENTIONS, [name]: "something else" }]);
  });
});

describe("one name, whichever way round", () => {
  it("of a bridge that is to be cleared, or was", () => {
    expect([keyOfStep({ nodes: ["D", "A"] }), keyOfStep({ nodes: ["A", "D"] }), keyOfStep({ part: "R3" })]).toEqual([
      "A~D",
      "A~D",
      "R3",
    ]);
    const cleared = { cleared: [["D", "A"]] } as Configuration;
    expect(isMended({ nodes: ["A", "D"] }, cleared)).toBe(true);
    expect(isMended({ nodes: ["A", "B"] }, cleared)).toBe(false);
    expect(isSameRepair([{ nodes: ["D", "A"] }], [{ nodes: ["A", "D"], mode: "bridged" }])).toBe(true);
  });

  it("of two points, and of one against the reference", () => {
    const volts = (from: string, to?: string) =>
      Reading.parse({ quantity: "voltage", from, ...(to ? { to } : {}), value: 1 });
    const isSame = (one: Reading, other: Reading, reference?: string) =>
      isSamePlace(one as NumericReading, other as NumericReading, reference);
    expect(isSame(volts("A", "B"), volts("B", "A"))).toBe(true);
    expect(isSame(volts("A", "B"), volts("A", "C"))).toBe(false);
    expect(isSame(volts("A"), volts("0", "A"), "0")).toBe(true);
    expect(isSame(volts("A"), volts("A", "B"), "0")).toBe(false);
    const lifted = Reading.parse({ quantity: "resistance", lifted: "R1", value: 1 });
    expect(isSame(lifted, Reading.parse({ quantity: "resistance", lifted: "R2", value: 1 }))).toBe(false);
    expect(isSame(lifted, lifted)).toBe(true);
  });
});

describe("why a job is here", () => {
  const seen = (what: string, more: object = {}) => ({
    reading: Reading.parse({ quantity: "observation", part: "LA1", seen: what, ...more }),
  });
  const job = (more: object = {}) => ({ situation: "unsaid" as const, complaint: "", ...more });

  it("is as it was said, else a complaint that was typed or a symptom of the circuit as it stood", () => {
    expect(situationOf(job(), [])).toBe("unsaid");
    expect(situationOf(job({ complaint: " stays dark " }), [])).toBe("complaint");
    expect(situationOf(job({ complaint: "stays dark", situation: "newBuild" }), [seen("dark")])).toBe("newBuild");
    expect(situationOf(job(), [seen("dark")])).toBe("complaint");
    expect(situationOf(job(), [seen("lit")])).toBe("unsaid");
    // What somebody made of the circuit tells of no fault.
    expect(situationOf(job(), [seen("dark", { state: { lifted: ["R1"] } })])).toBe("unsaid");
  });
});

describe("what the ranking said when somebody decided", () => {
  const closing = (more: object) =>
    Closing.parse({
      outcome: "found",
      faults: [{ part: "R1", mode: "open" }],
      said: { repairs: [{ repair: [{ part: "R1" }], probability: 0.97 }], suspects: [], readings: 3 },
      at: "2026-11-30T08:00:00Z",
      ...more,
    });

  it("was right where what led is what was found, and is neither where nothing was found or nothing was said", () => {
    expect(wasFirstRight(closing({}))).toBe(true);
    expect(wasFirstRight(closing({ faults: [{ part: "R2", mode: "open" }] }))).toBe(false);
    expect(wasFirstRight(closing({ said: null }))).toBeNull();
    for (const outcome of ["nothing", "givenUp"]) expect(wasFirstRight(closing({ outcome })), outcome).toBeNull();
  });

  it("takes a diode test for another place than volts, and the other way round for another still", () => {
    const at = (from: string, to: string, more = {}) =>
      ({ quantity: "voltage", from, to, value: 1, ...more }) as NumericReading;
    const test = { test: "diode" };
    expect(isSamePlace(at("A", "B"), at("B", "A"))).toBe(true);
    expect(isSamePlace(at("A", "B", test), at("A", "B", test))).toBe(true);
    expect(isSamePlace(at("A", "B", test), at("A", "B"))).toBe(false);
    expect(isSamePlace(at("A", "B", test), at("B", "A", test))).toBe(false);
    expect(isSamePlace(at("A", "B", test), at("A", "B", { ...test, lifted: "D1" }))).toBe(false);
  });
});
