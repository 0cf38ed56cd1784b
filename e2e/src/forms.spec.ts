import type { Locator, Page } from "@playwright/test";
import { fromMenu } from "./menu.ts";
import { patient } from "./patience.ts";
import type { RunningServer } from "./runningServer.ts";
import { expect, fresh } from "./server.ts";
import { settled } from "./states.ts";

/** A form as one comes to it. */
interface Form {
  readonly name: string;
  /** Where it is; left out, on the page of the one before it. */
  readonly at?: (server: RunningServer) => string | Promise<string>;
  readonly reach?: (page: Page) => Promise<unknown>;
  readonly field: (page: Page) => Locator;
  /** What is half typed; a field that takes numbers, or a date, has its own. */
  readonly text?: string;
  readonly leave?: (page: Page) => Promise<unknown>;
}

const TEXT = "half ty";
const bench = (stage: string) => (server: RunningServer) => server.bench("vent", stage);
const press = (name: string | RegExp) => (page: Page) => page.getByRole("button", { name }).first().click();
const tab = (name: string) => (page: Page) => page.getByRole("tab", { name }).click();
const labelled = (label: string | RegExp) => (page: Page) => page.getByLabel(label, { exact: true }).first();
const close = (page: Page) => page.keyboard.press("Escape");

/** Begins the repair that leads, or goes on with the one begun. */
async function beginRepair(page: Page) {
  const repair = page.getByRole("button", { name: /^Repair R\d$/ }).first();
  await repair
    .or(page.getByRole("heading", { name: /^Repair: / }))
    .first()
    .waitFor();
  if (await repair.isVisible()) await repair.click();
}

/** Copies a meter, or goes on with the copy that is open. */
async function copyMeter(page: Page) {
  const copy = page.getByRole("button", { name: "Copy bench", exact: true });
  await copy.waitFor();
  if (!(await page.getByRole("form", { name: "Meter" }).isVisible())) await copy.click();
}

/** Opens the chart of one's own figures, where it is not open. */
async function checkMine(page: Page) {
  await tab("Chart")(page);
  const button = page.getByRole("button", { name: "Check mine" });
  if ((await button.getAttribute("aria-pressed")) === "false") await button.click();
}

/** Opens what is set once at the bench, where it is not open. */
async function openSetUp(page: Page) {
  const button = page.getByRole("button", { name: "Bench set-up" });
  if ((await button.getAttribute("aria-expanded")) === "false") await button.click();
}

/** Opens a photograph of the job, or adds one where there is none. */
async function openPicture(page: Page) {
  const small = page.getByRole("button", { name: /^Picture / }).first();
  if (!(await small.isVisible())) {
    const buffer = await page.screenshot({ clip: { x: 0, y: 0, width: 60, height: 40 } });
    await page.getByRole("heading", { level: 1 }).getByRole("button").click();
    await page.getByLabel("Picture files").setInputFiles({ name: "one.png", mimeType: "image/png", buffer });
    await page.getByRole("button", { name: "Close" }).click();
  }
  await small.click();
}

/** Every form of the product; the trail has a draft of its own. */
const FORMS: readonly Form[] = [
  { name: "reading", at: bench("readings"), field: labelled("Reading"), text: "B 7." },
  { name: "taken by", reach: openSetUp, field: labelled("Taken by") },
  { name: "correction", reach: press(/^Correct /), field: labelled("Corrected reading") },
  { name: "note of a reading", field: (page) => page.getByPlaceholder("Note: S2 off, hot …") },
  {
    name: "about the job",
    reach: (page) => page.getByRole("heading", { level: 1 }).getByRole("button").click(),
    field: labelled(/^What is complained of/),
  },
  { name: "tags", field: labelled("Tags, parted by commas"), leave: close },
  {
    name: "note",
    reach: (page) => fromMenu(page, "Timeline of this job"),
    field: (page) => page.getByRole("dialog").getByLabel("Note"),
    leave: close,
  },
  { name: "caption of a picture", reach: openPicture, field: labelled("Caption"), leave: close },
  {
    name: "import",
    reach: async (page) => {
      await openSetUp(page);
      await press("Paste or import")(page);
    },
    field: labelled("Text to import"),
  },
  { name: "another path", at: bench("expected"), reach: tab("Between"), field: labelled("Another path beside it") },
  { name: "own figure", reach: checkMine, field: labelled("My V(R1)"), text: "6.9" },
  { name: "own volts between", field: labelled("My volts between"), text: "7." },
  { name: "own equation", field: labelled("My own equation"), text: "I1 = I2 + I" },
  {
    name: "own figure of a step",
    reach: async (page) => {
      await tab("Reduce")(page);
      await page.getByRole("button", { name: "Check mine" }).click();
    },
    field: labelled("My R of Ra"),
    text: "330",
  },
  { name: "what-if", at: bench("whatif"), field: (page) => page.getByRole("textbox", { name: "What if" }) },
  { name: "another column", reach: tab("Variants"), field: (page) => page.getByLabel("Another column") },
  { name: "what would give", reach: tab("Causes"), field: (page) => page.getByLabel("What would give") },
  { name: "guess", reach: tab("Guess"), field: labelled(/^Guess for /) },
  { name: "why not", at: bench("suspects"), field: (page) => page.getByRole("textbox", { name: "Why not" }) },
  {
    name: "what is known of a part",
    reach: (page) => page.getByLabel("Suspects", { exact: true }).locator("summary").first().click(),
    field: labelled(/^Why, of /),
  },
  { name: "fitted instead", at: bench("repair"), reach: beginRepair, field: labelled("Fitted instead") },
  { name: "something else", field: labelled("Something else as well") },
  { name: "check of a new part", field: labelled(/^What the new /) },
  { name: "closing", reach: press("Close the job …"), field: labelled(/^What it was/) },
  { name: "minutes", field: labelled("Minutes"), text: "12" },
  { name: "new part in the table", at: bench("circuit"), reach: tab("Parts"), field: labelled("New part designator") },
  { name: "cell of the table", field: labelled("R1 note") },
  {
    name: "new job",
    at: (server) => `${server.address}/jobs`,
    reach: press("New job"),
    field: labelled("What is on the bench?"),
  },
  {
    name: "kept circuit",
    at: (server) => `${server.address}/library`,
    reach: (page) => page.getByRole("main").getByRole("link").first().click(),
    field: labelled(/^Notes/),
  },
  {
    name: "a hunt of one's own",
    at: (server) => `${server.address}/practice`,
    reach: (page) => page.getByText("A hunt of your own").click(),
    field: labelled("Minutes to find it in; empty: no limit"),
    text: "12",
  },
  {
    name: "a set",
    reach: (page) => page.getByText("Make a set to hand out").click(),
    field: labelled("Name of the set"),
  },
  {
    name: "a figure on paper",
    at: (server) => `${server.address}/practice/paper/meter?seed=7`,
    field: labelled("Your figure"),
    text: "1.",
  },
  {
    name: "sum",
    at: (server) => `${server.address}/sums`,
    field: (page) => page.getByRole("main").locator("input").first(),
  },
  { name: "new name", at: (server) => `${server.address}/workshop`, field: labelled("Another name") },
  { name: "meter's address", field: labelled("Host and port") },
  { name: "letterhead", field: (page) => page.getByRole("region", { name: "Letterhead" }).locator("textarea").first() },
  { name: "help", at: (server) => `${server.address}/help/seen`, field: labelled(/^Try it here/) },
  { name: "meter", at: (server) => `${server.address}/workshop`, reach: copyMeter, field: labelled("Name, one word") },
];

async function walk(page: Page, server: RunningServer, at: (form: Form, field: Locator) => Promise<unknown>) {
  for (const form of FORMS) {
    if (form.at) {
      await page.goto(await form.at(server));
      await settled(page);
    }
    await form.reach?.(page);
    await at(form, form.field(page));
    await form.leave?.(page);
  }
}

fresh(
  "a tab that crashes keeps every form as it was half typed, and the next one shows it",
  async ({ page, server, context }) => {
    fresh.slow();
    await walk(page, server, async (form, field) => {
      await field.fill(form.text ?? TEXT, { timeout: patient(20_000) });
      await expect(field, form.name).toHaveValue(form.text ?? TEXT);
    });
    // Killed in the moment after the last letter.
    await page.goto("chrome://crash").catch(() => {});
    const next = await context.newPage();
    const lost: string[] = [];
    await walk(next, server, async (form, field) => {
      await expect(field, form.name).toBeVisible();
      if ((await field.inputValue()) !== (form.text ?? TEXT)) lost.push(`${form.name}: ${await field.inputValue()}`);
    });
    expect(lost).toEqual([]);
  },
);

fresh(
  "what a closed tab left in a form stands in it where nothing is typed, and beside it where something is",
  async ({ page, server, context }) => {
    await page.goto(`${server.address}/workshop`);
    const other = await context.newPage();
    await other.goto(`${server.address}/workshop`);
    const [here, there] = [page, other].map((p) => ({
      name: p.getByLabel("Another name"),
      place: p.getByLabel("Host and port"),
    }));
    await there.name.fill("Bo");
    await there.place.fill("127.0.0.1:9");
    await here.place.fill("127.0.0.1:8");
    await other.close();
    await expect(here.name).toHaveValue("Bo");
    await here.name.press("End");
    await here.name.pressSequentially("b");
    await expect(here.name).toHaveValue("Bob");
    await expect(here.place).toHaveValue("127.0.0.1:8");
    const left = page.getByRole("listitem").filter({ hasText: "Typed in a tab that was closed" });
    await expect(left).toContainText("127.0.0.1:9");
    await left.getByRole("button", { name: "Let it go" }).click();
    await expect(left).toHaveCount(0);
  },
);

fresh(
  "where the device has no room left each form goes on, and says that it keeps nothing, until there is room",
  async ({ page, server }) => {
    // A browser lets small texts through beyond its own limits: it is refused here what it would refuse of large ones.
    await page.addInitScript(() => {
      const put = IDBObjectStore.prototype.put;
      IDBObjectStore.prototype.put = function (...given) {
        if (document.documentElement.dataset.room === "none") throw new DOMException("no room", "QuotaExceededError");
        return put.apply(this, given);
      };
    });
    const room = (is: string) =>
      page.evaluate((word) => {
        document.documentElement.dataset.room = word;
      }, is);
    const says = page.getByText("what is not saved yet goes when the page goes").first();
    await page.goto(await server.bench("vent", "readings"));
    await settled(page);
    await room("none");
    for (const form of FORMS.filter((f) => ["reading", "correction", "about the job"].includes(f.name))) {
      await form.reach?.(page);
      await form.field(page).fill(TEXT);
      await expect(says, form.name).toBeVisible();
      await expect(form.field(page)).toHaveValue(TEXT);
    }
    await close(page);
    // What goes to the server goes there all the same.
    const line = page.getByLabel("Reading", { exact: true });
    await line.fill("C 1.93");
    await line.press("Enter");
    await expect(page.getByRole("banner")).toContainText("Saved");
    await room("enough");
    await line.fill("D 1");
    await expect(says).toHaveCount(0);
  },
);
