import type { Letterhead } from "@hound/core/record";
import type { ReportFacts } from "./reportFacts.ts";

interface Extras {
  readonly letterhead: Letterhead;
  readonly details: readonly (readonly [string, string])[];
  readonly cautions: readonly string[];
  readonly stamp: string;
}

/** The report as Markdown. */
export function reportMarkdown(facts: ReportFacts, { letterhead, details, cautions, stamp }: Extras): string {
  const list = (lines: readonly string[]) => lines.map((l) => `- ${escaped(l)}`).join("\n");
  const section = (title: string, body: string) => (body === "" ? "" : `## ${title}\n\n${body}\n`);
  const table =
    facts.proof.length === 0
      ? ""
      : [
          "| Where | Read | Healthy | |",
          "| --- | --- | --- | --- |",
          ...facts.proof.map((p) => `| ${[p.where, p.read, p.healthy, p.says].map(cell).join(" | ")} |`),
        ].join("\n");
  return [
    letterhead.head === "" ? "" : `${escaped(letterhead.head)}\n`,
    `# ${escaped(facts.title)}\n`,
    details.map(([name, text]) => `**${name}:** ${escaped(text)}  `).join("\n"),
    section("Complaint", escaped(facts.complaint)),
    section(facts.outcome, escaped(facts.finding)),
    section("Why", list(facts.reasons)),
    section("Replaced", list(facts.replaced)),
    section(facts.proofTitle, [escaped(facts.proofWords), table].filter(Boolean).join("\n\n")),
    section("Not tested", list(facts.untested)),
    section("Cautions", list(cautions)),
    facts.who === "" ? "" : `${escaped(facts.who)}\n`,
    letterhead.foot === "" ? "" : `${escaped(letterhead.foot)}\n`,
    `_${escaped(stamp)}_\n`,
  ]
    .filter((part) => part !== "")
    .join("\n");
}

/** Signs that Markdown would take for something else. */
const escaped = (text: string) => text.replace(/[\\`*_[\]<>#|]/g, "\\$&");
const cell = (text: string) => escaped(text).replace(/\n/g, " ");
