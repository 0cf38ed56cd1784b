import { AxeBuilder } from "@axe-core/playwright";
import type { Page } from "@playwright/test";
import { expect, test } from "./server.ts";
import { STATES, settled } from "./states.ts";

/** What depends on the colours in force. */
const ABOUT_COLOURS = ["color-contrast", "link-in-text-block"];

async function findings(page: Page, only?: readonly string[]): Promise<string[]> {
  const builder = new AxeBuilder({ page });
  if (only) builder.withRules([...only]);
  else {
    builder.options({ rules: Object.fromEntries(BESIDES.map((id) => [id, { enabled: true }])) });
  }
  const { violations } = await builder.analyze();
  // What a drawing's part shows is several texts, never one run: its name says them in order, with words between.
  const named = only
    ? []
    : await new AxeBuilder({ page })
        .withRules(["label-content-name-mismatch"])
        .exclude("[data-board]")
        .analyze()
        .then((r) => r.violations);
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
