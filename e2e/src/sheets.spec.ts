import { expect, test } from "./server.ts";

const SHEETS = {
  expected: ["Nodes, against 0", "R1", "220"],
  reduction: ["The supply sees one resistance", "1/R"],
  measured: ["Expected as the meter shows it", "Readings, in the order taken"],
  variants: ["There is nothing to compare yet"],
  job: ["Complaint", "Leading suspects", "What it was"],
  report: ["Complaint", "Not closed yet"],
} as const;

test("a sheet is not printed before all that stands on it is worked out", async ({ page, server }) => {
  let arrive = () => {};
  const held = new Promise<void>((done) => {
    arrive = done;
  });
  await page.route(/worker.*\.js/, async (route) => {
    await held;
    await route.continue();
  });
  await page.goto(await server.bench("vent", "sheets/job"));
  await expect(page.getByRole("button", { name: "Working it out …" })).toBeDisabled();
  arrive();
  await expect(page.getByRole("button", { name: "Print or save as PDF" })).toBeEnabled();
  await expect(page.getByText(/^Where it stands: Not settled yet: R3 or R4\.$/)).toBeVisible();
});

for (const [sheet, words] of Object.entries(SHEETS)) {
  test(`the sheet “${sheet}” prints in black on white, on A4 and Letter, and says when and from which version`, async ({
    page,
    server,
  }) => {
    await page.goto(await server.bench("vent", `sheets/${sheet}`));
    const main = page.getByRole("main");
    for (const word of words) await expect(main).toContainText(word);
    await expect(page.getByText("Working them out")).toHaveCount(0);
    await expect(main.locator("[data-stamp]")).toHaveText(/: circuit version \d+, \d+ \w{3} \d{4}, \d\d:\d\d$/);
    for (const [paper, width] of [
      ["A4", 595],
      ["Letter", 612],
    ] as const) {
      await page.getByLabel("Paper").selectOption(paper);
      const pdf = (await page.pdf({ preferCSSPageSize: true })).toString("latin1");
      const box = /\/MediaBox \[0 0 ([\d.]+) ([\d.]+)\]/.exec(pdf);
      expect(Math.round(Number(box?.[1])), paper).toBe(width);
    }
    // The dark look stays on the screen: paper has no colour, and nothing but the sheet.
    await page.evaluate(() => document.documentElement.setAttribute("data-theme", "dark"));
    await page.emulateMedia({ media: "print" });
    await expect(page.getByRole("button", { name: /Print/ })).toBeHidden();
    const colours = await main.evaluate((element) => {
      const found = new Set<string>();
      for (const e of element.querySelectorAll("*")) {
        const { color, fill, stroke } = getComputedStyle(e);
        for (const c of [color, ...(e instanceof SVGElement ? [fill, stroke] : [])]) found.add(c);
      }
      return [...found];
    });
    const isGrey = (c: string) => {
      const [r, g, b] = (/rgba?\((\d+), (\d+), (\d+)/.exec(c)?.slice(1) ?? []).map(Number);
      return !/^rgb/.test(c) || (r === g && g === b);
    };
    expect(colours.filter((c) => !isGrey(c))).toEqual([]);
  });
}
