import type { Page } from "@playwright/test";
import { fromMenu } from "./menu.ts";
import type { RunningServer } from "./runningServer.ts";

/** A view as a person may have it before them. */
export interface State {
  readonly name: string;
  /** Where it is; left out, it is come to from the state before: what is open there is closed with Escape. */
  readonly at?: (server: RunningServer) => string | Promise<string>;
  /** What is done there first. */
  readonly once?: (page: Page) => Promise<unknown>;
  /** What is besides looked at, once for each view: that nothing sticks out on a phone, and all fonts are shipped. */
  readonly isView?: true;
  /** And that nothing is lost at 320 px, with larger letters and with wide spacing. */
  readonly reflows?: true;
}

const press = (name: string | RegExp) => (page: Page) =>
  page.getByRole("button", { name, exact: true }).first().click();
/** Some dialogs are loaded when they are asked for: until one is there Escape would close nothing. */
const opens = (name: string) => async (page: Page) => {
  await press(name)(page);
  await page.getByRole("dialog").waitFor();
};
const tab = (name: string | RegExp) => (page: Page) => page.getByRole("tab", { name }).click();
const bench = (word: string, stage: string) => (server: RunningServer) => server.bench(word, stage);
const page = (path: string) => (server: RunningServer) => `${server.address}${path}`;
const line = (words: string) => (p: Page) => p.getByLabel("Reading", { exact: true }).fill(words);
const trail = (text: string, shown: string) => async (p: Page) => {
  const editor = p.locator(".cm-content");
  if (text !== "") await editor.fill(text);
  else {
    await editor.focus();
    await p.keyboard.press("Control+a");
    await p.keyboard.press("Delete");
  }
  await p.getByText(shown).first().waitFor();
};
const pick = (name: RegExp) => (p: Page) => p.getByRole("option", { name }).first().click();

/** Every view and what it can come to, by page. */
export const STATES: Readonly<Record<string, readonly State[]>> = {
  around: [
    { name: "jobs", at: page("/jobs"), isView: true, reflows: true },
    { name: "jobs ticked", once: (p) => p.getByRole("checkbox").first().check() },
    { name: "no job matches", once: (p) => p.getByLabel("Search jobs").fill("zzzz") },
    {
      name: "deleted jobs",
      once: async (p) => {
        await p.getByLabel("Search jobs").fill("");
        await press("Deleted jobs")(p);
      },
    },
    { name: "new job", once: opens("New job") },
    { name: "shortcuts", once: opens("Shortcuts") },
    { name: "library", at: page("/library"), isView: true },
    {
      name: "a kept circuit",
      once: async (p) => {
        await p.getByRole("main").getByRole("link").first().click();
        // The list stays until the circuit is there.
        await p.getByLabel("Notes").waitFor();
      },
    },
    { name: "practice", at: page("/practice"), isView: true, reflows: true },
    {
      name: "a hunt of one's own, and a set to make",
      once: async (p) => {
        for (const words of ["A hunt of your own", "Make a set to hand out", "What each act costs"])
          await p.getByText(words).click();
      },
    },
    { name: "a hunt", at: (s) => hunt(s), isView: true, reflows: true },
    {
      name: "a part in hand",
      once: async (p) => {
        await pick(/^LA1 /)(p);
        await p.getByText("Leads, fingers, its fuses").click();
      },
    },
    { name: "naming", once: opens("Name the fault") },
    { name: "marks", at: (s) => marks(s), isView: true, reflows: true },
    { name: "on paper", at: page("/practice/paper/relation?seed=7"), isView: true, reflows: true },
    { name: "answered", once: press(/neither/) },
    { name: "a tangled drawing", at: page("/practice/paper/tangled?seed=7"), isView: true },
    { name: "ticks", at: page("/practice/paper/ruleOut?seed=7") },
    { name: "a chart on paper", at: page("/practice/paper/chart?seed=7"), isView: true },
    { name: "pocket sums", at: page("/sums"), isView: true },
    { name: "workshop", at: page("/workshop"), isView: true },
    { name: "a meter changed", once: press("Copy bench") },
    { name: "help", at: page("/help/readings"), isView: true },
    {
      name: "kinds of part in help",
      once: (p) => p.getByRole("link", { name: "Kinds of part, and how they fail" }).click(),
    },
    { name: "pairing", at: page("/pair") },
    { name: "no such page", at: page("/nowhere") },
    { name: "no such job", at: page("/jobs/00000000-0000-4000-8000-000000000000/circuit") },
  ],
  circuit: [
    { name: "circuit", at: bench("pump", "circuit"), isView: true, reflows: true },
    { name: "a part selected", once: pick(/^R1 /) },
    { name: "a node selected", once: pick(/^node B/) },
    {
      name: "a new part asked for",
      once: async (p) => {
        await pick(/^R1 /)(p);
        await press("After")(p);
      },
    },
    { name: "parts table", once: tab("Parts") },
    { name: "export", once: press("Export") },
    {
      name: "earlier versions",
      once: async (p) => {
        await press("Export")(p);
        await p.getByRole("menuitem", { name: /Earlier versions/ }).click();
        await p.getByRole("dialog").waitFor();
      },
    },
    { name: "import", once: opens("Import") },
    {
      name: "import with questions",
      once: async (p) => {
        await opens("Import")(p);
        await p.getByLabel("Text to import").fill("Part\tFrom\tTo\tValue\tX\nR1\tA\tB\t1O0\ty");
      },
    },
    {
      name: "how a trail is written",
      at: bench("vent", "circuit"),
      once: (p) => p.getByText("How a trail is written").click(),
    },
    { name: "breadboard", once: tab("Breadboard") },
    {
      name: "mistakes in the trail",
      at: bench("vent", "circuit"),
      once: async (p) => {
        await tab("Trail")(p);
        await trail("BT1 9V: R1 1q + (R2 5 | D7 x", "“1q”")(p);
      },
    },
    { name: "an empty board", once: trail("", "The board appears here as you write the trail.") },
  ],
  expected: [
    { name: "chart", at: bench("pump", "expected"), isView: true, reflows: true },
    {
      name: "behind a cell",
      once: (p) =>
        p
          .getByRole("table")
          .first()
          .getByRole("button", { name: /^V of / })
          .first()
          .click(),
    },
    {
      name: "own figures",
      once: async (p) => {
        await p.getByRole("button", { name: "Check mine" }).click();
        for (const [label, text] of [
          ["My V(LA1)", "24"],
          ["My I(F1)", "1mA"],
        ]) {
          await p.getByLabel(label, { exact: true }).fill(text);
          await p.getByLabel(label, { exact: true }).press("Enter");
        }
        await p.getByRole("button", { name: "What can be filled now?" }).click();
      },
    },
    { name: "no own figures", once: (p) => p.getByRole("button", { name: "Check mine" }).click() },
    { name: "reduction", once: tab("Reduce") },
    { name: "own figures of each step", once: (p) => p.getByRole("button", { name: "Check mine" }).click() },
    { name: "checks", once: tab(/^Checks/) },
    { name: "between", once: tab("Between") },
    { name: "measured", once: tab("Measured") },
  ],
  readings: [
    { name: "no reading yet", at: bench("lantern", "readings"), isView: true },
    { name: "readings", at: bench("pump", "readings"), isView: true, reflows: true },
    { name: "own figures beside readings", once: press("Check mine") },
    { name: "more", once: press("More") },
    {
      name: "history",
      once: async (p) => {
        await p.keyboard.press("Escape");
        await fromMenu(p, "Timeline of this job");
        await p.getByRole("dialog").waitFor();
      },
    },
    {
      name: "about the job",
      once: (p) => p.getByRole("heading", { level: 1 }).getByRole("button").click(),
    },
    { name: "a reading typed", once: line("B 23") },
    { name: "a slip typed", once: line("12mA") },
    { name: "bench view", at: (s) => bench("pump", "readings")(s).then((at) => `${at}?view=bench`) },
    {
      name: "a current, step by step",
      at: bench("vent", "readings"),
      once: async (p) => {
        await line("R1 current")(p);
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
  ],
  whatif: [
    { name: "what-if", at: bench("vent", "whatif"), isView: true },
    {
      name: "faults supposed",
      once: (p) => p.getByRole("textbox", { name: "What if" }).fill("R1 open"),
    },
    ...["Chart", "Variants", "Map", "Curve", "Causes", "Guess"].map((name) => ({
      name: `what-if, ${name}`,
      once: tab(name),
    })),
  ],
  suspects: [
    { name: "suspects", at: bench("soil", "suspects"), isView: true },
    {
      name: "a suspect opened",
      at: bench("pump", "suspects"),
      reflows: true,
      once: (p) => p.getByLabel("Suspects", { exact: true }).locator("summary").first().click(),
    },
    {
      name: "why not",
      once: (p) =>
        p
          .getByText(/^Why not/)
          .first()
          .click(),
    },
    { name: "expected values, on paper", at: bench("pump", "sheets/expected") },
    { name: "reduction, on paper", at: bench("pump", "sheets/reduction") },
    { name: "measured, on paper", at: bench("pump", "sheets/measured") },
    { name: "variants, on paper", at: bench("pump", "sheets/variants") },
    { name: "job sheet", at: bench("pump", "sheets/job"), reflows: true },
  ],
  repair: [
    { name: "repair", at: bench("vent", "repair"), isView: true },
    { name: "a repair under way", once: (p) => press(/^Repair R\d$/)(p) },
    { name: "closing a job", once: press("Close the job …") },
    { name: "a closed job", at: bench("soil", "repair"), isView: true },
    { name: "report", at: bench("soil", "sheets/report"), isView: true },
    { name: "as it was", at: bench("vent", "then"), isView: true },
    { name: "what fails here", at: page("/failures"), isView: true },
    { name: "side by side", at: async (s) => beside(s) },
  ],
};

const LAMPS = "BT1 12V ri=0.2: F1 2A + [A] (J1 + [B] LA1 12V 5W | J2 + [C] LA2 12V 5W)";

async function sent(server: RunningServer, path: string, body: object): Promise<void> {
  const headers = { "Content-Type": "application/json" };
  await fetch(`${server.address}/api${path}`, { method: "POST", headers, body: JSON.stringify(body) });
}

/** A hunt with all help, two acts in. */
async function hunt(server: RunningServer): Promise<string> {
  const id = crypto.randomUUID();
  await sent(server, "/hunts", { id, title: "Lamps over the potting bench", trail: LAMPS, kinds: ["open"], seed: 4 });
  for (const [after, [lead, at]] of [
    ["black", "0"],
    ["red", "B"],
  ].entries())
    await sent(server, `/hunts/${id}/acts`, { after, act: { act: "touch", lead, at } });
  return `${server.address}/practice/${id}`;
}

/** One that is over, with a reading, a wrong name and an unsafe act. */
async function marks(server: RunningServer): Promise<string> {
  const address = await hunt(server);
  const id = address.split("/").at(-1);
  await sent(server, `/hunts/${id}/acts`, { after: 2, act: { act: "take" } });
  await sent(server, `/hunts/${id}/acts`, { after: 3, act: { act: "free", part: "LA1" } });
  await sent(server, `/hunts/${id}/names`, { named: ["BT1"], sure: 0.9 });
  await sent(server, `/hunts/${id}/end`, {});
  return `${address}/marks`;
}

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
