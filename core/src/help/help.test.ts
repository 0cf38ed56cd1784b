import { describe, expect, it } from "vitest";
import { buildNetwork } from "../circuit/index.ts";
import { askedSum } from "../coach/index.ts";
import { type QuickReading, readQuick, readTrail } from "../notation/index.ts";
import { meterData, SEEN } from "../record/index.ts";
import { readSupposed } from "../whatif/index.ts";
import { EXAMPLE_CIRCUIT, FAULT_LINES, helpKinds, READING_LINES, SUM_LINES, TRAIL_LINES } from "./index.ts";

const { circuit, mistakes } = readTrail(EXAMPLE_CIRCUIT);
if (!circuit) throw new Error("the examples' circuit cannot be read");
const network = buildNetwork(circuit);
const lines = (groups: typeof READING_LINES) => groups.flatMap((g) => g.phrases.map((p) => p.line));
const read = (line: string) => readQuick(line, circuit, { quantity: "voltage", from: "B" as never });

describe("help", () => {
  it("shows lines that are all understood, each kind under its own title", () => {
    expect(mistakes).toEqual([]);
    const kinds: QuickReading["kind"][] = ["reading", "reading", "change", "asked"];
    READING_LINES.forEach(({ phrases }, i) => {
      for (const { line } of phrases)
        if (line !== "-" && !line.startsWith("leads")) expect([line, read(line).kind]).toEqual([line, kinds[i]]);
    });
    expect(read("leads 0.3ohm").kind).toBe("change");
    for (const { line } of SUM_LINES) expect(askedSum(line, network, [], meterData(undefined), {})).not.toBeNull();
  });

  it("shows trails that are read without a mistake, and what they say is in them", () => {
    for (const line of lines(TRAIL_LINES)) {
      const trail = readTrail(line);
      expect([line, trail.mistakes]).toEqual([line, []]);
      expect(trail.circuit?.parts.length, line).toBeGreaterThan(0);
    }
  });

  it("shows faults that What-if takes, each one that there is", () => {
    const modes = new Set<string>();
    for (const line of lines(FAULT_LINES)) {
      const supposed = readSupposed(line, network);
      expect(supposed.kind, line).toBe("supposed");
      for (const fault of supposed.kind === "supposed" ? supposed.faults : []) modes.add(fault.mode);
    }
    for (const mode of ["open", "short", "high", "low", "weak", "stuckOpen", "wiperOpen", "bridged"])
      expect(modes, mode).toContain(mode);
  });

  it("lists every kind with all that can be seen of it and every way it fails", () => {
    const rows = helpKinds();
    expect(new Set(rows.flatMap((r) => r.seen))).toEqual(new Set(Object.keys(SEEN)));
    for (const { modes, rate, word } of rows)
      if (rate > 0)
        expect(
          modes.reduce((s, m) => s + m.share, 0),
          word,
        ).toBeCloseTo(1);
    expect(rows.find((r) => r.kind === "fuse")).toMatchObject({
      letters: ["F"],
      rate: 10,
      modes: [{ mode: "open" }, {}],
    });
  });
});
