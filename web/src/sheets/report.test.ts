import { buildNetwork, type Circuit } from "@hound/core/circuit";
import { readTrail } from "@hound/core/notation";
import type { Job, Reading, Repaired } from "@hound/core/record";
import { expect, it } from "vitest";
import { type ReportFacts, reportFacts } from "./reportFacts.ts";
import { reportHtml } from "./reportHtml.ts";
import { reportMarkdown } from "./reportMarkdown.ts";

const FACTS: ReportFacts = {
  title: "Vent <drive> | 3rd",
  outcome: "Found",
  finding: "R4 *open*",
  complaint: "stops\n<img src=x onerror=alert(1)>",
  reasons: ["C read 19.82 V"],
  replaced: ["R4: 330 Ω"],
  proof: [{ where: "A", read: "23.97 V", healthy: "23.4 V to 24.6 V", says: "agrees" }],
  proofTitle: "Proof after the repair",
  proofWords: "After it 1 of 1 readings agree.",
  untested: [],
  who: "Ann",
};
const EXTRAS = {
  letterhead: { head: "A & B", foot: "" },
  details: [["Customer", "O'Neil"]] as const,
  cautions: ["Care"],
  stamp: "version 1",
};

it("a report in HTML holds nothing that is not its own, and what was typed is text in it", () => {
  const html = reportHtml(FACTS, {
    ...EXTRAS,
    board: "data:image/svg+xml;base64,AA==",
    photos: [],
    fonts: ["data:a", "data:b"],
  });
  expect(html).not.toContain("<img src=x");
  expect(html).toContain("Vent &#60;drive&#62;");
  expect(html).toContain("A &#38; B");
  expect(html.match(/(?:src|href)="(?!data:)/g)).toBeNull();
  expect(html).not.toMatch(/<script|https?:/);
});

it("a report in Markdown keeps its signs apart from what was typed", () => {
  const text = reportMarkdown(FACTS, EXTRAS);
  expect(text).toContain("# Vent \\<drive\\> \\| 3rd");
  expect(text).toContain("R4 \\*open\\*");
  expect(text).toMatch(/\| A \| 23\.97 V \| 23\.4 V to 24\.6 V \| agrees \|/);
  expect(text).not.toMatch(/## Not tested/);
});

it("the reasons are what was read where the fault shows, beside healthy, and beside the fault where its value is known", () => {
  const circuit = readTrail("BT1 10V ri=0: [A] R1 1k + [B] R2 1k").circuit as Circuit;
  const network = buildNetwork(circuit);
  const readings: Reading[] = [
    { quantity: "voltage", from: "A", value: 10 },
    { quantity: "voltage", from: "B", value: 2.5 },
  ];
  const reasons = (fault: Repaired) => {
    const job = { title: "", complaint: "", finding: "", work: { faults: [fault] }, closing: null } as unknown as Job;
    return reportFacts({ job, network, input: { circuit, readings }, verdict: null, unseen: [] }).reasons;
  };
  // Half of 10 V is due at B; 3 kΩ in place of R1 makes it a quarter.
  const known = reasons({ part: "R1", mode: "high", value: 3000 });
  expect(known).toHaveLength(1);
  expect(known[0]).toMatch(/^B read 2\.500\sV; healthy it would be 5\.0.*V, with R1 too high 2\.5.*V\.$/);
  // Four are enough: the figures first, then what was seen.
  const looks = [1, 2, 3, 4, 5].map((): Reading => ({ quantity: "observation", part: "R1", seen: "hot" }));
  const many = {
    ...{ title: "", complaint: "", finding: "", closing: null },
    work: { faults: [{ part: "R1", mode: "high", value: 3000 }] },
  } as unknown as Job;
  const facts = reportFacts({
    ...{ job: many, network, verdict: null, unseen: [] },
    input: { circuit, readings: [...readings, ...looks] },
  });
  expect(facts.reasons.map((r) => r.slice(0, 6))).toEqual(["B read", "R1 is ", "R1 is ", "R1 is "]);
  const unknown = reasons({ part: "R1", mode: "high" });
  expect(unknown).toHaveLength(1);
  expect(unknown[0]).toMatch(/^B read 2\.500\sV; healthy it would be 5\.0[^,]*V\.$/);
});
