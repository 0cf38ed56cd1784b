import { jobOfForty, openPage } from "./page.ts";
import { row } from "./timing.ts";

/** Frames while a value is dragged in stage What-if, on the forty-part demo with eight readings, in Chromium. */
const { page, address, close } = await openPage();
try {
  const id = await jobOfForty(address);
  await page.goto(`${address}/jobs/${id}/readings`);
  const line = page.getByLabel("Reading", { exact: true });
  for (const words of ["M1 35.4", "M2 35.4", "M3 35.4", "K1 4.1", "K2 4.0", "L 35.4", "N 10.4", "Z 0.5"]) {
    await line.fill(words);
    await page.keyboard.press("Enter");
    await page.waitForTimeout(150);
  }
  await page.goto(`${address}/jobs/${id}/whatif`);
  const field = page.getByRole("textbox", { name: "What if" });
  await field.fill("R11 20");
  await page.keyboard.press("Enter");
  const slider = page.getByRole("slider", { name: "Value of R11" });
  await slider.waitFor();
  await page.waitForTimeout(6000);
  const box = await slider.boundingBox();
  if (!box) throw new Error("no slider");
  // As text: what compiles this file would name inner functions by a helper that the page does not have.
  await page.evaluate(`
    window.frames_ = []; window.last_ = performance.now();
    requestAnimationFrame(function frame(now) { frames_.push(now - last_); last_ = now; requestAnimationFrame(frame); });
  `);
  await page.mouse.move(box.x + box.width * 0.55, box.y + box.height / 2);
  await page.mouse.down();
  for (let i = 0; i < 180; i += 1) {
    await page.mouse.move(box.x + box.width * (0.55 + 0.4 * Math.sin(i / 25)), box.y + box.height / 2);
    await page.waitForTimeout(8);
  }
  await page.mouse.up();
  const frames = (await page.evaluate("frames_")) as number[];
  const sorted = frames.slice(2).sort((a, b) => a - b);
  row("");
  row("dragging a value, forty parts", "median ms", "95 %", "worst");
  row("a frame takes", sorted[sorted.length >> 1], sorted[Math.floor(sorted.length * 0.95)], sorted[sorted.length - 1]);
} finally {
  await close();
}
