import type { Letterhead } from "@hound/core/record";
import type { ReportFacts } from "./reportFacts.ts";

export interface HtmlExtras {
  readonly letterhead: Letterhead;
  readonly details: readonly (readonly [string, string])[];
  readonly cautions: readonly string[];
  readonly stamp: string;
  /** Data addresses: the board, photographs, and the two fonts. */
  readonly board: string;
  readonly photos: readonly { readonly caption: string; readonly address: string }[];
  readonly fonts: readonly string[];
}

const STYLE = `
body{font:11pt/1.35 Report,ReportGreek,sans-serif;color:#16202e;background:#fff;max-width:182mm;margin:12mm auto;padding:0 4mm}
h1{font-size:17pt;margin:0 0 2mm}h2{font-size:13pt;margin:5mm 0 1mm}p,ul{margin:1mm 0}ul{padding-left:5mm}
img{max-width:100%}.photos{display:flex;flex-wrap:wrap;gap:4mm}.photos figure{margin:0;font-size:9pt}.photos img{max-height:45mm;display:block}table{border-collapse:collapse;width:100%}
th,td{text-align:left;border-bottom:1px solid #b9b3a4;padding:1mm 2mm 1mm 0;vertical-align:top}
.head,.foot{white-space:pre-line}.head{border-bottom:2px solid #16202e;padding-bottom:2mm;margin-bottom:4mm}
.foot,.stamp{font-size:9pt}.text{white-space:pre-line}@page{margin:14mm}@media print{body{margin:0;max-width:none;padding:0}}`;

/** The report as one HTML file that needs nothing else: pictures and fonts are inside. */
export function reportHtml(facts: ReportFacts, extras: HtmlExtras): string {
  const { letterhead, details, cautions, stamp, board, photos, fonts } = extras;
  const list = (lines: readonly string[]) => `<ul>${lines.map((l) => `<li>${safe(l)}</li>`).join("")}</ul>`;
  const section = (title: string, body: string) => (body === "" ? "" : `<h2>${safe(title)}</h2>${body}`);
  const text = (words: string) => (words === "" ? "" : `<p class="text" dir="auto">${safe(words)}</p>`);
  const rows = facts.proof.map(
    (p) =>
      `<tr><th scope="row">${safe(p.where)}</th><td>${safe(p.read)}</td><td>${safe(p.healthy)}</td><td>${safe(p.says)}</td></tr>`,
  );
  const table =
    rows.length === 0
      ? ""
      : `<table><thead><tr><th>Where</th><th>Read</th><th>Healthy</th><th></th></tr></thead><tbody>${rows.join("")}</tbody></table>`;
  const faces = ["Report", "ReportGreek"].map(
    (name, i) => `@font-face{font-family:${name};font-weight:100 900;src:url(${fonts[i]})}`,
  );
  return [
    `<!doctype html><html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width">`,
    `<title>${safe(facts.title)}</title><style>${faces.join("")}${STYLE}</style></head><body>`,
    letterhead.head === "" ? "" : `<div class="head" dir="auto">${safe(letterhead.head)}</div>`,
    `<h1 dir="auto">${safe(facts.title)}</h1>`,
    details.length === 0
      ? ""
      : `<p>${details.map(([n, t]) => `${safe(n)}: <strong dir="auto">${safe(t)}</strong>`).join(" · ")}</p>`,
    section("Complaint", text(facts.complaint)),
    section(facts.outcome, text(facts.finding)),
    section("Why", facts.reasons.length === 0 ? "" : list(facts.reasons)),
    `<p><img alt="The circuit with its readings" src="${board}"></p>`,
    section("Replaced", facts.replaced.length === 0 ? "" : list(facts.replaced)),
    section(facts.proofTitle, `${text(facts.proofWords)}${table}`),
    section("Not tested", facts.untested.length === 0 ? "" : list(facts.untested)),
    photos.length === 0
      ? ""
      : `<div class="photos">${photos.map((p) => `<figure><img alt="${safe(p.caption)}" src="${p.address}"><figcaption dir="auto">${safe(p.caption)}</figcaption></figure>`).join("")}</div>`,
    section("Cautions", cautions.length === 0 ? "" : list(cautions)),
    text(facts.who),
    letterhead.foot === "" ? "" : `<p class="foot" dir="auto">${safe(letterhead.foot)}</p>`,
    `<p class="stamp">${safe(stamp)}</p></body></html>`,
  ].join("\n");
}

function safe(text: string): string {
  return text.replace(/[&<>"']/g, (c) => `&#${c.charCodeAt(0)};`);
}
