// Everything that is checked: types, lint with the architecture's arrows, unit and API tests, browser tests. Words after
// `--` choose: steps (npm test -- unit browser), all examples and stories (npm test -- deep), many times over
// (npm test -- repeat 5). The last line adds up what the runners report.
import { mkdirSync, rmSync } from "node:fs";
import { join } from "node:path";
import { browser, build, buildPagesBeside, checkTypes, install, root, say, tool, toolBeside } from "./bringUp.mjs";
import { measurePatience } from "./testing/patience.mjs";
import { broken, failures, ofPlaywright, ofVitest, slowest, testsIn, unsteady } from "./testing/reports.mjs";

const STEPS = { types, lint, unit, browser: inBrowser };
const LIGHT = ["types", "lint"];
const { chosen, times, isDeep } = understood(process.argv.slice(2));
const reports = join(root, "test-results");

install();
rmSync(reports, { recursive: true, force: true });
mkdirSync(reports, { recursive: true });
const runs = [];
const totals = [];
const begun = performance.now();
for (let n = 1; n <= times; n += 1) {
  if (times > 1) say(`\n==== run ${n} of ${times}`);
  runs.push(await runOnce());
}
const all = runs.flat();
say(`\nThe slowest:\n${slowest(runs[0]).join("\n")}`);
if (times > 1) say(`\nNot the same each time:\n${unsteady(runs).join("\n") || "  none"}`);
const minutes = (performance.now() - begun) / 60_000;
say(`\n${totals.join("\n")}\n-- all: ${minutes.toFixed(1)} min`);
const failed = all.filter((t) => t.outcome === "failed").length;
if (failed > 0) say(`\nWhat failed:\n${failures(all).join("\n")}\n`);
process.stdout.write(`${all.length - failed} passed, ${failed} failed\n`);
process.exitCode = failed > 0 ? 1 : 0;

function understood(words) {
  const at = words.indexOf("repeat");
  const [, given] = at < 0 ? [] : words.splice(at, 2);
  const count = at < 0 ? 1 : Number(given);
  const steps = words.filter((word) => word !== "deep");
  const unknown = steps.filter((name) => !(name in STEPS));
  if (unknown.length > 0 || !(Number.isInteger(count) && count > 0)) {
    say(`Steps are ${Object.keys(STEPS).join(", ")}; besides there are "deep" and "repeat 5".`);
    process.exit(2);
  }
  return { chosen: steps.length > 0 ? steps : Object.keys(STEPS), times: count, isDeep: words.includes("deep") };
}

async function runOnce() {
  const wanted = Object.keys(STEPS).filter((step) => chosen.includes(step));
  // These use one core each; the pages are built meanwhile. The others use all there are.
  const light = wanted.filter((step) => LIGHT.includes(step));
  const beside = light.length > 0 && wanted.includes("browser") ? buildPagesBeside() : null;
  const tests = (await Promise.all(light.map(step))).flat();
  await beside;
  for (const name of wanted.filter((one) => !LIGHT.includes(one))) tests.push(...(await step(name)));
  return tests;
}

async function step(name) {
  const patience = await measurePatience();
  const start = performance.now();
  say(`\n== ${name} (time limits × ${patience.toFixed(1)})`);
  const env = { ...process.env, HOUND_PATIENCE: String(patience), ...(isDeep ? { HOUND_DEEP: "1" } : {}) };
  const tests = await STEPS[name](env);
  const seconds = (performance.now() - start) / 1000;
  const wrong = tests.filter((t) => t.outcome === "failed");
  for (const { name: what, file } of wrong) say(`-- FAILED ${file} ${what}`);
  totals.push(`-- ${name}: ${tests.length - wrong.length} passed, ${wrong.length} failed, ${seconds.toFixed(1)} s`);
  say(totals.at(-1));
  return tests;
}

async function types() {
  return [{ name: "types", file: "", seconds: 0, outcome: (await checkTypes()) ? "passed" : "failed" }];
}

async function lint() {
  const isClean = await toolBeside("biome", ["check", "--error-on-warnings", "."]);
  return [{ name: "lint", file: "", seconds: 0, outcome: isClean ? "passed" : "failed" }];
}

function unit(env) {
  const report = join(reports, "unit.json");
  const args = ["run", "--reporter=default", "--reporter=json", `--outputFile.json=${report}`];
  return ended("unit", tool("vitest", args, { mayFail: true, env }), testsIn("unit", report, ofVitest));
}

function inBrowser(env) {
  browser();
  build();
  const report = join(reports, "browser.json");
  const args = ["test", "--config", "e2e/playwright.config.ts"];
  const isFine = tool("playwright", args, { mayFail: true, env: { ...env, PLAYWRIGHT_JSON_OUTPUT_NAME: report } });
  return ended("browser", isFine, testsIn("browser", report, ofPlaywright));
}

/** A runner that ends badly though every test passed has a failure of its own. */
function ended(step, isFine, tests) {
  if (isFine || tests.some((t) => t.outcome === "failed")) return tests;
  return [...tests, broken(step, "the runner ended with an error")];
}
