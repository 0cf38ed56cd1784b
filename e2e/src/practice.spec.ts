import { readFileSync } from "node:fs";
import type { Page } from "@playwright/test";
import { patient } from "./patience.ts";
import { alone, expect, test } from "./server.ts";

const board = (page: Page) => page.getByRole("listbox", { name: /^Board of/ });

/** A lead to a node by keys alone: the lead, the board, the node's name, Enter. */
async function put(page: Page, lead: "r" | "b", node: string) {
  await board(page).focus();
  await page.keyboard.press(lead);
  // Names that are typed fast are gone to.
  const option = page.getByRole("option", { name: new RegExp(`^node ${node}\\b`) });
  for (let n = 0; n < 30 && (await option.getAttribute("aria-selected")) !== "true"; n += 1)
    await page.keyboard.press("ArrowRight");
  await page.keyboard.press("Enter");
  const name = lead === "r" ? "Red lead to" : "Black lead to";
  await expect(page.getByLabel(name)).toHaveValue(node);
}

async function focusOn(page: Page, name: string | RegExp) {
  await page
    .getByRole("button", { name, exact: typeof name === "string" })
    .first()
    .focus();
}

test("a newcomer hunts three lamps from the jobs page to the marks, by keys alone, with no word of the README", async ({
  page,
  server,
}) => {
  test.setTimeout(patient(60_000));
  await page.goto(`${server.address}/jobs`);
  await page.getByRole("navigation", { name: "Places" }).getByRole("link", { name: "Practice" }).focus();
  await page.keyboard.press("Enter");
  await focusOn(page, "Hunt: Three lamps, one dark");
  await page.keyboard.press("Enter");
  await expect(page.getByLabel("Display")).toBeVisible();
  const complaint =
    (await page
      .getByText(/^“.*”$/)
      .first()
      .textContent()) ?? "";
  const [dark] = /LA\d/.exec(complaint) ?? [];
  expect(complaint).toMatch(/LA\d/);
  await focusOn(page, "20 V");
  await page.keyboard.press("Space");
  await put(page, "b", "0");
  // Before and behind the plug of the dark lamp.
  const node = { LA1: "B", LA2: "C", LA3: "D" }[dark as "LA1"];
  await put(page, "r", node);
  await page.keyboard.press("w");
  await expect(page.getByRole("list", { name: "Readings" }).getByRole("listitem").first()).toContainText(node);
  const shown = (await page.getByLabel("Display").textContent()) ?? "";
  const volts = Number(/[\d.]+/.exec(shown)?.[0]);
  const wrong = volts > 6 ? (dark as string) : `J${dark?.slice(2)}`;
  await page.keyboard.press("n");
  const dialog = page.getByRole("dialog", { name: "What is wrong?" });
  // A name that is wrong costs, and the hunt goes on.
  await dialog.getByRole("button", { name: "F1", exact: true }).focus();
  await page.keyboard.press("Space");
  await dialog.getByRole("button", { name: "It is F1" }).focus();
  await page.keyboard.press("Enter");
  await expect(dialog.getByRole("alert")).toContainText(/Not F1.*6.min/);
  await dialog.getByRole("button", { name: wrong, exact: true }).focus();
  await page.keyboard.press("Space");
  await dialog.getByRole("button", { name: `It is ${wrong}` }).focus();
  await page.keyboard.press("Enter");
  await expect(page.getByRole("heading", { level: 2 }).first()).toContainText(`Found: ${wrong} open`);
  const way = page.getByRole("region", { name: "Your way" });
  await expect(way).toContainText(new RegExp(`${node}: `));
  await expect(way).toContainText(/named F1/);
  await expect(way.getByRole("heading")).toContainText("6½");
  await expect(page.getByRole("region", { name: "The best way" })).toContainText(`Then it names ${wrong}`);
  await page.getByRole("link", { name: "Another hunt" }).click();
  await expect(page.getByRole("region", { name: "How you get on" })).toContainText("0 of 1 named rightly at once");
});

test("what misleads a meter misleads this one, and each trap is said: no leads, amperes across, ohms under power", async ({
  page,
  server,
}) => {
  const id = crypto.randomUUID();
  const trail = "BT1 12V ri=0.3: F1 2A + [A] LA1 6 + [B] LA2 6 + [C] LA3 6";
  // What is fed is live, whatever is hidden behind it.
  const hunt = { id, title: "A string in a row", trail, kinds: ["open"], parts: ["LA2", "LA3"] };
  expect((await page.request.post(`${server.address}/api/hunts`, { data: hunt })).status()).toBe(201);
  await page.goto(`${server.address}/practice/${id}`);
  const said = page.getByRole("alert");
  const read = page.getByRole("button", { name: /^Write it down/ });
  await read.click();
  await expect(said).toContainText("a lead is in the air");
  await page.getByLabel("Red lead to").selectOption("A");
  await page.getByLabel("Black lead to").selectOption("0");
  await page.getByRole("button", { name: "20 V", exact: true }).click();
  await expect(page.getByLabel("Display")).toContainText(/V/);
  await page.getByRole("button", { name: "20 kΩ", exact: true }).click();
  await read.click();
  await expect(said).toContainText("tested with the power on");
  await page.getByRole("button", { name: "10 A", exact: true }).click();
  await page.getByRole("button", { name: "Red into 10 A" }).click();
  await expect(said).toContainText("set to amperes: it is a short");
  // What was blown stays blown over a visit elsewhere.
  await page.reload();
  await page.getByRole("button", { name: "10 A", exact: true }).click();
  await expect(page.getByLabel("Display")).toContainText(/^−?0\.0/);
  await page.getByRole("link", { name: "Practice" }).click();
  await expect(page.getByRole("list", { name: "Hunts under way" })).toContainText("A string in a row");
});

alone("while the server is away a hunt waits and says so, and exercises on paper go on", async ({ page, server }) => {
  await page.goto(`${server.address}/practice`);
  await page.getByRole("link", { name: /^What does it rule out/ }).click();
  await expect(page.getByText("Question 1 of")).toBeVisible();
  await page.getByRole("link", { name: "Practice" }).click();
  await page.getByRole("button", { name: /^Hunt: A relay/ }).click();
  await page.getByLabel("Display").waitFor();
  const hunt = page.url();
  await server.kill();
  await page.getByRole("button", { name: /^Write it down/ }).click();
  await expect(page.getByRole("alert")).toContainText("the server does not answer");
  await page.getByRole("link", { name: "Practice" }).click();
  await page.getByRole("link", { name: /^Series, parallel/ }).click();
  await expect(page.getByText("Question 1 of 5")).toBeVisible();
  for (let n = 1; n <= 5; n += 1) {
    await page.keyboard.press("1");
    await page.getByRole("button", { name: n < 5 ? "Next" : "How it went" }).click();
  }
  await expect(page.getByRole("heading", { name: /of 5 right/ })).toBeVisible();
  await server.start();
  await page.goto(`${server.address}/practice`);
  await expect(page.getByRole("link", { name: /Series, parallel or neither/ })).toContainText("1 done", {
    timeout: patient(15_000),
  });
  await page.goto(hunt);
  await page.getByRole("button", { name: /^Write it down/ }).click();
  await expect(page.getByRole("alert")).toContainText("a lead is in the air");
});

test("every exercise on paper is answered to its end: a choice by its number, a figure, ticks, a trail, a chart", async ({
  page,
  server,
}) => {
  test.setTimeout(patient(90_000));
  for (const kind of ["lamps", "reduce", "meter", "tangled", "predict", "ruleOut"]) {
    await page.goto(`${server.address}/practice/paper/${kind}?seed=11`);
    await expect(page.getByText(/^Question 1 of/)).toBeVisible();
    const said = page.getByRole("main").getByRole("alert");
    for (let n = 0; n < 20; n += 1) {
      if (await page.getByRole("heading", { name: / right$/ }).isVisible()) break;
      const [figure, trail, tick] = [
        page.getByLabel("Your figure"),
        page.getByLabel("The circuit as a trail"),
        page.getByRole("main").getByRole("checkbox").first(),
      ];
      if (await figure.isVisible()) {
        await figure.fill("much");
        await page.keyboard.press("Enter");
        await expect(said).not.toBeEmpty();
        await figure.fill("1");
        await page.keyboard.press("Enter");
      } else if (await trail.isVisible()) {
        // A wrong walk says where it differs.
        await trail.fill("BT1: R1 + R2");
        await page.getByRole("button", { name: "Mark it" }).click();
      } else if (await tick.isVisible()) {
        await tick.check();
        await page.getByRole("button", { name: "Mark it" }).click();
      } else await page.keyboard.press("1");
      const next = page.getByRole("button", { name: /^(Next|How it went)$/ });
      await expect(next).toBeFocused();
      await expect(said).toContainText(/Right|No|In part/);
      await page.keyboard.press("Enter");
    }
    await expect(page.getByRole("heading", { name: / right$/ }), kind).toBeVisible();
  }
  // Of a circuit that was chosen: of the first hunts, or of a job.
  for (const [circuit, part] of [
    ["A relay that does not pull", "K1"],
    [/^Pump controller/, "LA1"],
  ] as const) {
    await page.goto(`${server.address}/practice`);
    const choice = page.getByLabel("Circuit of these exercises");
    const option = choice.getByRole("option", { name: circuit }).first();
    await choice.selectOption(await option.getAttribute("value").then((value) => value ?? ""));
    await page.getByRole("link", { name: /^Series, parallel/ }).click();
    await expect(page.getByRole("option", { name: new RegExp(`^${part} `) })).toBeVisible();
  }
  await page.goto(`${server.address}/practice/paper/chart?seed=7`);
  await page.getByLabel("My V(R1)").fill("9999");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("main")).toContainText("0 right, 1 wrong");
  // The board shows none of what is asked.
  await expect(board(page)).not.toContainText(/expected/);
  await page.reload();
  await expect(page.getByLabel("My V(R1)")).toHaveValue("9999");
  await page.getByRole("button", { name: "That is all" }).click();
  await expect(page.getByRole("heading", { name: /^0 of \d+ right/ })).toBeVisible();
});

test("a set is made, handed out as a file, worked through under a name, and its results go out as one table", async ({
  page,
  server,
}) => {
  test.setTimeout(patient(60_000));
  await page.goto(`${server.address}/practice`);
  await page.getByText("Make a set to hand out").click();
  await page.getByLabel("Name of the set").fill("First week");
  const saved = page.waitForEvent("download");
  await page.getByRole("button", { name: "Save the set" }).click();
  const file = readFileSync(await (await saved).path(), "utf8");
  expect(JSON.parse(file)).toMatchObject({ format: "clever-hound-set", name: "First week" });
  const set = page.getByRole("article").filter({ hasText: "First week" });
  await set.getByRole("button", { name: /^Take away/ }).click();
  await set.getByRole("button", { name: /^Gone for good/ }).click();
  await expect(set).toHaveCount(0);
  const [chooser] = await Promise.all([
    page.waitForEvent("filechooser"),
    page.getByRole("button", { name: "Open a set or a run" }).click(),
  ]);
  await chooser.setFiles({ name: "set.json", mimeType: "application/json", buffer: Buffer.from(file) });
  await page.getByLabel("Your name, for the results").fill("Ann");
  await set.getByRole("button", { name: "Begin" }).click();
  await page.getByLabel("Display").waitFor();
  await page.keyboard.press("n");
  await page.getByRole("button", { name: /^Give up/ }).click();
  await expect(page.getByRole("heading", { name: /^It was: / })).toBeVisible();
  await page.getByRole("link", { name: "Another hunt" }).click();
  await set.getByRole("link", { name: "Begin" }).click();
  await expect(page.getByText("Question 1 of 5")).toBeVisible();
  for (let n = 1; n <= 5; n += 1) {
    await page.keyboard.press("3");
    await page.getByRole("button", { name: /^(Next|How it went)$/ }).click();
  }
  await page.getByRole("link", { name: "Back to practice" }).click();
  const other = {
    ...{ format: "clever-hound-results", version: 1, set: "First week" },
    results: [
      {
        ...{ who: "Bo", exercise: 1, title: "Three lamps, one dark", what: "hunt", isDone: true, share: 1 },
        ...{ minutes: 2.5, best: 2, wrongNames: 0, unsafe: 0, at: "2026-01-01T00:00:00.000Z" },
      },
    ],
  };
  const given = page.waitForEvent("filechooser");
  const table = page.waitForEvent("download");
  await set.getByRole("button", { name: "… with files of learners" }).click();
  const buffer = Buffer.from(JSON.stringify(other));
  await (await given).setFiles({ name: "bo.json", mimeType: "application/json", buffer });
  const rows = readFileSync(await (await table).path(), "utf8")
    .trim()
    .split("\r\n");
  expect(rows).toHaveLength(4);
  expect(rows[0]).toMatch(/^learner,exercise,title/);
  expect(rows.slice(1).map((r) => r.split(",").slice(0, 2).join(" "))).toEqual(["Ann 1", "Ann 2", "Bo 1"]);
});

test("a hunt by touch alone on a tablet: nodes tapped for the leads, the meter's face, a part, the name", async ({
  browser,
  server,
}) => {
  const context = await browser.newContext({
    hasTouch: true,
    viewport: { width: 820, height: 1180 },
    serviceWorkers: "block",
  });
  const page = await context.newPage();
  await page.goto(`${server.address}/practice`);
  await page.getByRole("button", { name: "Hunt: Three lamps, one dark" }).tap();
  await page.getByLabel("Display").waitFor();
  const node = (name: string) => page.getByRole("option", { name: new RegExp(`^node ${name}\\b`) });
  await page.getByRole("button", { name: "Black goes to what is picked next" }).tap();
  await node("0").tap();
  await expect(page.getByLabel("Black lead to")).toHaveValue("0");
  // The other lead has its turn by itself.
  await node("A").tap();
  await expect(page.getByLabel("Red lead to")).toHaveValue("A");
  await page.getByRole("button", { name: "20 V", exact: true }).tap();
  await page.getByRole("button", { name: /^Write it down/ }).tap();
  await expect(page.getByRole("list", { name: "Readings" }).getByRole("listitem").first()).toContainText("A");
  await page.getByRole("option", { name: /^LA1 / }).tap();
  await page.getByRole("button", { name: /^Look, / }).tap();
  await expect(page.getByRole("list", { name: "Readings" })).toContainText("LA1");
  // A current: power off, a lead off, the meter between, power on.
  await page.getByRole("button", { name: /^Power off/ }).tap();
  await page.getByRole("option", { name: /^F1 / }).tap();
  await page.getByRole("button", { name: /^Take a lead off/ }).tap();
  const off = await page.getByRole("heading", { name: /^F1, its lead off / }).textContent();
  await page.getByRole("button", { name: "Red goes to what is picked next" }).tap();
  await page.getByRole("option", { name: off?.endsWith("+") ? /^node \+/ : /^node A\b/ }).tap();
  await page.getByRole("option", { name: /^F1 / }).tap();
  await page.getByRole("button", { name: "Black to its free end" }).tap();
  await page.getByRole("button", { name: "10 A", exact: true }).tap();
  await page.getByRole("button", { name: "Red into 10 A" }).tap();
  await page.getByRole("button", { name: /^Power is off/ }).tap();
  await expect(page.getByLabel("Display")).toContainText(/^−?(?:0\.[78]|1\.2)\d/);
  await page.getByRole("button", { name: /^Write it down/ }).tap();
  await expect(page.getByRole("list", { name: "Readings" })).toContainText(/F1.*A/);
  await page.getByRole("button", { name: "Name the fault" }).tap();
  await page.getByRole("button", { name: /^Give up/ }).tap();
  await expect(page.getByRole("heading", { name: /^It was: / })).toBeVisible();
  await context.close();
});
