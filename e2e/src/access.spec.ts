import { readFileSync } from "node:fs";
import { createRequire } from "node:module";
import type { Page } from "@playwright/test";
import { expect, test } from "./server.ts";
import { STATES, settled } from "./states.ts";

/** What depends on the colours in force. */
const ABOUT_COLOURS = ["color-contrast", "link-in-text-block"];

type Rules = { readonly [id: string]: { readonly enabled: boolean } };
interface Violation {
  readonly id: string;
  readonly impact: string | null;
  readonly nodes: readonly { readonly html: string; readonly failureSummary?: string }[];
}

const AXE = readFileSync(createRequire(import.meta.url).resolve("axe-core/axe.min.js"), "utf8");

async function run(page: Page, rules: Rules, only: readonly string[] | null, without = ""): Promise<Violation[]> {
  return page.evaluate(
    async ([ids, wanted, left]) => {
      const { axe } = window as unknown as {
        axe: { run: (context: object, options: object) => Promise<{ violations: Violation[] }> };
      };
      const context = left === "" ? { include: [["body"]] } : { include: [["body"]], exclude: [[left]] };
      const { violations } = await axe.run(left === "" ? document : context, {
        ...(wanted ? { runOnly: { type: "rule", values: wanted } } : { rules: ids }),
        resultTypes: ["violations"],
      });
      return violations;
    },
    [rules, only, without] as const,
  );
}

async function findings(page: Page, only: readonly string[] | null = null): Promise<string[]> {
  const besides: Rules = Object.fromEntries(BESIDES.map((id) => [id, { enabled: true }]));
  const violations = await run(page, besides, only);
  // What a drawing's part shows is several texts, never one run: its name says them in order, with words between.
  const named = only ? [] : await run(page, {}, ["label-content-name-mismatch"], "[data-board]");
  return [...violations, ...named]
    .filter((v) => v.impact !== "minor" && v.impact !== null)
    .map(
      (v) =>
        `${v.id} (${v.impact}): ${v.nodes.map((n) => `${n.html.slice(0, 160)} [${n.failureSummary?.split("\n")[1]?.trim() ?? ""}]`).join(" | ")}`,
    );
}

/** Rules that axe does not ask by itself, asked too. */
const BESIDES = [
  "css-orientation-lock",
  "focus-order-semantics",
  "hidden-content",
  "p-as-heading",
  "table-fake-caption",
  "td-has-header",
  "target-size",
  "region",
  "landmark-one-main",
  "landmark-unique",
  "page-has-heading-one",
  "heading-order",
  "scrollable-region-focusable",
  "aria-hidden-focus",
  "nested-interactive",
];

for (const [group, states] of Object.entries(STATES)) {
  test(`${group}: nothing above minor for axe in light, dark and forced colours`, async ({ page, server }) => {
    test.setTimeout(400_000);
    const found: string[] = [];
    for (const state of states) {
      await page.emulateMedia({ forcedColors: "none" });
      await page.goto(await state.at(server));
      await page.getByRole("heading").first().waitFor();
      await settled(page);
      await state.once?.(page);
      await settled(page);
      await page.evaluate(AXE);
      const say = (look: string, list: string[]) => found.push(...list.map((f) => `${state.name}, ${look}: ${f}`));
      say("light", await findings(page));
      await page.evaluate(() => document.documentElement.setAttribute("data-theme", "dark"));
      say("dark", await findings(page, ABOUT_COLOURS));
      await page.emulateMedia({ forcedColors: "active" });
      say("forced", await findings(page, ABOUT_COLOURS));
    }
    expect(found.join("\n")).toBe("");
  });
}

interface Seen {
  readonly role: string;
  readonly name: string;
  readonly selected: boolean;
  readonly children: readonly string[];
}

/** The browser's own accessibility tree: what a screen reader is given. */
async function treeOf(page: Page): Promise<Map<string, Seen>> {
  const client = await page.context().newCDPSession(page);
  const { nodes } = await client.send("Accessibility.getFullAXTree");
  await client.detach();
  return new Map(
    nodes
      .filter((n) => !n.ignored)
      .map((n) => [
        n.nodeId,
        {
          role: String(n.role?.value ?? ""),
          name: String(n.name?.value ?? ""),
          selected: n.properties?.find((p) => p.name === "selected")?.value.value === true,
          children: n.childIds ?? [],
        },
      ]),
  );
}

test("the browser itself gives out the board's parts and nodes as options, named and selected", async ({
  page,
  server,
}) => {
  await page.goto(await server.bench("pump", "readings"));
  await page.getByRole("heading", { name: "Settled: replace J2" }).waitFor();
  const board = page.getByRole("listbox", { name: /Board of/ });
  await board.focus();
  await page.keyboard.press("Home");
  const tree = await treeOf(page);
  const list = [...tree.values()].find((n) => n.role === "listbox");
  const options = (list?.children ?? []).map((id) => tree.get(id)).filter((n) => n !== undefined);
  expect(options.map((o) => o.role)).toEqual(options.map(() => "option"));
  expect(options.length).toBeGreaterThan(20);
  for (const option of options) expect(option.name).not.toBe("");
  expect(options[0]).toMatchObject({ name: expect.stringMatching(/^node \+, expected 2\d/), selected: true });
  expect(options.filter((o) => o.selected)).toHaveLength(1);
  expect(options.some((o) => /^J2, from D to Q, .*suspected, 99(\.\d)?\s%/.test(o.name))).toBe(true);
});

for (const [stage, fields] of Object.entries({
  circuit: ["Trail of the circuit"],
  expected: ["The chart"],
  readings: ["Reading"],
  whatif: ["What if"],
  suspects: ["Suspects"],
  repair: ["What to repair"],
})) {
  test(`stage ${stage} has its title, its landmarks, its heading with the focus on arrival, and names for all`, async ({
    page,
    server,
  }) => {
    await page.goto(await server.bench("vent", stage === "expected" ? "circuit" : "expected"));
    await settled(page);
    const name =
      {
        circuit: "Circuit",
        expected: "Expected",
        readings: "Readings",
        whatif: "What-if",
        suspects: "Suspects",
        repair: "Repair",
      }[stage] ?? "";
    await page.getByRole("link", { name, exact: true }).click();
    await expect(page).toHaveTitle(new RegExp(`^${name} · Greenhouse vent drive`));
    await settled(page);
    const focused = await page.evaluate(
      () => document.activeElement?.textContent || document.activeElement?.getAttribute("aria-label"),
    );
    if (stage === "readings") expect(focused).toBe("Reading");
    else if (stage !== "whatif") expect(focused).toBe(name);
    const nodes = [...(await treeOf(page)).values()];
    for (const role of ["banner", "main", "navigation"]) expect(nodes.map((n) => n.role)).toContain(role);
    for (const field of fields) expect(nodes.map((n) => n.name)).toContain(field);
    const nameless = nodes.filter(
      (n) =>
        /^(button|link|textbox|combobox|checkbox|radio|tab|option|searchbox)$/i.test(n.role) && n.name.trim() === "",
    );
    expect(nameless).toEqual([]);
  });
}

test("one sentence tells of a new ranking, after a while; places that are alike are told apart", async ({
  page,
  server,
}) => {
  await page.goto(await server.bench("vent", "readings"));
  await settled(page);
  const spoken = page.locator("main > [data-spoken]");
  await expect(spoken).toHaveText(/ \d+\s%.* Next: volts at /);
  const line = page.getByLabel("Reading", { exact: true });
  await page.evaluate(() => {
    const heard: string[] = [];
    (window as unknown as { heard: string[] }).heard = heard;
    const watch = (root: Node) =>
      new MutationObserver(() => heard.push(root.textContent ?? "")).observe(root, {
        childList: true,
        characterData: true,
        subtree: true,
      });
    for (const live of document.querySelectorAll("[role=status]:not(:has(button)), [aria-live]")) watch(live);
  });
  await line.pressSequentially("C 1.95");
  await page.keyboard.press("Enter");
  await expect(spoken).toHaveText(/^R3 open.*\d\s%, was .*\d\s%\./);
  await page.waitForTimeout(1500);
  const heard = await page.evaluate(() => (window as unknown as { heard: string[] }).heard.filter((t) => t !== ""));
  expect(heard.filter((t) => /%/.test(t))).toHaveLength(1);
  await line.fill("C 1.96");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("button", { name: "Delete second C" })).toBeVisible();
  await expect(page.getByRole("button", { name: "Delete first C" })).toBeVisible();
});

test("mistakes in the trail are spoken and tied to the editor", async ({ page, server }) => {
  await page.goto(await server.bench("vent", "circuit"));
  await page.locator(".cm-content").fill("BT1 9V: R1 1O0");
  await expect(page.locator("[data-spoken]").filter({ hasText: "Line 1, column 12" })).toHaveText(
    /not understood.*Alt\+Enter: write 100/,
  );
  const described = await page.locator(".cm-content").getAttribute("aria-describedby");
  await expect(page.locator(`#${described}`)).toContainText("not understood");
});

test("the focus stays in the page: after dialogs and menus at their opener, after deletions at the neighbour", async ({
  page,
  server,
}) => {
  await page.goto(await server.bench("pump", "readings"));
  await settled(page);
  const focused = () =>
    page.evaluate(() =>
      (document.activeElement?.getAttribute("aria-label") ?? document.activeElement?.textContent ?? "").trim(),
    );
  for (const opener of ["Timeline of this job", "Shortcuts"]) {
    await page.getByRole("button", { name: opener }).click();
    await page.getByRole("dialog").waitFor();
    await page.keyboard.press("Escape");
    await expect.poll(focused).toBe(opener);
  }
  await page.getByRole("button", { name: "Delete B", exact: true }).click();
  await expect.poll(focused).toMatch(/^Delete /);
  await page.getByRole("link", { name: "Circuit", exact: true }).click();
  await page.getByRole("button", { name: "Export" }).click();
  await page.getByRole("menuitem", { name: /Earlier versions/ }).click();
  await page.getByRole("dialog").waitFor();
  await page.keyboard.press("Escape");
  await expect.poll(focused).toBe("Export");
  await page.goto(`${server.address}/jobs`);
  await page
    .getByRole("button", { name: /^Delete / })
    .first()
    .click();
  await expect.poll(focused).toMatch(/^Delete /);
});

test("nothing is lost at 320 px, with text half as large again, with wide text spacing", async ({ page, server }) => {
  test.setTimeout(180_000);
  for (const address of [
    `${server.address}/jobs`,
    await server.bench("pump", "readings"),
    await server.bench("pump", "circuit"),
    await server.bench("pump", "expected"),
    await server.bench("pump", "suspects"),
    await server.bench("pump", "sheets/job"),
  ]) {
    await page.setViewportSize({ width: 320, height: 640 });
    await page.goto(address);
    await settled(page);
    const overflow = () => page.evaluate(() => document.documentElement.scrollWidth - window.innerWidth);
    await expect.poll(overflow, address).toBeLessThanOrEqual(0);
    await page.setViewportSize({ width: 1280, height: 800 });
    await page.evaluate(() => {
      document.documentElement.style.fontSize = "150%";
    });
    await expect.poll(overflow, `${address} at 150 %`).toBeLessThanOrEqual(0);
    await page.evaluate(() => {
      document.documentElement.style.fontSize = "";
    });
    await page.addStyleTag({
      content: "* { letter-spacing: 0.12em !important; word-spacing: 0.16em !important; line-height: 1.5 !important }",
    });
    await expect.poll(overflow, `${address}, spaced`).toBeLessThanOrEqual(0);
    const cut = await page.evaluate(() =>
      [...document.querySelectorAll<HTMLElement>("main button, header button")]
        .filter(
          (b) =>
            b.offsetParent !== null &&
            b.scrollWidth > b.clientWidth + 2 &&
            !b.className.includes("truncate") &&
            getComputedStyle(b).overflow === "hidden",
        )
        .map((b) => b.textContent),
    );
    expect(cut, address).toEqual([]);
  }
});
