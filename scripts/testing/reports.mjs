// What the runners report, as one list of tests: { name, file, seconds, outcome: "passed" | "failed", why }.
import { readFileSync } from "node:fs";
import { relative } from "node:path";
import { stripVTControlCharacters } from "node:util";
import { root } from "../bringUp.mjs";

/** A report that is missing or counts nothing is a failure, not a silence. */
export function testsIn(step, file, listOf) {
  try {
    const tests = listOf(JSON.parse(readFileSync(file, "utf8")));
    if (tests.length > 0) return tests;
    return [broken(step, "no test was run")];
  } catch (error) {
    return [broken(step, `there is no report: ${error.message}`)];
  }
}

export const broken = (step, why) => ({ name: step, file: "", seconds: 0, outcome: "failed", why });

/** Vitest's JSON: a file that could not be loaded has no tests, and counts as one that failed. */
export function ofVitest({ testResults }) {
  return testResults.flatMap(({ name, status, assertionResults, message }) => {
    const file = relative(root, name);
    const tests = assertionResults
      .filter((t) => t.status === "passed" || t.status === "failed")
      .map((t) => ({
        name: t.fullName,
        file,
        seconds: (t.duration ?? 0) / 1000,
        outcome: t.status,
        why: t.failureMessages?.join("\n") ?? "",
      }));
    const isUncounted = status === "failed" && tests.every((t) => t.outcome === "passed");
    return isUncounted ? [...tests, { ...broken(file, message || "it could not be run"), file }] : tests;
  });
}

/** Playwright's JSON. What went wrong outside of any test counts as one that failed. */
export function ofPlaywright({ suites, errors }) {
  const inSuite = (suite) => [
    ...suite.specs.flatMap((spec) =>
      spec.tests.map(({ results, status }) => ({
        name: spec.title,
        file: `e2e/src/${spec.file}`,
        seconds: results.reduce((sum, r) => sum + r.duration, 0) / 1000,
        outcome: status === "expected" ? "passed" : "failed",
        why: results.flatMap((r) => (r.errors ?? []).map((e) => e.message)).join("\n"),
      })),
    ),
    ...(suite.suites ?? []).flatMap(inSuite),
  ];
  return [...suites.flatMap(inSuite), ...errors.map((e) => broken("browser", e.message ?? "it could not be run"))];
}

const LINES_OF_WHY = 12;

/** Each test that failed, with the beginning of what it said. */
export function failures(tests) {
  return tests
    .filter((t) => t.outcome === "failed")
    .flatMap(({ name, file, why = "" }) => {
      const said = stripVTControlCharacters(why).split("\n").slice(0, LINES_OF_WHY);
      return [`  ${file}: ${name}`, ...said.filter((line) => line.trim() !== "").map((line) => `      ${line}`)];
    });
}

const SLOWEST = 10;

/** The slowest tests, one a line. */
export function slowest(tests) {
  return tests
    .filter((t) => t.seconds > 0)
    .sort((a, b) => b.seconds - a.seconds)
    .slice(0, SLOWEST)
    .map(({ name, file, seconds }) => `  ${seconds.toFixed(1).padStart(6)} s  ${file}: ${name}`);
}

/** Tests that did not end alike in all runs: how often each failed. */
export function unsteady(runs) {
  const counts = new Map();
  for (const { name, file, outcome } of runs.flat()) {
    const key = `${file}: ${name}`;
    const { failed = 0, all = 0 } = counts.get(key) ?? {};
    counts.set(key, { failed: failed + (outcome === "failed" ? 1 : 0), all: all + 1 });
  }
  return [...counts]
    .filter(([, { failed, all }]) => failed > 0 && (failed < all || all < runs.length))
    .map(([key, { failed, all }]) => `  ${failed} of ${all}  ${key}`);
}
