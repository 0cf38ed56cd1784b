// Takes the pictures in docs/screenshots afresh, from the demo data.
import { spawn } from "node:child_process";
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { browser, build, install, root, say } from "./bringUp.mjs";
import { addClosedJobs } from "./closedJobs.mjs";

install();
browser();
build();
const { chromium } = await import("@playwright/test");
const folder = mkdtempSync(join(tmpdir(), "hound-pictures-"));
const env = { ...process.env, PORT: "0", HOUND_DB: join(folder, "db.sqlite"), HOUND_DEMO: "demo" };
const server = spawn(process.execPath, [join(root, "server", "dist", "main.js")], { cwd: root, env });
const address = await new Promise((done) => {
  let output = "";
  server.stdout.on("data", (chunk) => {
    output += chunk;
    const ready = /ready: (\S+?)\/?\s/.exec(output);
    if (ready) done(ready[1]);
  });
});

const VIEWS = [
  { name: "jobs", path: "/jobs" },
  { name: "library", path: "/library" },
  {
    name: "sums",
    path: "/sums",
    fill: {
      "In series, in parallel": ["1k 5% 2k2 470 1%"],
      "Divider, with its load": ["24V", "10k 5%", "4k7 5%", "47k"],
      "Percent error": ["470", "512", "5%", "1%"],
    },
  },
  { name: "workshop", path: "/workshop" },
  { name: "circuit", job: "soil", stage: "circuit", press: "R4" },
  { name: "parts", job: "pump", stage: "circuit", tab: "Parts" },
  { name: "breadboard", job: "pump", stage: "circuit", tab: "Breadboard" },
  { name: "expected", job: "vent", stage: "expected", cell: ["R3", 0] },
  { name: "reduce", job: "vent", stage: "expected", tab: "Reduce", click: ["A step on", "A step on"] },
  { name: "readings", job: "vent", stage: "readings" },
  { name: "bench", job: "vent", stage: "readings?view=bench" },
  { name: "whatif", job: "vent", stage: "whatif", suppose: "R3 470→2k" },
  { name: "map", job: "pump", stage: "whatif", suppose: "K1 open", tab: "Map" },
  { name: "suspects", job: "soil", stage: "suspects", open: true },
  { name: "readings-dark", job: "pump", stage: "readings", theme: "dark" },
  { name: "readings-phone", job: "vent", stage: "readings", width: 390 },
  { name: "repair", job: "vent", stage: "repair", button: "Repair R3" },
  { name: "report", job: "soil", stage: "sheets/report", height: 1180 },
  { name: "failures", path: "/failures", closed: true },
];

const chrome = await chromium.launch({
  executablePath: "/usr/bin/chromium-headless-shell",
  args: ["--disable-gpu", "--disable-quic", "--disable-background-networking", "--no-sandbox"],
});
for (const view of VIEWS) {
  const { name, job, stage, open, theme = "light", width = 1280, height = 800 } = view;
  const page = await chrome.newPage({ viewport: { width, height } });
  await page.addInitScript((t) => localStorage.setItem("hound:theme", t), theme);
  let { path } = view;
  if (job) {
    const { jobs } = await (await fetch(`${address}/api/jobs?search=${job}`)).json();
    path = `/jobs/${jobs[0].id}/${stage}`;
  }
  if (view.closed) await addClosedJobs(address);
  await page.goto(address + path);
  if (job && !stage.startsWith("sheets")) await page.locator("[data-board]").waitFor({ state: "attached" });
  else await page.getByRole("main").waitFor();
  if (job && (stage === "readings" || stage === "suspects"))
    await page
      .getByText(/^(Next|At leisure): |^Nothing more has|^This job is closed/)
      .first()
      .waitFor();
  if (view.suppose) {
    await page.getByRole("textbox", { name: "What if" }).fill(view.suppose);
    await page.keyboard.press("Enter");
  }
  if (view.button) {
    await page.getByRole("button", { name: view.button }).click();
    await page.getByRole("region", { name: "Prove it" }).getByRole("listitem").first().waitFor();
  }
  if (view.tab) await page.getByRole("tab", { name: view.tab }).click();
  for (const label of view.click ?? []) await page.getByLabel(label).click();
  if (view.press) await page.getByRole("option", { name: new RegExp(`^${view.press} `) }).click();
  if (view.cell)
    await page
      .getByRole("row", { name: new RegExp(`^${view.cell[0]}`) })
      .getByRole("button")
      .nth(view.cell[1])
      .click();
  for (const [title, values] of Object.entries(view.fill ?? {})) {
    const fields = page.getByRole("region", { name: title }).getByRole("textbox");
    for (const [i, value] of values.entries()) await fields.nth(i).fill(value);
  }
  // Two faults are still being weighed: the picture is of the finished ranking.
  await page.waitForTimeout(4000);
  if (open) await page.locator("details summary").first().click();
  await page.evaluate(() => window.scrollTo(0, 0));
  await page.mouse.move(0, 0);
  await page.waitForTimeout(300);
  await page.screenshot({ path: join(root, "docs", "screenshots", `${name}.png`) });
  await page.close();
  say(`docs/screenshots/${name}.png`);
}
await chrome.close();
server.kill("SIGTERM");
await new Promise((done) => server.on("exit", done));
rmSync(folder, { recursive: true, force: true });
