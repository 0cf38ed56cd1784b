import { describe, expect, it } from "vitest";
import { POCKET_SUMS } from "./sums.ts";

const plain = (text: string) => text.replaceAll("\u00a0", " ");
const work = (id: string, fields: Record<string, string>) => {
  const worked = POCKET_SUMS.find((s) => s.id === id)?.work(fields);
  if (worked?.kind !== "results") return worked?.kind === "wrong" ? `${worked.field}: ${worked.why}` : null;
  return plain(worked.list.map((r) => `${r.label} ${r.text}`).join("\n"));
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
    ["power", { ohms: "100", volts: "10V", rating: "0.5W" }, /Power 1 W\nVerdict 200 %: above its rating/],
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
  });
});
