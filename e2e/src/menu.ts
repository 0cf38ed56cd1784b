import type { Page } from "@playwright/test";

/** Chooses something of the job's menu. */
export async function fromMenu(page: Page, item: string) {
  await page.getByRole("button", { name: "More", exact: true }).click();
  await page.getByRole("menuitem", { name: item }).click();
}

/** Has all readings in the list, each in full, instead of the last three. */
export async function allInFull(page: Page) {
  const button = page.getByRole("button", { name: /^(?:\d+ of them mis-taken\? )?all \d+$|^the last three$/ });
  await button.waitFor();
  if ((await button.getAttribute("aria-expanded")) === "false") await button.click();
}
