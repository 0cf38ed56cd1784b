import { describe, expect, it } from "vitest";
import { POCKET_SUMS } from "./sums.ts";

const plain = (text: string) => text.replaceAll("\u00a0", " ");
const work = (id: string, fields: Record<string, string>) => {
  const worked = POCKET_SUMS.find((s) => s.id === id)?.work(fields);
  if (worked?.kind !== "results") return worked?.kind === "wrong" ? `${worked.field}: ${worked.why}` : null;
  return plain(worked.list.map((r) => `${r.label} ${r.text}`).join("\n"));
};

/** What can be copied. */
const copiesOf = (id: string, fields: Record<string, string>) => {
  const worked = POCKET_SUMS.find((s) => s.id === id)?.work(fields);
  return worked?.kind === "results" ? worked.list.map((r) => r.copy) : [];
};

describe("pocket sums", () => {
  it.each([
    ["together", { list: "1k 5% 1k 5%" }, /In series 2000 ± 71 Ω|In series 2.00 ± 0.071 kΩ|In series 2.000 ± 0.071 kΩ/],
    ["together", { list: "1k 0.001% 1k 0.001%" }, /In parallel 500(\.\d+)?( ± [\d.]+)? Ω/],
    ["divider", { volts: "10V", top: "1k 1%", bottom: "1k 1%" }, /Without a load 5.00\d? ± 0.0\d+ V/],
    ["divider", { volts: "10V", top: "1k", bottom: "1k", load: "1k" }, /With the load 3.3\d* ± 0.\d+ V/],
    ["ohm", { volts: "12", amps: "0,5A" }, /R = V ÷ I 24 Ω\nP = V × I 6 W/],
    [
      "error",
      { nominal: "470", measured: "512", tolerance: "5%", meter: "1%" },
      /Error \+8.94 %\nVerdict outside its tolerance, and/,
    ],
    [
      "error",
      { nominal: "470", measured: "494", tolerance: "5%", meter: "2%" },
      /the meter’s own limits may explain it/,
    ],
    ["leads", { shown: "2.7", leads: "0.4" }, /The part itself 2.3(00)? Ω[\s\S]*more than a tenth/],
    ["loading", { volts: "12V", source: "1M", input: "1M" }, /The meter shows 6 V\nToo low by 50 %\n.* 24 V/],
    ["bands", { ohms: "4k7", tolerance: "5%" }, /Bands yellow, violet, red, gold\nCode 4K7J\nNearest in E24 4.7 kΩ/],
    ["reading bands", { bands: "yel vio red gold" }, /Value 4\.7 kΩ ± 5 %\nGood between 4\.465 kΩ and 4\.935 kΩ/],
    ["bands", { ohms: "1234", tolerance: "5%" }, /cannot hold[\s\S]*Two in (series|parallel) /],
    ["lamp", { volts: "12V", watts: "6W" }, /At 12 V 24 Ω, 500 mA, 6 W\nCold, on the ohmmeter 2.0 ± 1.4 Ω/],
    // By hand: (12 V − 1.9 V) ÷ 10 mA; three white ones leave 3 V. Limits of R and LED together.
    [
      "led",
      { volts: "12V", led: "red", amps: "10mA" },
      /They drop 1\.9 V\nResistor 1\.01 kΩ; sold is 1\.2 kΩ\nLets through 8\.4/,
    ],
    ["led", { volts: "12V", led: "white", amps: "10mA", count: "3" }, /They drop 9 V\nResistor 300 Ω; sold is 330 Ω/],
    ["led", { volts: "3V", led: "white", amps: "10mA", count: "2" }, /volts: the LEDs alone take 6\sV/],
    ["led", { volts: "9V", led: "mauve", amps: "10mA" }, /led: infrared, red, .*or its volts/],
    [
      "clamp",
      { volts: "12V", series: "220", zener: "5V1" },
      /Held 5\.2\d ± .* V\nVerdict it holds\nThrough the Zener 30\.\d mA/,
    ],
    [
      "clamp",
      { volts: "12V", series: "1k", zener: "5V1", load: "220" },
      /Held 2\.1\d* ± .* V\nVerdict it holds nothing/,
    ],
    ["bridge", { amps: "10mA" }, /Drops 1\.3 V\nTakes 13 mW/],
    ["bridge", { amps: "1A", made: "schottky" }, /Drops 1\.\d+ V/],
    ["power", { ohms: "100", volts: "10V", rating: "0.5W" }, /Power 1 W\nVerdict 200 %: above its rating/],
    // A comma between digits is decimal, also in a list, and in what is sent on.
    [
      "divider",
      { volts: "5V", top: "2,2k", bottom: "3,3k", load: "1k5" },
      /With the load 1\.596 ± .* V\nat the edges 1\.489 V to 1\.706 V[\s\S]*R1 2\.2k \+ \[A\] \(R2 3\.3k \| R3 1k5\)/,
    ],
    ["together", { list: "2,2k 4,7k" }, /In series 6\.90 ± 0\.26 kΩ\nat the edges 6\.555 kΩ to 7\.245 kΩ/],
    ["together", { list: "1k 5%, 2k2, 470 1%" }, /As a trail \(R1 1k 5% \| R2 2k2 \| R3 470 1%\)/],
    ["error", { nominal: "48", measured: "45.1" }, /^Error −6\.04 %$/],
    [
      "error",
      { nominal: "12V", measured: "11.4V", tolerance: "4%" },
      /Error −5 %\nVerdict outside.*\nLimits 11\.52 V to 12\.48 V/,
    ],
    ["bands", { ohms: "4k7", tolerance: "5%" }, /Nearest in E24 4\.7 kΩ \(0 %\)\nTwo in series .* \(0 %\)/],
    ["ohm", { volts: "12", ohms: "24" }, /P = I² × R \(500 mA\)² × 24 Ω = 6 W\nP = V² ÷ R \(12 V\)² ÷ 24 Ω = 6 W$/],
    [
      "column",
      { rows: "R1 470 512 5%\n2k2;2150;1%\n\n100\t101", leads: "0.4" },
      /^R1 511\.6 Ω, \+8\.85 %: outside its tolerance\n2 2\.1496 kΩ, −2\.29 %: outside its tolerance\n3 100\.6 Ω, \+0\.6 %: within its tolerance$/,
    ],
  ] as const)("%s %j", (id, fields, wanted) => {
    expect(work(id, fields)).toMatch(wanted);
  });

  it("wait for what is missing, and say at the field what is wrong", () => {
    for (const { id } of POCKET_SUMS) expect(work(id, {})).toBeNull();
    expect(work("ohm", { volts: "1V", amps: "1A", ohms: "5" })).toMatch(/^ohms: two of the four/);
    expect(work("ohm", { volts: "1A", amps: "1A" })).toMatch(/^volts: this takes volts/);
    expect(work("together", { list: "1k 4q7" })).toMatch(/^list: 4q7/);
    expect(work("reading bands", { bands: "red gr red" })).toBe("bands: gr: green or grey?");
    expect(work("reading bands", { bands: "gold red brown" })).toMatch(/^bands: gold is no digit/);
    expect(work("leads", { shown: "1", leads: "2" })).toMatch(/^leads: /);
    expect(work("error", { nominal: "12V", measured: "11A" })).toBe("measured: the same unit as above");
    expect(work("error", { nominal: "0V", measured: "1V" })).toMatch(/^nominal: /);
    expect(work("column", { rows: "470 512\nR2 47" })).toBe("rows: line 2: what is marked, then what was read");
    expect(work("column", { rows: "R1 470 5x2" })).toMatch(/^rows: line 1, 5x2: /);
  });

  it("give a clipboard no dust of binary fractions", () => {
    const copies = [
      copiesOf("divider", { volts: "9V", top: "7k", bottom: "3k" }),
      copiesOf("leads", { shown: "2.7", leads: "0.4" }),
    ].flat();
    expect(copies).toContain("2.7V");
    expect(copies).toContain("2.3");
  });
});
