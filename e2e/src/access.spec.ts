import { readFileSync } from "node:fs";
import { createRequire } from "node:module";
import type { Page } from "@playwright/test";
import { IS_DEEP } from "./deep.ts";
import { foreignFonts, lostAt, PHONE, REFLOWS } from "./looks.ts";
import { allInFull, fromMenu } from "./menu.ts";
import { patient } from "./patience.ts";
import { expect, fresh, test } from "./server.ts";
import { STATES, settled } from "./states.ts";

/** What depends on the colours in force. */
const ABOUT_COLOURS = ["color-contrast", "link-in-text-block"];

type Rules = { readonly [id: string]: { readonly enabled: boolean } };
interface Violation {
  readonly id: string;
  readonly impact: string | null;
  readonly nodes: readonly {
    readonly html: string;
    readonly failureSummary?: string;
    readonly target: readonly unknown[];
  }[];
}

const AXE = readFileSync(createRequire(import.meta.url).resolve("axe-core/axe.min.js"), "utf8");

/** Puts axe into a page. */
async function bringAxe(page: Page) {
  await page.evaluate(AXE);
  if (IS_DEEP) return;
  await page.evaluate((rule) => {
    const { axe } = window as unknown as { axe: { configure: (spec: object) => void } };
    axe.configure({ rules: [rule] });
  }, CONTRAST_OF_MARKED);
}

/** In an ordinary run contrast is measured on two texts of each look in all states of a page; in a deep one on all texts. */
const CONTRAST_OF_MARKED = { id: "color-contrast", selector: "[data-look]" };

/** Marks two texts of each look, of one colour, size and weight on one ground, but for those of looks that were marked before. */
async function markLooks(page: Page) {
  await page.evaluate(() => {
    for (const marked of document.querySelectorAll("[data-look]")) marked.removeAttribute("data-look");
    const own = window as unknown as { looks?: Map<string, number> };
    own.looks ??= new Map();
    const counts = own.looks;
    for (const element of document.querySelectorAll("body *")) {
      const hasText = [...element.childNodes].some((n) => n.nodeType === Node.TEXT_NODE && n.textContent?.trim());
      if (!hasText && !(element instanceof HTMLInputElement || element instanceof HTMLSelectElement)) continue;
      if (!element.checkVisibility({ opacityProperty: true, visibilityProperty: true })) continue;
      const { color, fill, fontSize, fontWeight } = getComputedStyle(element);
      const ground: string[] = [];
      for (let up: Element | null = element; up; up = up.parentElement) {
        const { backgroundColor, backgroundImage, opacity } = getComputedStyle(up);
        ground.push(opacity);
        if (backgroundImage !== "none") ground.push(backgroundImage);
        if (backgroundColor === "rgba(0, 0, 0, 0)") continue;
        ground.push(backgroundColor);
        if (!/rgba|\//.test(backgroundColor)) break;
      }
      const isOff = element.closest("[disabled], [aria-disabled=true]") !== null;
      const look = [color, fill, fontSize, fontWeight, isOff, ...ground.filter((g) => g !== "1")].join(" ");
      const seen = counts.get(look) ?? 0;
      if (seen < 2) element.setAttribute("data-look", "");
      counts.set(look, seen + 1);
    }
  });
}

/** Walks on within the page where it runs, as a link does: it is opened once. Axe is there afterwards. */
async function goTo(page: Page, address: string) {
  const { pathname, search } = new URL(address);
  if (!(await page.evaluate(() => "axe" in window))) {
    await page.goto(address);
    await page.getByRole("heading").first().waitFor();
    await bringAxe(page);
    return;
  }
  await page.keyboard.press("Escape");
  const isElsewhere = new URL(page.url()).pathname !== pathname;
  const before = await page.evaluate((path) => {
    document.querySelector("h1")?.setAttribute("data-before", "");
    history.pushState(null, "", path);
    dispatchEvent(new PopStateEvent("popstate"));
    return document.title;
  }, pathname + search);
  // The view before stays until the next one is there: that has another title, or another heading.
  if (isElsewhere)
    await page.waitForFunction(
      (title) => document.title !== title || document.querySelector("h1[data-before]") === null,
      before,
    );
}

async function findings(page: Page, only: readonly string[] | null = null): Promise<string[]> {
  await markLooks(page);
  const asked: Rules = Object.fromEntries(BESIDES.map((id) => [id, { enabled: true }]));
  const violations = await page.evaluate(
    async ([rules, wanted]) => {
      const { axe } = window as unknown as {
        axe: { run: (context: object, options: object) => Promise<{ violations: Violation[] }> };
      };
      const { violations: found } = await axe.run(document, {
        ...(wanted ? { runOnly: { type: "rule", values: wanted } } : { rules }),
        resultTypes: ["violations"],
      });
      // What a drawing's part shows is several texts, never one run: its name says them in order, with words between.
      // What the page took away meanwhile was on its way out; where it stood may stand something else.
      const isDrawn = ({ target, html }: Violation["nodes"][number]) => {
        if (/^<g id="board-/.test(html)) return true;
        const element = document.querySelector(String(target[0]));
        return element === null || element.closest("[data-board]") !== null;
      };
      return found.map((v) =>
        v.id === "label-content-name-mismatch" ? { ...v, nodes: v.nodes.filter((n) => !isDrawn(n)) } : v,
      );
    },
    [asked, only] as const,
  );
  return violations
    .filter((v) => v.impact !== "minor" && v.impact !== null && v.nodes.length > 0)
    .map(
      (v) =>
        `${v.id} (${v.impact}): ${v.nodes.map((n) => `${n.html.slice(0, 160)} [${n.failureSummary?.split("\n")[1]?.trim() ?? ""}]`).join(" | ")}`,
    );
}

/** Rules that axe does not ask by itself, asked too. */
const BESIDES = [
  "label-content-name-mismatch",
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
  test(`${group}: nothing above minor for axe in light, dark and forced colours, nothing sticks out, shipped fonts only`, async ({
    page,
    server,
  }) => {
    test.setTimeout(patient(120_000));
    const found: string[] = [];
    for (const state of states) {
      if (state.at) {
        await goTo(page, await state.at(server));
        await settled(page);
      } else await page.keyboard.press("Escape");
      await state.once?.(page);
      await page.locator("h1").first().waitFor({ state: "attached" });
      await settled(page);
      const say = (look: string, list: readonly string[]) =>
        found.push(...list.map((f) => `${state.name}, ${look}: ${f}`));
      say("light", await findings(page));
      if (state.isView || IS_DEEP) {
        const theme = await page.evaluate(() => document.documentElement.getAttribute("data-theme") ?? "");
        const dress = (name: string) =>
          page.evaluate((value) => document.documentElement.setAttribute("data-theme", value), name);
        await dress("dark");
        say("dark", await findings(page, ABOUT_COLOURS));
        await page.emulateMedia({ forcedColors: "active" });
        say("forced", await findings(page, ABOUT_COLOURS));
        await page.emulateMedia({ forcedColors: "none" });
        await dress(theme);
      }
      if (state.isView) say("fonts", await foreignFonts(page));
      for (const sizes of [state.isView && PHONE, state.reflows && REFLOWS])
        if (sizes) say("sizes", await lostAt(page, sizes));
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

fresh(
  "the browser itself gives out the board's parts and nodes as options, named and selected",
  async ({ page, server }) => {
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
  },
);

/** Of each stage: its name in the row of stages, a field that is there, and what has the focus on arrival. */
const STAGES = [
  { stage: "Expected", field: "The chart", focused: "Expected" },
  { stage: "Circuit", field: "Trail of the circuit", focused: "Circuit" },
  { stage: "Readings", field: "Reading", focused: "Reading" },
  { stage: "What-if", field: "What if", focused: null },
  { stage: "Suspects", field: "Suspects", focused: "Suspects" },
  { stage: "Repair", field: "What to repair", focused: "Repair" },
] as const;

fresh(
  "every stage has its title, its landmarks, its heading with the focus on arrival, and names for all",
  async ({ page, server }) => {
    await page.goto(await server.bench("vent", "circuit"));
    await settled(page);
    for (const { stage, field, focused } of STAGES) {
      await page.getByRole("link", { name: stage, exact: true }).click();
      await expect(page).toHaveTitle(new RegExp(`^${stage} · Greenhouse vent drive`));
      await settled(page);
      const has = () =>
        page.evaluate(() => document.activeElement?.textContent || document.activeElement?.getAttribute("aria-label"));
      if (focused !== null) await expect.poll(has, stage).toBe(focused);
      const nodes = [...(await treeOf(page)).values()];
      for (const role of ["banner", "main", "navigation"]) expect(nodes.map((n) => n.role)).toContain(role);
      expect(nodes.map((n) => n.name)).toContain(field);
      const nameless = nodes.filter(
        (n) =>
          /^(button|link|textbox|combobox|checkbox|radio|tab|option|searchbox)$/i.test(n.role) && n.name.trim() === "",
      );
      expect(nameless, stage).toEqual([]);
    }
  },
);

fresh(
  "one sentence tells of a new ranking, after a while; places that are alike are told apart",
  async ({ page, server }) => {
    await page.clock.install();
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
    await expect(spoken).toHaveText(/^Settled: replace R3\. R3 open.*\d\s%, was .*\d\s%\.$/);
    // Whatever else would be said by then has stood long enough to be.
    await page.clock.runFor(10_000);
    const heard = await page.evaluate(() => (window as unknown as { heard: string[] }).heard.filter((t) => t !== ""));
    expect(heard.filter((t) => /%/.test(t))).toHaveLength(1);
    await line.fill("C 1.96");
    await page.keyboard.press("Enter");
    await expect(page.getByRole("button", { name: "Delete second C" })).toBeVisible();
    await expect(page.getByRole("button", { name: "Delete first C" })).toBeVisible();
  },
);

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
    await fromMenu(page, opener);
    await page.getByRole("dialog").waitFor();
    await page.keyboard.press("Escape");
    await expect.poll(focused).toBe("More");
  }
  // Opened again before the menu that went has given the focus back: this one stays.
  await page.getByRole("button", { name: "More", exact: true }).click();
  await page.getByRole("menu").waitFor();
  await page.evaluate(async () => {
    const more = [...document.querySelectorAll("button")].find((b) => b.textContent === "More");
    document.activeElement?.dispatchEvent(new KeyboardEvent("keydown", { key: "Escape", bubbles: true }));
    await new Promise((done) => setTimeout(done, 0));
    more?.dispatchEvent(new PointerEvent("pointerdown", { bubbles: true, cancelable: true, button: 0 }));
  });
  await page.getByRole("menuitem", { name: "Shortcuts" }).click();
  await page.getByRole("dialog").waitFor();
  await page.keyboard.press("Escape");
  await expect.poll(focused).toBe("More");
  await allInFull(page);
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
