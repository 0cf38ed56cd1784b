// Everything that is checked: types, lint with the architecture's arrows, unit and API tests, browser tests.
// Each runner writes a JSON report; the last line adds them up. Names after `--` pick steps: npm test -- unit browser
import { mkdirSync, readFileSync, rmSync } from "node:fs";
import { join } from "node:path";
import { browser, build, install, root, say, tool } from "./bringUp.mjs";

const STEPS = { types, lint, unit, browser: inBrowser };
const chosen = process.argv.slice(2);
const unknown = chosen.filter((name) => !(name in STEPS));
if (unknown.length > 0) {
  say(`No step is called ${unknown.join(", ")}; there are ${Object.keys(STEPS).join(", ")}.`);
  process.exit(2);
}
const reports = join(root, "test-results");
let passed = 0;
let failed = 0;

install();
rmSync(reports, { recursive: true, force: true });
mkdirSync(reports, { recursive: true });
for (const [name, step] of Object.entries(STEPS)) {
  if (chosen.length > 0 && !chosen.includes(name)) continue;
  const start = Date.now();
  say(`\n== ${name}`);
  step();
  say(`-- ${name}: ${((Date.now() - start) / 1000).toFixed(1)} s`);
}
process.stdout.write(`${passed} passed, ${failed} failed\n`);
process.exitCode = failed > 0 ? 1 : 0;

function count(ok) {
  if (ok) passed += 1;
  else failed += 1;
}

/** From clean: an incremental build keeps files of deleted sources and can hide errors. */
function types() {
  count(tool("tsc", ["-b", "--force", "--pretty", "false"], { mayFail: true }));
}

function lint() {
  count(tool("biome", ["check", "--error-on-warnings", "."], { mayFail: true }));
}

function unit() {
  const report = join(reports, "unit.json");
  tool("vitest", ["run", "--reporter=default", "--reporter=json", `--outputFile.json=${report}`], { mayFail: true });
  add(report, (r) => [r.numPassedTests, r.numFailedTests + r.numFailedTestSuites * (r.numTotalTests === 0 ? 1 : 0)]);
}

function inBrowser() {
  browser();
  build();
  const report = join(reports, "browser.json");
  tool("playwright", ["test", "--config", "e2e/playwright.config.ts"], {
    mayFail: true,
    env: { ...process.env, PLAYWRIGHT_JSON_OUTPUT_NAME: report },
  });
  add(report, (r) => [r.stats.expected + r.stats.flaky, r.stats.unexpected + r.errors.length]);
}

/** A report that is missing or counts nothing is a failure, not a silence. */
function add(file, countsOf) {
  try {
    const [good, bad] = countsOf(JSON.parse(readFileSync(file, "utf8")));
    passed += good;
    failed += good + bad === 0 ? 1 : bad;
  } catch (error) {
    say(`No report: ${error.message}`);
    failed += 1;
  }
}
