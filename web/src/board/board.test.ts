import { buildNetwork, type Circuit } from "@hound/core/circuit";
import { layoutBoard, wrapLanes } from "@hound/core/layout";
import { readQuick, readTrail } from "@hound/core/notation";
import { type Ranking, rankFaults, rankingOf, weighToEnd } from "@hound/core/rank";
import type { Reading } from "@hound/core/record";
import { seededRandom } from "@hound/core/simulate";
import { examples, linearCircuits } from "@hound/core/test";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { alikeOf, repairRows, suspectRows, suspicionClass } from "../session/suspectRows.ts";
import { type BoardFacts, boardFacts, labelOf, sayBranch, sayNode } from "./boardFacts.ts";
import { barLine, bowPath, columnFor, type Frame, framesOf, SIZES, symbolAt, wirePath } from "./geometry.ts";
import { type BoardText, bridgeText, enlargement, halfBadge, nodeTexts, partTexts, widthOf } from "./texts.ts";

const TRAIL = "BT1 24V ri=0.3: F1 1A + [A] R1 220 + [B] (R2 1k | R3 470 + [C] R4 330) + [D] R5 4k7";
const circuit = readTrail(TRAIL).circuit as Circuit;
const network = buildNetwork(circuit);
const board = layoutBoard(network);
const readings = ["A 23.9", "D 2.1", "R3 12mA", "R2 OL"].map((line): Reading => {
  const read = readQuick(line, circuit);
  if (read.kind !== "reading") throw new Error(line);
  return read.reading;
});
const ranking = rankFaults({ circuit, readings: readings.slice(0, 2) }, { pairs: false });
const facts = boardFacts({ network, readings, meter: {}, ranking });
const of = (name: string) => network.branches.findIndex((b) => b.name === name);
const plain = (text: string) => text.replaceAll("\u00a0", " ");

describe("what the board prints", () => {
  it("labels parts as one says them", () => {
    expect(network.branches.map((b) => plain(labelOf(b)))).toEqual([
      "BT1 24 V",
      "F1 1 A",
      "R1 220 Ω",
      "R2 1 kΩ",
      "R3 470 Ω",
      "R4 330 Ω",
      "R5 4.7 kΩ",
    ]);
    const other = buildNetwork(readTrail("BT1 9V: S1 open + J1 + LA1 12V 5W + RV1 10k at=40%").circuit as Circuit);
    expect(other.branches.map((b) => plain(labelOf(b))).slice(1)).toEqual([
      "S1 open",
      "J1",
      "LA1 12 V 5 W",
      "RV1.top 4 kΩ",
      "RV1.bottom 6 kΩ",
    ]);
  });

  it("sets expected beside read, and marks what lies outside its limits", () => {
    const node = (name: string) => facts.nodes[network.nodes.indexOf(name)];
    expect(node("A")).toMatchObject({ deviation: 0 });
    expect(plain(node("A").read ?? "")).toBe("23.9 V");
    expect(plain(node("A").expected ?? "")).toMatch(/^2[34]\.\d+ ± 0\.\d+ V$/);
    expect(node("D").deviation).toBe(-1);
    expect(node("0")).toMatchObject({ expected: null, read: null });
    expect(plain(facts.branches[of("R3")].read ?? "")).toBe("12.00 mA");
    expect(facts.branches[of("R2")].read).toBe("OL");
  });

  it("follows the circuit as it stands, and leaves readings of another state out", () => {
    const standing = { lifted: ["R2"] };
    const lifted = { ...readings[1], value: 1.9, state: standing };
    const now = boardFacts({ network, readings: [...readings, lifted], meter: {}, ranking, standing });
    const at = (name: string) => now.nodes[network.nodes.indexOf(name)];
    expect(now.branches[of("R2")]).toMatchObject({ expected: "lead lifted", read: null });
    expect(at("A").read).toBeNull();
    expect(plain(at("D").read ?? "")).toMatch(/^1\.9/);
    const volts = (list: typeof now) => list.nodes[network.nodes.indexOf("D")].volts?.value ?? Number.NaN;
    expect(volts(now)).toBeLessThan(volts(facts));
    const tried = boardFacts({ network, readings, meter: {}, ranking, standing: { out: ["R2"], values: { R3: 47 } } });
    expect(tried.branches[of("R2")]).toMatchObject({ expected: "taken out" });
    expect(plain(tried.branches[of("R3")].label)).toBe("R3 now 47 Ω");
    // As drawn, the reading taken with the lead lifted is not there.
    const drawn = boardFacts({ network, readings: [...readings, lifted], meter: {}, ranking });
    expect(plain(drawn.nodes[network.nodes.indexOf("D")].read ?? "")).toBe("2.1 V");
  });

  it("says everything aloud that it shows", () => {
    expect(plain(sayNode(facts.nodes[network.nodes.indexOf("D")]))).toMatch(
      /^node D, expected .* V, read 2\.1 V, too low$/,
    );
    expect(plain(sayBranch(network.branches[of("R3")], network, facts.branches[of("R3")]))).toMatch(
      /^R3 470 Ω, from B to C, expected current .* mA, read 12\.00 mA/,
    );
  });

  it("shares suspicion out among parts, as the ranking has it", () => {
    if (ranking.kind !== "ranking") throw new Error(ranking.message);
    const onParts = ranking.suspects.filter((s) => s.faults.length > 0).reduce((sum, s) => sum + s.probability, 0);
    const shown = facts.branches.reduce((sum, b) => sum + b.suspicion, 0);
    expect(shown).toBeLessThanOrEqual(onParts + 1e-9);
    expect(shown).toBeGreaterThan(0.5);
  });
});

describe("the list of suspects", () => {
  it("splits “nothing wrong” and sums to one, most probable first", () => {
    if (ranking.kind !== "ranking") throw new Error(ranking.message);
    const rows = suspectRows(ranking, network);
    expect(rows.map((r) => r.name)).toEqual(
      expect.arrayContaining(["Nothing wrong", "Nothing wrong, a reading is mis-taken"]),
    );
    expect(rows.reduce((sum, r) => sum + r.probability, 0)).toBeCloseTo(1, 9);
    const p = rows.map((r) => r.probability);
    expect(p).toEqual([...p].sort((a, b) => b - a));
    expect(new Set(rows.map((r) => r.key)).size).toBe(rows.length);
    expect(plain(rows.find((r) => r.name === "R5 has fallen")?.estimate ?? "")).toMatch(/^about .* Ω \(.* to .*\)$/);
    expect(suspicionClass(0.9)).not.toEqual(suspicionClass(0.1));
  });

  it("says the same of every repair where only the likeliest suspects are listed", () => {
    const weighing = weighToEnd({ circuit, readings, meter: {}, priors: {} });
    if (weighing.kind === "problem") throw new Error(weighing.message);
    const [all, few] = [rankingOf(weighing), rankingOf(weighing, 25)];
    const tail = all.suspects.slice(25).filter((s) => s.faults.length > 1);
    expect(few.unlisted.count).toBe(tail.length);
    expect(tail.length).toBeGreaterThan(100);
    expect(few.unlisted.probability).toBeCloseTo(
      tail.reduce((sum, s) => sum + s.probability, 0),
      12,
    );
    expect(few.suspects).toEqual(all.suspects.filter((s) => !tail.includes(s)));
    expect(few.unbroken).toBe(25);
    const said = (of: Ranking) =>
      repairRows(of, network)
        .filter((r) => r.probability > 1e-3)
        .map(({ name, probability, besideShare }) => [name, probability.toFixed(9), besideShare.toFixed(6)]);
    expect(said(all).length).toBeGreaterThan(4);
    expect(said(few)).toEqual(said(all));
  });

  it("tells a fault that could stand unseen beside a suspect from another suspect that looks the same", () => {
    if (ranking.kind !== "ranking") throw new Error(ranking.message);
    const all = suspectRows(ranking, network);
    const find = (name: string) => {
      const row = all.find((r) => r.name === name);
      if (!row) throw new Error(`no suspect is called ${name}`);
      return row;
    };
    const [one, other] = [find("R5 has fallen"), find("R1 has climbed")];
    const faults = [...one.suspect.faults, ...other.suspect.faults];
    const both = {
      ...one,
      key: "both",
      name: "R5 has fallen, and R1 has climbed",
      suspect: { ...one.suspect, faults },
    };
    expect(alikeOf(one, [one, other, both], all)).toEqual({ others: ["R1 has climbed"], besides: ["R1 has climbed"] });
    // What follows from the first fault is a suspect of its own, and of two faults neither stands beside them.
    const blown = { ...both, suspect: { ...both.suspect, consequence: true as const } };
    expect(alikeOf(one, [one, blown], all)).toEqual({ others: [both.name], besides: [] });
    expect(alikeOf(both, [one, both], all)).toEqual({ others: [one.name], besides: [] });
  });
});

/** Everything written or drawn on a frame that must not be written over, as boxes. */
function boxesOf(frame: Frame, facts: BoardFacts, k: number) {
  const boxOf = (owner: string, { text, x, y, size, bold }: BoardText) => {
    const half = widthOf(text, size, bold) / 2;
    return { owner, text, left: x - half, right: x + half, top: y - size * 0.78, bottom: y + size * 0.22 };
  };
  const parts = frame.lane.strips.flatMap((strip) => {
    const at = symbolAt(frame, strip);
    if (!at) return [];
    const { x, y } = at;
    const half = SIZES.symbol / 2;
    const symbol = { owner: "", text: "symbol", left: x - half, right: x + half, top: y - 21, bottom: y + 21 };
    return [symbol, ...partTexts(at, facts.branches[strip.strip.branch], k).map((t) => boxOf("", t))];
  });
  const bars = frame.lane.bars.flatMap((bar) => {
    const line = barLine(frame, bar);
    const owner = `bar ${bar.bar.node}`;
    const { name, values } = nodeTexts(line, facts.nodes[bar.bar.node], k);
    const half = halfBadge(name);
    const { x, badgeY, y2 } = line;
    return [
      { owner, text: "bar", left: x - 3, right: x + 3, top: badgeY, bottom: y2 },
      {
        owner,
        text: name.text,
        left: x - half,
        right: x + half,
        top: badgeY - SIZES.halfBadge,
        bottom: badgeY + SIZES.halfBadge,
      },
      ...values.map((t) => boxOf(owner, t)),
    ];
  });
  // A bridge between a bar and the next one: its percentage lies on nothing either.
  const bridges = frame.lane.bars.flatMap((a) =>
    frame.lane.bars.flatMap((b) => {
      if (b.bar.column !== a.bar.column + 1) return [];
      const ends = [barLine(frame, a), barLine(frame, b)] as const;
      const names = [a, b].map((bar, i) => nodeTexts(ends[i], facts.nodes[bar.bar.node], k).name);
      const words = bridgeText("12.3 %", ends, names);
      return words ? [boxOf("bridge", words)] : [];
    }),
  );
  return [...parts, ...bars, ...bridges];
}

describe("the geometry", () => {
  it("writes nothing over anything else, whatever the circuit, the names and the values", () => {
    const random = seededRandom(6);
    const word = (most: number) => "LONG_name_W8".repeat(3).slice(0, 1 + Math.floor(random.next() * most));
    fc.assert(
      fc.property(
        linearCircuits({ most: 20 }),
        fc.integer({ min: 2, max: 8 }),
        fc.constantFrom(1, 0.8, 0.7),
        (made, most, scale) => {
          const net = buildNetwork(made);
          const layout = layoutBoard(net);
          const own: BoardFacts = {
            bridges: [],
            nodes: net.nodes.map(() => ({
              name: word(30),
              expected: "23.98 ± 0.49 V",
              read: "−23.98 V",
              deviation: 1,
              volts: null,
              readVolts: null,
            })),
            branches: net.branches.map((_, k) => ({
              label: `R${k} ${word(26)} MΩ`,
              expected: "−123.4 mA",
              read: random.next() < 0.5 ? "−123.45 mA" : null,
              suspicion: random.next(),
              suspicionText: "> 99.9 %",
              odd: null,
            })),
          };
          const lanes = wrapLanes(layout, most);
          for (const frame of framesOf(lanes, false, columnFor(lanes, 1100))) {
            const boxes = boxesOf(frame, own, enlargement(scale));
            const wrong = boxes.flatMap((a, i) => {
              const over = boxes.slice(i + 1).filter((b) => {
                if (a.owner !== "" && a.owner === b.owner) return false;
                return a.right > b.left && b.right > a.left && a.bottom > b.top && b.bottom > a.top;
              });
              const isOut =
                a.left < 0 || a.right > frame.width || a.top < frame.top || a.bottom > frame.top + frame.height;
              return [...over.map((b) => `${a.text} on ${b.text}`), ...(isOut ? [`${a.text} out of the picture`] : [])];
            });
            expect(wrong).toEqual([]);
          }
        },
      ),
      examples(100),
    );
  });

  it("hops the bars it passes, and only those", () => {
    const bridge = layoutBoard(
      buildNetwork(readTrail("BT1 9V: [P] (R1 1 + [L] R2 2 | R3 3 + [M] R4 4)\n[L] R5 5 [M]").circuit as Circuit),
    );
    for (const [layout, most] of [
      [bridge, 20],
      [board, 20],
      [bridge, 2],
    ] as const) {
      const frames = framesOf(wrapLanes(layout, most));
      const drawnHops = frames.flatMap((f) => f.lane.strips.map((s) => wirePath(f, s).match(/A9 9/g)?.length ?? 0));
      expect(drawnHops.reduce((a, b) => a + b, 0)).toBe(
        frames.flatMap((f) => f.lane.strips.map((s) => s.hops.length)).reduce((a, b) => a + b, 0),
      );
    }
  });

  it("bows a suspected bridge over the board, whichever node comes first", () => {
    const [frame] = framesOf(wrapLanes(board, 20));
    const [a, b] = frame.lane.bars.map((bar) => barLine(frame, bar));
    expect(bowPath(a, b)).toBe(bowPath(b, a));
  });
});
