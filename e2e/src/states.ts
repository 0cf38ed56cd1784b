import type { Page } from "@playwright/test";
import type { RunningServer } from "./server.ts";

/** A view as a person may have it before them: where it is, and what is done there first. */
export interface State {
  readonly name: string;
  readonly at: (server: RunningServer) => string | Promise<string>;
  readonly once?: (page: Page) => Promise<unknown>;
}

const press = (name: string | RegExp) => (page: Page) =>
  page.getByRole("button", { name, exact: true }).first().click();
const tab = (name: string | RegExp) => (page: Page) => page.getByRole("tab", { name }).click();
const bench = (word: string, stage: string) => (server: RunningServer) => server.bench(word, stage);
const page = (path: string) => (server: RunningServer) => `${server.address}${path}`;
const line = (words: string) => (p: Page) => p.getByLabel("Reading", { exact: true }).fill(words);
const trail = (text: string) => async (p: Page) => {
  await p.locator(".cm-content").fill(text);
  await p.waitForTimeout(400);
};
const pick = (name: RegExp) => (p: Page) => p.getByRole("option", { name }).first().click();

/** Every view and what it can come to, by page. */
export const STATES: Readonly<Record<string, readonly State[]>> = {
  around: [
    { name: "jobs", at: page("/jobs") },
    { name: "no job matches", at: page("/jobs"), once: (p) => p.getByLabel("Search jobs").fill("zzzz") },
    { name: "deleted jobs", at: page("/jobs"), once: press("Deleted jobs") },
    { name: "new job", at: page("/jobs"), once: press("New job") },
    { name: "shortcuts", at: page("/jobs"), once: press("Shortcuts") },
    { name: "library", at: page("/library") },
    {
      name: "a kept circuit",
      at: page("/library"),
      once: (p) => p.getByRole("main").getByRole("link").first().click(),
    },
    { name: "pocket sums", at: page("/sums") },
    { name: "workshop", at: page("/workshop") },
    { name: "a meter changed", at: page("/workshop"), once: press("Copy bench") },
    { name: "pairing", at: page("/pair") },
    { name: "no such page", at: page("/nowhere") },
    { name: "no such job", at: page("/jobs/00000000-0000-4000-8000-000000000000/circuit") },
  ],
  circuit: [
    { name: "circuit", at: bench("pump", "circuit") },
    { name: "mistakes in the trail", at: bench("vent", "circuit"), once: trail("BT1 9V: R1 1q + (R2 5 | D7 x") },
    { name: "an empty board", at: bench("vent", "circuit"), once: trail("") },
    { name: "a part selected", at: bench("pump", "circuit"), once: pick(/^R1 /) },
    { name: "a node selected", at: bench("pump", "circuit"), once: pick(/^node B/) },
    {
      name: "a new part asked for",
      at: bench("pump", "circuit"),
      once: async (p) => {
        await pick(/^R1 /)(p);
        await press("After")(p);
      },
    },
    { name: "parts table", at: bench("pump", "circuit"), once: tab("Parts") },
    { name: "breadboard", at: bench("vent", "circuit"), once: tab("Breadboard") },
    { name: "import", at: bench("pump", "circuit"), once: press("Import") },
    {
      name: "import with questions",
      at: bench("pump", "circuit"),
      once: async (p) => {
        await press("Import")(p);
        await p.getByLabel("Text to import").fill("Part\tFrom\tTo\tValue\tX\nR1\tA\tB\t1O0\ty");
      },
    },
    { name: "export", at: bench("pump", "circuit"), once: press("Export") },
    {
      name: "earlier versions",
      at: bench("pump", "circuit"),
      once: async (p) => {
        await press("Export")(p);
        await p.getByRole("menuitem", { name: /Earlier versions/ }).click();
      },
    },
    {
      name: "how a trail is written",
      at: bench("pump", "circuit"),
      once: (p) => p.getByText("How a trail is written").click(),
    },
  ],
  expected: [
    { name: "chart", at: bench("pump", "expected") },
    {
      name: "behind a cell",
      at: bench("pump", "expected"),
      once: (p) =>
        p
          .getByRole("table")
          .first()
          .getByRole("button", { name: /^V of / })
          .first()
          .click(),
    },
    { name: "reduction", at: bench("pump", "expected"), once: tab("Reduce") },
    { name: "checks", at: bench("pump", "expected"), once: tab(/^Checks/) },
    { name: "between", at: bench("pump", "expected"), once: tab("Between") },
    { name: "measured", at: bench("pump", "expected"), once: tab("Measured") },
  ],
  readings: [
    { name: "readings", at: bench("pump", "readings") },
    { name: "no reading yet", at: bench("lantern", "readings") },
    { name: "a reading typed", at: bench("pump", "readings"), once: line("B 23") },
    { name: "a slip typed", at: bench("pump", "readings"), once: line("12mA") },
    { name: "bench view", at: (s) => bench("pump", "readings")(s).then((at) => `${at}?view=bench`) },
    {
      name: "a current, step by step",
      at: bench("vent", "readings"),
      once: async (p) => {
        await line("R1 40mA")(p);
        await p.getByRole("button", { name: /Power off, capacitors/ }).click();
        await p.getByRole("button", { name: /Take R1.s lead off/ }).click();
      },
    },
    { name: "something asked", at: bench("vent", "readings"), once: line("A -23.9") },
    {
      name: "being led",
      at: bench("pump", "readings"),
      once: async (p) => {
        await p.getByText("Be led").click();
        await p.getByRole("button", { name: "LA1 does nothing" }).click();
        await p.getByRole("heading", { name: "LA1 does nothing" }).waitFor();
      },
    },
    {
      name: "a correction",
      at: bench("pump", "readings"),
      once: (p) =>
        p
          .getByRole("button", { name: /^Correct / })
          .first()
          .click(),
    },
    { name: "history", at: bench("pump", "readings"), once: press("Timeline of this job") },
    {
      name: "about the job",
      at: bench("pump", "readings"),
      once: (p) => p.getByRole("heading", { level: 1 }).getByRole("button").click(),
    },
  ],
  whatif: [
    { name: "what-if", at: bench("vent", "whatif") },
    {
      name: "faults supposed",
      at: bench("vent", "whatif"),
      once: (p) => p.getByRole("textbox", { name: "What if" }).fill("R1 open"),
    },
    ...["Map", "Curve", "Guess", "Wish"].map((name) => ({
      name: `what-if, ${name}`,
      at: bench("vent", "whatif"),
      once: async (p: Page) => {
        const wanted = p.getByRole("tab", { name: new RegExp(name, "i") });
        if ((await wanted.count()) > 0) await wanted.click();
      },
    })),
  ],
  suspects: [
    { name: "suspects", at: bench("soil", "suspects") },
    {
      name: "a suspect opened",
      at: bench("pump", "suspects"),
      once: (p) => p.getByLabel("Suspects", { exact: true }).locator("summary").first().click(),
    },
    {
      name: "why not",
      at: bench("pump", "suspects"),
      once: (p) =>
        p
          .getByText(/^Why not/)
          .first()
          .click(),
    },
    { name: "expected values, on paper", at: bench("pump", "sheets/expected") },
    { name: "reduction, on paper", at: bench("pump", "sheets/reduction") },
    { name: "measured, on paper", at: bench("pump", "sheets/measured") },
    { name: "job sheet", at: bench("pump", "sheets/job") },
  ],
  repair: [
    { name: "repair", at: bench("vent", "repair") },
    { name: "a repair under way", at: bench("vent", "repair"), once: (p) => press(/^Repair R\d$/)(p) },
    { name: "closing a job", at: bench("vent", "repair"), once: press("Close the job …") },
    { name: "a closed job", at: bench("soil", "repair") },
    { name: "report", at: bench("soil", "sheets/report") },
    { name: "as it was", at: bench("vent", "then") },
    { name: "what fails here", at: page("/failures") },
    { name: "side by side", at: async (s) => beside(s) },
    { name: "jobs ticked", at: page("/jobs"), once: (p) => p.getByRole("checkbox").first().check() },
  ],
};

/** Two jobs beside each other. */
async function beside(server: RunningServer): Promise<string> {
  const { jobs } = await (await fetch(`${server.address}/api/jobs?limit=2`)).json();
  return `${server.address}/jobs/beside?${new URLSearchParams(jobs.map((j: { id: string }) => ["job", j.id]))}`;
}

/** Waits until nothing is being worked out. */
export async function settled(p: Page) {
  await p.waitForFunction(
    () => !/Opening |Loading|Working out|Working it out|Working them out/.test(document.body.textContent ?? ""),
  );
}
