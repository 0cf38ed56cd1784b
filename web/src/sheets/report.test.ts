import { expect, it } from "vitest";
import type { ReportFacts } from "./reportFacts.ts";
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
