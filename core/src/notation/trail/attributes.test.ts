import { describe, expect, it } from "vitest";
import type { Part } from "../../circuit/index.ts";
import { applyEdits, readTrail } from "../index.ts";

/** One part as it would stand in a loop, read back. */
function part(words: string): Part {
  const isSupply = /^(BT|PS|G|V)\d/.test(words);
  const text = isSupply ? `${words}: R99 1` : `BT9 9V: ${words} + R99 1`;
  const { circuit, mistakes } = readTrail(text);
  if (!circuit) throw new Error(mistakes.map((m) => m.message).join("; "));
  return circuit.parts.find((p) => p.designator === words.split(" ")[0]) as Part;
}

const complaints = (words: string) =>
  readTrail(`BT9 9V: ${words} + R99 1`)
    .mistakes.map((m) => m.message)
    .join("\n");

describe("a part's words", () => {
  it.each<[string, object]>([
    ["R1 4k7", { kind: "resistor", tolerance: 0.05, resistance: { by: "ohms", ohms: 4700 } }],
    ["R1 0R05 1% 0.25W", { tolerance: 0.01, powerRating: 0.25, resistance: { ohms: 0.05 } }],
    ["R1 0.05ohm", { resistance: { ohms: 0.05 } }],
    ["R1 ?", { resistance: { by: "unknown" } }],
    ['R1 1k note="behind the grille, left"', { note: "behind the grille, left" }],
    ["RT1 3k3", { kind: "sensor", tolerance: 0.1 }],
    ["LDR1 10k", { kind: "sensor" }],
    ["LA1 12V 5W", { kind: "lamp", resistance: { by: "rating", volts: 12, watts: 5 } }],
    ["LA1 24ohm", { kind: "lamp", resistance: { by: "ohms", ohms: 24 } }],
    ["K1 24V 2W", { kind: "coil", resistance: { by: "rating", volts: 24, watts: 2 } }],
    ["HR1 96 10W", { kind: "load", powerRating: 10, resistance: { by: "ohms", ohms: 96 } }],
    ["F1 500mA", { kind: "fuse", currentRating: 0.5, ohms: 0.2, tolerance: 0.2 }],
    ["F1", { kind: "fuse", ohms: 0.1 }],
    ["S1", { kind: "switch", position: "closed", ohms: 0.02 }],
    ["SW2 open", { kind: "switch", position: "open" }],
    ["J1 2A", { kind: "connector", currentRating: 2, ohms: 0.02, tolerance: 0.5 }],
    ["W1 50m", { kind: "wire", ohms: 0.05 }],
    ["JT1", { kind: "joint" }],
    ["RV1 10k at=40% wiper=[W]", { kind: "potentiometer", ohms: 10_000, at: 0.4, wiper: "W" }],
    ["X1 kind=resistor 5k", { kind: "resistor", resistance: { ohms: 5000 } }],
    ["BT1 24V 2% ri=0.3", { kind: "supply", volts: 24, internalOhms: 0.3, tolerance: 0.02 }],
    ["PS1 24V limit=2A mains", { limit: 2, safety: "mains", internalOhms: 0.05 }],
    ["G1 12V ac", { kind: "supply", safety: "ac" }],
    ["V1 ?", { kind: "supply", volts: null }],
    ["D1", { kind: "diode", material: "silicon", volts: 0.65, from: "+" }],
    ["D1 1N4007 rev", { material: "silicon", note: "1N4007", to: "+" }],
    ["D1 schottky 0.35V 1A", { material: "schottky", volts: 0.35, currentRating: 1 }],
    ["LED1", { kind: "led", material: "red", volts: 1.9 }],
    ["LED1 blue 20mA", { material: "blue", volts: 3, currentRating: 0.02 }],
    ["LED1 2.1V", { material: "red", volts: 2.1 }],
    ["ZD1 5V1 rev 0.5W", { kind: "zener", volts: 5.1, powerRating: 0.5, to: "+" }],
    ["C1 100u 25V", { kind: "capacitor", farads: 1e-4, voltRating: 25 }],
    ["C1 4.7uF", { farads: 4.7e-6 }],
    ["C1", { kind: "capacitor" }],
    ["RT1 10k hot=1k2", { resistance: { ohms: 10_000 }, hotOhms: 1200 }],
    [
      "K1 24V 400 pulls=60% drops=15%",
      { resistance: { by: "rating", volts: 24, watts: 1.44 }, pulls: 0.6, drops: 0.15 },
    ],
    ["K1.no", { kind: "contact", ohms: 0.02 }],
    ["K1.nc2 5A", { kind: "contact", currentRating: 5 }],
  ])("are read: %s", (words, expected) => {
    expect(part(words)).toMatchObject(expected);
  });

  it.each([
    ["R1", /R1 has no value/],
    ["R1 -5", /only a supply's voltage can be negative/],
    ["R1 5V", /a resistor takes no voltage/],
    ["R1 1k 2k", /two values/],
    ["R1 0", /0 Ω; a plain connection is a wire/],
    ["R1 1k 120%", /below 100 %/],
    ["R1 1k ac", /“ac” is for supplies/],
    ["R1 1k open", /“open” is for switches/],
    ["R1 1k at=40%", /at= is for potentiometers/],
    ["R1 1k colour=red", /“colour=” is not known/],
    ["R1 1k banana", /“banana” is not understood after R1/],
    ["F1 2", /a fuse takes its rated current: 2A\?/],
    ["F1 ?", /its value cannot be left unknown/],
    ["LA1 12V", /LA1/],
    ["RV1 10k at=140%", /between 0 % and 100 %/],
    ["RV1 10k wiper=W", /wiper=\[NAME\]/],
    ["X1 kind=valve 5k", /no kind “valve”/],
    ["XQ1 5", /no kind of part goes by the letters XQ/],
    ["Q1 5", /write a transistor as the switch/],
    ["D1 red", /“red” is no diode's: D1 may be silicon, schottky/],
    ["LED1 220", /LED1 is an LED: 220 is no value of it/],
    ["R1 1k rev", /“rev” turns a diode round/],
    ["R1 1k hot=2k", /hot= is for sensors/],
    ["K1 24V 2W pulls=140%", /a share of the coil's volts/],
    ["ZD1", /ZD1 has no value/],
    ["C1 100u 47u", /two values/],
    ['R1 1k note="open end', /closing quote/],
  ])("are refused with a reason: %s", (words, reason) => {
    expect(complaints(words)).toMatch(reason);
  });

  it.each([
    ["BT1 24: R1 1k", "BT1 24V: R1 1k"],
    ["BT1 24V 2A: R1 1k", "BT1 24V limit=2A: R1 1k"],
    ["BT1 24V: F1 2 + R1 1k", "BT1 24V: F1 2A + R1 1k"],
  ])("offer what was probably meant: %s", (text, mended) => {
    const { mistakes } = readTrail(text);
    expect(
      applyEdits(
        text,
        mistakes.flatMap((m) => m.fix?.edits ?? []),
      ),
    ).toBe(mended);
    expect(readTrail(mended).mistakes).toEqual([]);
  });
});
