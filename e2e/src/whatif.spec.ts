import { execFileSync } from "node:child_process";
import { readFileSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import type { Locator, Page } from "@playwright/test";
import { IS_DEEP } from "./deep.ts";
import type { RunningServer } from "./runningServer.ts";
import { expect, test } from "./server.ts";

const ROOT = join(import.meta.dirname, "../..");
const demo = (name: string) => readFileSync(join(ROOT, "demo/circuits", `${name}.trail`), "utf8");
const LANTERN = "BT1 12V: F1 1A + [A] S1 + [B] LA1 12V 5W + [C] R1 1 5%";

async function newJob(page: Page, server: RunningServer, trail: string): Promise<string> {
  const made = await page.request.post(`${server.address}/api/jobs`, { data: { title: "What if", trail } });
  return `${server.address}/jobs/${(await made.json()).id}`;
}

const whatIf = (page: Page) => page.getByLabel("What if", { exact: false }).and(page.getByRole("textbox"));
const board = (page: Page) => page.getByRole("listbox", { name: /Board of/ });
const figure = (page: Page, item: RegExp) => board(page).getByRole("option", { name: item });

async function suppose(page: Page, words: string) {
  await whatIf(page).fill(words);
  await page.keyboard.press("Enter");
  await expect(whatIf(page)).toHaveValue("");
}

/** From a demo circuit to the right suspect, by keyboard alone: what is read is what such a circuit shows. */
const JOURNEYS = [
  { tells: "an open", trail: demo("2-vent-drive"), lines: ["B 19.7", "D 1.952", "C 1.952"], first: /^R3 open/ },
  { tells: "a short", trail: demo("2-vent-drive"), lines: ["B 15.61", "D 3.808", "C 3.808"], first: /^R4 shorted/ },
  { tells: "a drift", trail: demo("2-vent-drive"), lines: ["A 23.99", "B 12.66", "D 2.41"], first: /^R1 has climbed/ },
  {
    tells: "a contact",
    trail: demo("4-pump-controller"),
    lines: ["A 23.94", "C 23.91", "D 3.908", "Q 0.5713"],
    first: /^J2 makes poor contact/,
  },
  { tells: "a bridge", trail: demo("2-vent-drive"), lines: ["D 23.9", "C 23.9", "R5 239mA"], first: /bridged to D/ },
  {
    tells: "two faults",
    trail: demo("2-vent-drive"),
    lines: ["A 23.99", "B 16.37", "D 1.622", "C 1.622"],
    first: /R1 has climbed.* and R3 open/,
  },
  {
    tells: "a fuse blown by a short",
    trail: LANTERN,
    lines: ["A 0", "B-C 0.1ohm"],
    first: /^LA1 shorted, which blew F1/,
  },
  {
    tells: "nothing wrong and one reading mis-taken",
    trail: demo("2-vent-drive"),
    lines: ["A 24", "B -16.9", "D 3.2", "C 8.85"],
    first: /^Nothing wrong, a reading is mis-taken/,
    situation: "a new build is checked",
  },
] as const;

/** In an ordinary run those of one part, of a consequence and of nothing at all: the ranking itself is tested elsewhere. */
const WALKED = JOURNEYS.filter(({ tells }) => IS_DEEP || /^(?:an open|a fuse|nothing)/.test(tells));

for (const { tells, trail, lines, first, ...more } of WALKED) {
  test(`by keyboard alone to the right suspect: ${tells}`, async ({ page, server }) => {
    await page.goto(`${await newJob(page, server, trail)}/circuit`);
    await expect(board(page)).toBeVisible();
    await page.keyboard.press("Alt+3");
    const line = page.getByLabel("Reading", { exact: true });
    await expect(line).toBeFocused();
    if ("situation" in more) {
      const tabTo = async (wanted: Locator) => {
        for (let i = 0; i < 60 && !(await wanted.evaluate((e) => e === document.activeElement)); i += 1)
          await page.keyboard.press("Tab");
      };
      await tabTo(page.getByRole("button", { name: "Bench set-up" }));
      await page.keyboard.press("Enter");
      await tabTo(page.getByLabel("Here because"));
      await page.keyboard.type(more.situation);
      await page.keyboard.press("/");
      await line.focus();
    }
    for (const words of lines) {
      await page.keyboard.type(words);
      await page.keyboard.press("Enter");
      // What no single fault gives is said twice.
      const isHeld = page.getByText(/^Not recorded yet/);
      await expect.poll(async () => (await isHeld.isVisible()) || (await line.inputValue()) === "").toBe(true);
      if (await isHeld.isVisible()) await page.keyboard.press("Enter");
      await expect(line).toHaveValue("");
    }
    await page.keyboard.press("Alt+5");
    const suspects = page.getByRole("region", { name: "Suspects" });
    await expect(suspects).toHaveAttribute("aria-busy", "false");
    await expect(suspects.getByRole("listitem").first().locator("summary").first()).toHaveText(first);
  });
}

test("faults are set by words, on the board and by keys, taken back, and seen beside the healthy circuit", async ({
  page,
  server,
}) => {
  await page.goto(await server.bench("vent", "whatif"));
  await expect(whatIf(page)).toBeFocused();
  await page.keyboard.type("R9 melted");
  await expect(page.getByText("“melted” is not a number")).toBeVisible();
  await suppose(page, "R3 open");
  await expect(figure(page, /^node C, expected 8\.8/)).toHaveAccessibleName(/imagined 1\.952\sV/);
  await expect(figure(page, /^R3 470\sΩ/)).toHaveAccessibleName(/imagined R3 open, 0\sA/);
  const fit = page.getByRole("region", { name: "Would this explain the readings?" });
  await expect(fit).toContainText("Explains all 3 readings. It is suspect number 1 of");
  // On the board: R4 is picked, and the ways it can be wrong are offered.
  await figure(page, /^R4 330\sΩ/).click();
  await page.getByRole("button", { name: "drift", exact: true }).click();
  const slider = page.getByRole("slider", { name: "Value of R4" });
  await slider.focus();
  const before = await slider.getAttribute("aria-valuetext");
  for (let i = 0; i < 5; i += 1) await page.keyboard.press("ArrowRight");
  await expect(slider).not.toHaveAttribute("aria-valuetext", before ?? "");
  await page.getByLabel("Value of R4, typed").fill("680");
  await page.keyboard.press("Enter");
  await expect(slider).toHaveAttribute("aria-valuetext", /^680\sΩ$/);
  await expect(page.getByRole("list", { name: "Supposed faults" }).getByRole("listitem")).toHaveCount(2);
  // Ctrl+Z takes it back step by step: the typed value, the keys, the fault.
  for (let i = 0; i < 12 && (await slider.count()) > 0; i += 1) await page.keyboard.press("Control+z");
  await expect(slider).toHaveCount(0);
  await expect(page.getByRole("list", { name: "Supposed faults" })).toContainText("R3 open");
  // Looking elsewhere loses nothing.
  await page.keyboard.press("Alt+2");
  await page.keyboard.press("Alt+4");
  await expect(page.getByRole("list", { name: "Supposed faults" })).toContainText("R3 open");
});

test("the figures are those of the command line, healthy and faulted", async ({ page, server, context }) => {
  await context.grantPermissions(["clipboard-read", "clipboard-write"]);
  const file = join(server.folder, "pump.trail");
  writeFileSync(file, demo("4-pump-controller"));
  const told = execFileSync(process.execPath, [
    join(ROOT, "scripts/hound.mjs"),
    "whatif",
    file,
    "--fault",
    "K1 open; B~D bridged",
    "--csv",
  ]).toString();
  await page.goto(`${await newJob(page, server, demo("4-pump-controller"))}/whatif`);
  await suppose(page, "K1 open; B~D bridged");
  await page.getByRole("tab", { name: "Chart" }).click();
  await page.getByRole("button", { name: "Copy as CSV" }).click();
  expect(await page.evaluate(() => navigator.clipboard.readText())).toBe(told);
  const volts = Number(/^E,node_volts,[^,]*,([^,]*),/m.exec(told)?.[1]);
  const row = page.getByRole("row", { name: /^E / });
  await expect(row.getByRole("cell").nth(1)).toHaveText(new RegExp(`^${volts.toPrecision(4)}\\sV$`));
});

test("what follows is said and can be let happen; map, curve and causes lead to faults; guesses are counted", async ({
  page,
  server,
}) => {
  await page.goto(`${await newJob(page, server, LANTERN)}/whatif`);
  await suppose(page, "LA1 shorted");
  const follows = page.getByRole("region", { name: "What follows" });
  await expect(follows).toContainText(/F1 blows.*times its rating/);
  await follows.getByRole("button", { name: "Let it happen" }).click();
  await expect(page.getByRole("list", { name: "Supposed faults" })).toContainText("F1 blown");
  await expect(follows).toHaveCount(0);
  // Lamps of so many ohms, without a rating, are judged by what they have in the healthy circuit.
  await page.goto(await server.bench("lantern", "whatif"));
  await suppose(page, "LA2 shorted");
  await page.getByRole("tab", { name: "Chart" }).click();
  await page.getByRole("button", { name: "P", exact: true }).click();
  await expect(page.getByRole("row", { name: /^LA2/ })).toContainText("dark");
  await expect(page.getByRole("row", { name: /^LA1/ })).toContainText("bright");
  await page.goto(await server.bench("vent", "whatif"));
  // Variants beside each other: something changed, a part out, a circuit of its own; gone again one by one.
  await page.getByRole("tab", { name: "Variants" }).click();
  const variants = page.getByRole("table", { name: "Variants side by side" });
  for (const column of ["R1 now 440", "R3 out", "BT1 24V ri=0: R1 220 + R2 1k"]) {
    await page.getByLabel("Another column").fill(column);
    await page.keyboard.press("Enter");
    await expect(variants.getByRole("columnheader", { name: column })).toBeVisible();
  }
  // 24 V over 220 Ω and 1 kΩ, by itself.
  await expect(
    variants
      .getByRole("row", { name: /^All supplies/ })
      .getByRole("cell")
      .last(),
  ).toContainText(/19\.7\smA/);
  await expect(variants.getByRole("row", { name: /^R3/ }).getByRole("cell").nth(2)).toContainText(/^[\d.]+\sV0\sA/);
  await page.getByLabel("Another column").fill("R99 out");
  await expect(page.getByText("there is no part R99 in this circuit")).toBeVisible();
  // The same goes onto paper.
  await page.goto(page.url().replace(/whatif.*/, "sheets/variants"));
  const sheet = page.getByRole("table", { name: "Variants side by side" });
  await expect(sheet.getByRole("row", { name: /^All supplies/ }).getByRole("cell")).toHaveText([
    "All supplies",
    /mA/,
    /mA/,
    /mA/,
    /^19\.7\smA, \d+\smW$/,
  ]);
  await page.goBack();
  await page.getByRole("tab", { name: "Variants" }).click();
  await variants.getByRole("button", { name: "Take out the column R3 out" }).click();
  await expect(variants.getByRole("columnheader")).toHaveCount(4);
  await page.getByRole("tab", { name: "Map" }).click();
  const map = page.getByRole("table", { name: "Signatures" });
  await expect(map.getByRole("row", { name: /^R3 open/ })).toContainText("▼");
  await map.getByRole("button", { name: "R3 open" }).click();
  await expect(page.getByRole("list", { name: "Supposed faults" })).toContainText("R3 open");
  await page.getByRole("tab", { name: "Curve" }).click();
  await page.getByRole("combobox", { name: "Volts at" }).selectOption("D");
  await page.getByRole("combobox", { name: "against the value of" }).selectOption("R5");
  await expect(page.getByText(/D 1\.950?\sV says: R5 between [\d.]+\sΩ and [\d.]+\sΩ/)).toBeVisible();
  await page.getByRole("tab", { name: "Causes" }).click();
  await page.getByLabel("What would give").fill("D 6");
  const causes = page.getByRole("list", { name: "Faults that would give it" });
  await expect(causes).toContainText(/R5 has climbed.*between/);
  await causes.getByRole("button", { name: /^R5 has climbed/ }).click();
  await page.getByRole("tab", { name: "Guess" }).click();
  // The board gives nothing away meanwhile.
  await expect(figure(page, /^node D/)).not.toHaveAccessibleName(/imagined/);
  await page.getByLabel("Guess for D").fill("6");
  await page.keyboard.press("Enter");
  await page.getByLabel("Guess for B").fill("3");
  await page.keyboard.press("Enter");
  await expect(page.getByText("1 of 2 right")).toBeVisible();
});

test("a suspect says why, how to prove it, and can be questioned, compared and ruled out", async ({ page, server }) => {
  await page.goto(await server.bench("vent", "suspects"));
  const suspects = page.getByRole("region", { name: "Suspects" });
  await suspects
    .locator("summary", { hasText: /^R3 open/ })
    .first()
    .click();
  // In the same words as where the job stands.
  await expect(suspects.locator("p", { hasText: "To prove it:" }).first()).toContainText(
    /volts at C, 1\.95\d* ±\s.* if it is, .* if not/,
  );
  await expect(suspects.getByRole("img", { name: /Measured, healthy and this suspect/ })).toBeVisible();
  await expect(figure(page, /^R3 470\sΩ/)).toHaveAccessibleName(/imagined R3 open/);
  await page.getByRole("textbox", { name: "Why not" }).fill("R2 open");
  const answer = page.getByRole("region", { name: "Why not?" });
  await expect(answer).toContainText(/Explains \d of 3; not/);
  await expect(answer).toContainText(/bits against/);
  await suspects.getByText("How it moved").click();
  await expect(suspects.getByRole("img", { name: /^Probability after each reading: .*R3/ })).toBeVisible();
  await suspects.getByText("Compare two").click();
  await suspects.getByLabel("beside this one").selectOption("nothing wrong");
  await expect(suspects.getByText(/Beside “nothing wrong”/).last()).toContainText("bits for");
  await page.getByLabel("Why, of R3").fill("replaced last week");
  await page.getByRole("button", { name: "Rule R3 out" }).click();
  await expect(page.getByRole("list", { name: "What is known of parts" })).toContainText("“replaced last week”");
  await expect(suspects.locator("summary").first()).toContainText(/^R4 open/);
  await page.reload();
  await page.getByRole("button", { name: "Forget that of R3" }).click();
  await expect(suspects.locator("summary").first()).toContainText(/5\d\s%|4\d\s%/);
});
