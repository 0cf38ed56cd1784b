import type { Page } from "@playwright/test";
import { expect, WINDOW } from "./server.ts";

const SPACED = "* { letter-spacing: 0.12em !important; word-spacing: 0.16em !important; line-height: 1.5 !important }";

/** A size of window or of letters at which nothing may stick out. */
export interface Size {
  readonly name: string;
  readonly window?: { readonly width: number; readonly height: number };
  /** Style sheet on top of the page's. */
  readonly style?: string;
  /** Buttons whose words do not fit are found, too. */
  readonly isForWords?: true;
}

export const PHONE: readonly Size[] = [{ name: "390 px", window: { width: 390, height: 800 } }];
/** WCAG 2.2, 1.4.4, 1.4.10 and 1.4.12. */
export const REFLOWS: readonly Size[] = [
  { name: "320 px", window: { width: 320, height: 640 } },
  { name: "letters at 150 %", style: "html { font-size: 150% }" },
  { name: "wide spacing", style: SPACED, isForWords: true },
];

/** What sticks out or is cut off at some sizes; the page is as it was afterwards. */
export async function lostAt(page: Page, sizes: readonly Size[]): Promise<string[]> {
  const lost: string[] = [];
  for (const { name, window, style, isForWords } of sizes) {
    if (window) await page.setViewportSize(window);
    const sheet = style === undefined ? null : await page.addStyleTag({ content: style });
    const overflow = () => page.evaluate(() => document.documentElement.scrollWidth - innerWidth);
    // Boards and charts are drawn anew for a new size.
    await expect
      .poll(overflow)
      .toBeLessThanOrEqual(0)
      .catch(async () => lost.push(`${name}: ${await overflow()} px stick out`));
    if (isForWords) lost.push(...(await cutWords(page)).map((words) => `${name}: “${words}” is cut off`));
    await sheet?.evaluate((element: Element) => element.remove());
    if (window) await page.setViewportSize(WINDOW);
  }
  return lost;
}

function cutWords(page: Page): Promise<string[]> {
  return page.evaluate(() =>
    [...document.querySelectorAll<HTMLElement>("main button, header button")]
      .filter(
        (b) =>
          b.offsetParent !== null &&
          b.scrollWidth > b.clientWidth + 2 &&
          !b.className.includes("truncate") &&
          getComputedStyle(b).overflow === "hidden",
      )
      .map((b) => b.textContent ?? ""),
  );
}

/** Families of fonts in use that do not come with the application. */
export async function foreignFonts(page: Page): Promise<string[]> {
  // A still copy in the page's place: nothing that is being worked out can take a node away during the look.
  await page.evaluate(() => {
    const copy = document.body.cloneNode(true) as HTMLElement;
    for (const fold of copy.querySelectorAll("details")) fold.open = true;
    Object.assign(window, { real: document.body });
    document.body.replaceWith(copy);
    // One text of each family, weight, slant and set of characters: what one of them is drawn with, all are.
    const seen = new Set<string>();
    for (const element of copy.querySelectorAll("*")) {
      const own = [...element.childNodes].filter((n) => n.nodeType === Node.TEXT_NODE).map((n) => n.textContent);
      const text = element instanceof HTMLInputElement ? element.value + element.placeholder : own.join("");
      if (text.trim() === "") continue;
      const { fontFamily, fontWeight, fontStyle } = getComputedStyle(element);
      const rare = [...new Set(text.replace(/[ -~]/g, ""))].sort().join("");
      const look = [fontFamily, fontWeight, fontStyle, rare].join(" ");
      if (!seen.has(look)) element.setAttribute("data-font", "");
      seen.add(look);
    }
  });
  const client = await page.context().newCDPSession(page);
  await client.send("DOM.enable");
  await client.send("CSS.enable");
  const { root } = await client.send("DOM.getDocument", { depth: 1 });
  const { nodeIds } = await client.send("DOM.querySelectorAll", { nodeId: root.nodeId, selector: "body [data-font]" });
  expect(nodeIds.length).toBeGreaterThan(2);
  const looked = await Promise.all(nodeIds.map((nodeId) => client.send("CSS.getPlatformFontsForNode", { nodeId })));
  await client.detach();
  await page.evaluate(() => document.body.replaceWith((window as unknown as { real: HTMLElement }).real));
  const foreign = looked.flatMap(({ fonts }) => fonts.filter((f) => !f.isCustomFont).map((f) => f.familyName));
  return [...new Set(foreign)];
}
