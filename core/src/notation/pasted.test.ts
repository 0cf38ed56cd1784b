import { describe, expect, it } from "vitest";
import { readParts, readTrail, recognise, type Trail, writePart } from "./index.ts";

/** What is pasted, the parts it means (supply from its plus), and what must be asked about. */
interface Block {
  readonly name: string;
  readonly text: string;
  readonly parts: readonly string[];
  readonly asks?: readonly RegExp[];
  /** The trail that is there already. */
  readonly onto?: string;
}

const BLOCKS: readonly Block[] = [
  {
    name: "a spreadsheet range with headings",
    text: "Part\tFrom\tTo\tValue\tTol\nBT1\t+\t0\t24\t2\nR1\t+\tA\t220\t5\nR2\tA\t0\t1k\t5",
    parts: ["BT1 24V 2% P 0", "R1 220 5% P A", "R2 1k 5% A 0"],
  },
  {
    name: "the same columns in another order",
    text: "Value\tTol\tTo\tFrom\tPart\n24V\t2%\t0\tP\tBT1\n4k7\t1%\tA\tP\tR1\n2R2\t\t0\tA\tR2",
    parts: ["BT1 24V 2% P 0", "R1 4.7k 1% P A", "R2 2.2 A 0"],
  },
  {
    name: "CSV with commas and quotes",
    text: 'Ref,Node 1,Node 2,Value,Note\nR1,A,B,"10k","pull-up, upper"\nR2,B,C,"4,7k",\n',
    parts: ['R1 10k note="pull-up, upper" A B', "R2 4.7k B C"],
  },
  {
    name: "semicolons with decimal commas",
    text: "Bauteil;Von;Nach;Wert;Toleranz\nBT1;P;0;12;\nR1;P;A;4,7;5\nR2;A;0;0,47;10 %",
    parts: ["BT1 12V P 0", "R1 4.7 5% P A", "R2 470m 10% A 0"],
  },
  {
    name: "a unit at the head of the column",
    text: "Component\tFrom\tTo\tResistance (kΩ)\tTol (%)\nR1\tA\tB\t4.7\t1\nR2\tB\tC\t10\t5",
    parts: ["R1 4.7k 1% A B", "R2 10k 5% B C"],
  },
  {
    name: "kinds spelled out, and designators of another custom",
    text: "Name\tType\tFrom\tTo\tValue\nB1\tBattery\tP\t0\t12 V\nH1\tBulb\tP\tX\t12V/5W\nQ5\tSwitch\tX\t0\topen",
    parts: ["B1 kind=supply 12V P 0", "H1 kind=lamp 12V 5W P X", "Q5 kind=switch open X 0"],
  },
  {
    name: "a tolerance column of a spreadsheet's shares",
    text: "Part,From,To,Value,Tol\nR1,A,B,100,0.05\nR2,B,C,100,0.01",
    parts: ["R1 100 5% A B", "R2 100 1% B C"],
    asks: [/R1: 0.05 is taken for a share, 5 %/, /R2: 0.01/],
  },
  {
    name: "letters for tolerances, ratings, internal resistance",
    text: "Part\tFrom\tTo\tValue\tTol\tRating\tRi\nBT1\tP\t0\t24V\t\t\t0.3\nF1\tP\tA\t1A\t\t\t\nR1\tA\t0\t220\tJ\t1/4 W\t",
    parts: ["BT1 24V ri=300m P 0", "F1 1A P A", "R1 220 5% 250mW A 0"],
  },
  {
    name: "columns nobody knows",
    text: "#,Part,Qty,From,To,Value,Supplier\n1,R1,1,A,B,10k,Bolt & Sons\n2,R2,1,B,C,22k,Bolt & Sons",
    parts: ["R1 10k A B", "R2 22k B C"],
    asks: [/column “Supplier” is not known/],
  },
  {
    name: "nodes by the names of a terminal strip",
    text: "Part\tFrom\tTo\tValue\nR1\tTB2-4\tTB2-5\t100\nR2\tTB2-5\tGND\t47",
    parts: ["R1 100 TB2_4 TB2_5", "R2 47 TB2_5 GND"],
    asks: [/“TB2-4” is written TB2_4/, /“TB2-5”/],
  },
  {
    name: "both nodes in one column",
    text: "Part;Nodes;Value\nR1;A-B;10k\nR2;B → C;4k7\nR3;C to 0;100",
    parts: ["R1 10k A B", "R2 4.7k B C", "R3 100 C 0"],
  },
  {
    name: "a table drawn in a letter",
    text: "| Part | From | To | Value |\n|------|------|----|-------|\n| BT1  | P    | 0  | 9V    |\n| R1   | P    | 0  | 1k    |",
    parts: ["BT1 9V P 0", "R1 1k P 0"],
  },
  {
    name: "a range without headings",
    text: "R1\tA\tB\t10k\t5%\nR2\tB\tC\t4k7\t1%\nBT1\tA\tC\t12V\t",
    parts: ["R1 10k 5% A B", "R2 4.7k 1% B C", "BT1 12V A C"],
  },
  {
    name: "columns of words with numbered nodes",
    text: "R1 1 2 10k\nR2 2 0 4k7\nBT1 1 0 12V",
    parts: ["R1 10k 1 2", "R2 4.7k 2 0", "BT1 12V 1 0"],
  },
  {
    name: "two columns, no nodes",
    text: "BT1\t12V\nR1\t10k\nR2\t4k7",
    parts: ["BT1 12V A 0", "R1 10k A B", "R2 4.7k B 0"],
    asks: [/says no nodes/],
  },
  {
    name: "two columns for a circuit that is there",
    text: "Part\tValue\nR1\t330\nR2\t2k2\nR9\t5",
    onto: "BT1 12V: R1 220 5% + [A] R2 1k",
    parts: ["BT1 12V + 0", "R1 330 + A", "R2 2.2k A 0"],
    asks: [/R9 is not in this circuit/],
  },
  {
    name: "a list off a drawing",
    text: "R1 = 10k\nR2 = 4.7k, 5 %\nR3 = 100 ohm, 1/4W\nBT1 = 24 V",
    parts: ["BT1 24V A 0", "R1 10k A B", "R2 4.7k 5% B C", "R3 100 250mW C 0"],
    asks: [/says no nodes/],
  },
  {
    name: "bullets with nodes in words",
    text: "- BT1: 12 V, plus at P, minus at 0\n- R1: 220 Ω from P to A\n- R2: 1k between A and 0",
    parts: ["BT1 12V P 0", "R1 220 P A", "R2 1k A 0"],
  },
  {
    name: "a letter",
    text: "Hello,\nthe board has R1 10k from A to B, R2 4.7k from B to C and a lamp LA1 12V 5W from C to 0.\nBT1 is 24 V between A and 0.\nThanks, Mara",
    parts: ["R1 10k A B", "R2 4.7k B C", "LA1 12V 5W C 0", "BT1 24V A 0"],
    asks: [/no part in “Hello,”/, /Thanks/],
  },
  {
    name: "arrows",
    text: "R1 A → B 10k\nR2 B → C 4k7\nR3 C -> 0 100",
    parts: ["R1 10k A B", "R2 4.7k B C", "R3 100 C 0"],
  },
  {
    name: "brackets as in a trail, a part a line, values first",
    text: "R1 10k [A] [B]\nR2 4k7 [B] [0]\nBT1 9V [A] [0]",
    parts: ["R1 10k A B", "R2 4.7k B 0", "BT1 9V A 0"],
  },
  {
    name: "letters for digits",
    text: "Part\tFrom\tTo\tValue\nR1\tA\tB\t1O0k\nR2\tB\t0\t47O",
    parts: ["R1 100k A B", "R2 470 B 0"],
    asks: [/R1: “1O0k” is not understood/, /R2: “47O”/],
  },
  {
    name: "missing values and unknown ones",
    text: "Part,From,To,Value\nR1,A,B,\nR2,B,0,?\nJ1,A,0,-",
    parts: ["R1 ? A B", "R2 ? B 0", "J1 A 0"],
    asks: [/R1: R1 has no value/],
  },
  {
    name: "groups of thousands",
    text: "Part;From;To;Value\nR1;A;B;10 000\nR2;B;C;1'200\nR3;C;0;4,700",
    parts: ["R1 10k A B", "R2 1.2k B C", "R3 4.7 C 0"],
    asks: [/R3: .*4,700 is read with decimals/],
  },
  {
    name: "designators with hyphens and small letters",
    text: "Ref\tFrom\tTo\tVal\nr1\tA\tB\t10k\nR-2\tB\tC\t22k\nds1\tC\t0\t12V 1.2W",
    parts: ["R1 10k A B", "R-2 22k B C", "DS1 12V 1.2W C 0"],
  },
  {
    name: "full-width characters and hard spaces",
    text: "Part\tFrom\tTo\tValue\nＲ１\tA\tB\t４．７ｋ\nR2\tB\t0\t10\u00a0kΩ",
    parts: ["R1 4.7k A B", "R2 10k B 0"],
  },
  {
    name: "a coil by its inductance, a supply of alternating current",
    text: "Part,From,To,Value\nPS1,L,N,24VAC\nK1,L,N,100mH",
    parts: ["PS1 24V ac L N", "K1 ? L N"],
    asks: [/PS1: “24VAC”/, /K1: “100mH”/],
  },
  {
    name: "empty rows, a title above, and a trailing sum",
    text: "Heater panel,,,\n\nPart,From,To,Value\nR1,A,B,10\n\nR2,B,0,22\n,,,",
    parts: ["R1 10 A B", "R2 22 B 0"],
    asks: [/Heater panel/],
  },
  {
    name: "a comment between and a sum below",
    text: "Part,From,To,Value\nR1,A,B,10\n# R9 is not fitted,,,\nR2,B,0,22\nTotal,,,32",
    parts: ["R1 10 A B", "R2 22 B 0"],
    asks: [/no part in “# R9 is not fitted”: passed over/, /no part in “Total 32”: passed over/],
  },
  {
    name: "a trail in a letter's line ends",
    text: "BT1 24V: F1 1A + [A] R1 220\r\n+ [B] (R2 1k | R3 470)\r\n",
    parts: ["BT1 24V + 0", "F1 1A + A", "R1 220 A B", "R2 1k B 0", "R3 470 B 0"],
  },
  {
    name: "wire colours as notes",
    text: "Part\tFrom\tTo\tValue\tRemarks\nJ1\tP\tA\t\tblue wire, TB2\nR1\tA\t0\t1k\t",
    parts: ['J1 note="blue wire, TB2" P A', "R1 1k A 0"],
  },
  {
    name: "a supply given by plus and minus",
    text: "Component,Plus,Minus,Value\nPSU1,V24,GND,24 V dc\nHTR1,V24,GND,24V 48W",
    parts: ["PSU1 24V V24 GND", "HTR1 kind=load 24V 48W V24 GND"],
    asks: [/HTR1: no kind of part goes by the letters HTR/],
  },
];

describe("names of nodes", () => {
  it("stay apart, however drawings write them", () => {
    const { circuit } = readParts("Part,From,To,Value\nR1,TB-1,TB_1,5\nR2,TB 1,R1,5");
    const [first, second] = circuit?.parts ?? [];
    expect(new Set([first?.from, first?.to, second?.from]).size).toBe(3);
    expect(second?.to).not.toBe("R1");
  });

  it("are those of a bridge's leads, in columns of their own or in its value, and of nothing that is only called so", () => {
    const table =
      "Part,From,To,Value,DC+,DC-\nBT1,P-1,0,12V plus,,\nBR1,P-1,0,schottky,TB-2,M\nBR2,P-1,0,plus=[Q] minus=[M],,";
    const { circuit, mistakes } = readParts(table);
    // The word behind the volts is none of a supply's, and is asked about; it is no lead.
    expect(mistakes.map((m) => m.message).join("\n")).not.toMatch(/bridge rectifiers/);
    const [one, two] = readParts(table.replace("12V plus", "12V")).circuit?.parts.filter((p) => "plus" in p) ?? [];
    expect(one).toMatchObject({ kind: "bridgeRectifier", material: "schottky", minus: "M" });
    expect(two).toMatchObject({ plus: "Q", minus: "M" });
    expect(circuit === null || circuit.parts.length === 3).toBe(true);
    // What the trade calls a rectifier by itself is a diode.
    expect(readParts("Part,Kind,From,To\nD7,rectifier,A,B").circuit?.parts[0].kind).toBe("diode");
    expect(
      readParts("Part,Kind,From,To,Value\nX7,bridge rectifier,A,B,plus=[P] minus=[M]").circuit?.parts[0].kind,
    ).toBe("bridgeRectifier");
    expect(readParts("Part,From,To,Value,Wiper\nR1,A,B,5,W").mistakes.map((m) => m.message)).toEqual([
      expect.stringMatching(/wiper= is for potentiometers/),
    ]);
  });
});

function read(block: Block) {
  const now: Trail | undefined = block.onto === undefined ? undefined : readTrail(block.onto);
  const found = recognise(block.text, now);
  const circuit = found.trail === null ? null : readTrail(found.trail).circuit;
  return { found, parts: circuit?.parts.map((p) => `${writePart(p)} ${p.from} ${p.to}`) ?? null };
}

describe("blocks as people paste them", () => {
  it.each(BLOCKS.map((b) => [b.name, b] as const))("read %s", (_, block) => {
    const { found, parts } = read(block);
    const said = found.mistakes.map((m) => `${m.severity} ${m.line}:${m.column} ${m.message}`);
    expect(parts, said.join("\n")).toEqual(block.parts);
    for (const asked of block.asks ?? []) expect(said.join("\n")).toMatch(asked);
    expect(said.length, said.join("\n")).toBe(block.asks?.length ?? 0);
  });
});

describe("readings as they stand on a page", () => {
  const now = readTrail("BT1 12V: R1 1k + [A] R2 1k + [B] R3 1k");
  const read = (text: string) => recognise(text, now);

  it.each([
    ["cells of a spreadsheet", "Point\tReading\tRemark\nA\t8.01 V\twarm\nB\t4.02 V\nR3\t4.0 mA"],
    ["a decimal comma", "A;8,01 V;warm\nB;4,02 V\nR3;4,0 mA"],
    ["unit in a cell of its own", "A,8.01,V,warm\nB,4.02,V\nR3,4.0,mA"],
    ["lines of a note", "A 8.01 # warm\nB 4.02\nR3 4.0mA"],
    ["lines with a decimal comma", "A 8,01 # warm\nB 4,02\nR3 4,0mA"],
  ])("are read, with %s", (_, text) => {
    const { format, readings, mistakes } = read(text);
    expect([format, mistakes]).toEqual(["lines", []]);
    expect(readings).toMatchObject([
      { quantity: "voltage", from: "A", value: 8.01, note: "warm" },
      { quantity: "voltage", from: "B", value: 4.02 },
      { quantity: "current", through: "R3", value: 0.004 },
    ]);
  });

  it("say of a row that is none which it is, and are no circuit's parts", () => {
    const { format, mistakes } = read("A 8.01\nB 4.02\nZ 7.0\nR3 4.0mA");
    expect([format, mistakes.map((m) => m.line)]).toEqual(["lines", [3]]);
    expect(read("R1 2k2\nR2 4k7").format).toBe("values");
    expect(read("BT1 9V: R1 1k + [A] R2 1k").format).toBe("trail");
  });
});
