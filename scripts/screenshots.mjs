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
const server = spawn(process.execPath, [join(root, "server", "dist", "server.js")], { cwd: root, env });
const address = await new Promise((done) => {
  let output = "";
  server.stdout.on("data", (chunk) => {
    output += chunk;
    const ready = /ready: (\S+?)\/?\s/.exec(output);
    if (ready) done(ready[1]);
  });
});

const ONLY = process.argv.slice(2);
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
  { name: "breadboard", job: "pump", stage: "circuit", tab: "Breadboard" },
  { name: "expected", job: "vent", stage: "expected", cell: ["R3", 0] },
  { name: "readings", job: "vent", stage: "readings" },
  { name: "bench", job: "vent", stage: "readings?view=bench" },
  { name: "whatif", job: "vent", stage: "whatif", suppose: "R3 470→2k" },
  { name: "suspects", job: "soil", stage: "suspects", open: true },
  { name: "readings-dark", job: "moisture", stage: "readings", theme: "dark" },
  { name: "readings-phone", job: "vent", stage: "readings", width: 390 },
  { name: "repair", job: "vent", stage: "repair", button: "Repair R3" },
  { name: "report", job: "soil", stage: "sheets/report", height: 1180 },
  { name: "failures", path: "/failures", closed: true },
  { name: "hunt", hunt: "" },
  { name: "marks", hunt: "/marks" },
  { name: "paper", path: "/practice/paper/tangled?seed=11" },
];

const post = async (path, body) => {
  const headers = { "Content-Type": "application/json" };
  await fetch(`${address}/api/hunts${path}`, { method: "POST", headers, body: JSON.stringify(body) });
};

/** A hunt as it may go: two readings, a wrong name; to its end for its marks. */
async function hunted(isOver) {
  const id = crypto.randomUUID();
  const trail = "BT1 12V ri=0.2: F1 2A + [A] (J1 + [B] LA1 12V 5W | J2 + [C] LA2 12V 5W | J3 + [D] LA3 12V 5W)";
  const parts = ["J2"];
  await post("", { id, title: "Three lamps over the potting bench", trail, kinds: ["open"], parts, seed: 4 });
  const acts = [
    { act: "dial", quantity: "voltage", span: 20 },
    ...[
      ["black", "0"],
      ["red", "B"],
    ].map(([lead, at]) => ({ act: "touch", lead, at })),
    { act: "take" },
    { act: "look", part: "F1" },
    { act: "touch", lead: "red", at: "A" },
    { act: "take" },
    ...(isOver ? [{ act: "touch", lead: "red", at: "C" }, { act: "take" }] : []),
  ];
  for (const [after, act] of acts.entries()) await post(`/${id}/acts`, { after, act });
  if (!isOver) return id;
  await post(`/${id}/names`, { named: ["LA2"], sure: 0.9 });
  await post(`/${id}/names`, { named: ["J2"], sure: 0.99 });
  return id;
}

const chrome = await chromium.launch({
  executablePath: "/usr/bin/chromium-headless-shell",
  args: ["--disable-gpu", "--disable-quic", "--disable-background-networking", "--no-sandbox"],
});
for (const view of VIEWS) {
  if (ONLY.length > 0 && !ONLY.includes(view.name)) continue;
  const { name, job, stage, open, theme = "light", width = 1280, height = 800 } = view;
  const page = await chrome.newPage({ viewport: { width, height } });
  await page.addInitScript((t) => localStorage.setItem("hound:theme", t), theme);
  let { path } = view;
  if (job) {
    const { jobs } = await (await fetch(`${address}/api/jobs?search=${job}`)).json();
    path = `/jobs/${jobs[0].id}/${stage}`;
  }
  if (view.hunt !== undefined) path = `/practice/${await hunted(view.hunt !== "")}${view.hunt}`;
  if (view.closed) await addClosedJobs(address);
  await page.goto(address + path);
  if (job && !stage.startsWith("sheets")) await page.locator("[data-board]").waitFor({ state: "attached" });
  else await page.getByRole("main").waitFor();
  if (job && (stage === "readings" || stage === "suspects"))
    await page
      .getByText(/^(Next|At leisure): |^Nothing more has|^This job is closed/)
      .first()
      .waitFor();
  if (view.hunt === "/marks") await page.getByRole("region", { name: "The best way" }).waitFor();
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
