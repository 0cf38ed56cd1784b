import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterEach, beforeEach, describe, expect, it } from "vitest";
import { failures, ofPlaywright, ofVitest, slowest, testsIn, unsteady } from "./reports.mjs";

let folder;
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), "hound-reports-"));
});
afterEach(() => rmSync(folder, { recursive: true, force: true }));

const outcomes = (tests) => tests.map((t) => t.outcome);
const report = (contents) => {
  const file = join(folder, "report.json");
  writeFileSync(file, JSON.stringify(contents));
  return file;
};

describe("what the runners report", () => {
  it("is a failure where there is no report, or no test in it", () => {
    expect(outcomes(testsIn("unit", join(folder, "none.json"), ofVitest))).toEqual(["failed"]);
    expect(outcomes(testsIn("unit", report({ testResults: [] }), ofVitest))).toEqual(["failed"]);
    expect(outcomes(testsIn("browser", report({ suites: [], errors: [] }), ofPlaywright))).toEqual(["failed"]);
  });

  it("counts every test of a file, and a file that could not be loaded as one that failed", () => {
    const test = (fullName, status) => ({ fullName, status, duration: 1500 });
    const testResults = [
      { name: "a.test.ts", status: "failed", assertionResults: [test("one", "passed"), test("two", "failed")] },
      { name: "b.test.ts", status: "failed", assertionResults: [], message: "no such module" },
      { name: "c.test.ts", status: "passed", assertionResults: [test("left out", "skipped")] },
    ];
    const tests = testsIn("unit", report({ testResults }), ofVitest);
    expect(outcomes(tests)).toEqual(["passed", "failed", "failed"]);
    expect(tests[0]).toMatchObject({ name: "one", seconds: 1.5 });
  });

  it("counts tests of suites within suites, and what went wrong outside of any", () => {
    const spec = (title, status) => ({ title, file: "x.spec.ts", tests: [{ status, results: [{ duration: 2000 }] }] });
    const inner = { specs: [spec("inner", "unexpected")] };
    const suites = [{ specs: [spec("outer", "expected")], suites: [inner] }];
    const tests = testsIn("browser", report({ suites, errors: [{ message: "no browser" }] }), ofPlaywright);
    expect(outcomes(tests)).toEqual(["passed", "failed", "failed"]);
    expect(slowest(tests)[0]).toMatch(/^ +2\.0 s {2}e2e\/src\/x\.spec\.ts: /);
  });

  it("says what failed and why, in a few lines without colours", () => {
    const testResults = [
      {
        name: "a.test.ts",
        status: "failed",
        assertionResults: [
          { fullName: "one", status: "passed" },
          {
            fullName: "two",
            status: "failed",
            failureMessages: [`\u001b[31mexpected 3\u001b[39m${"\n  at x".repeat(40)}`],
          },
        ],
      },
    ];
    const told = failures(ofVitest({ testResults }));
    expect(told.slice(0, 2)).toEqual([expect.stringMatching(/a\.test\.ts: two$/), "      expected 3"]);
    expect(told.length).toBeLessThan(15);
  });

  it("names what did not end alike in all runs, and nothing that always fails", () => {
    const run = (first, second) => [
      { file: "a", name: "now and then", outcome: first },
      { file: "a", name: "never", outcome: "failed" },
      { file: "a", name: "always", outcome: second },
    ];
    expect(unsteady([run("passed", "passed"), run("failed", "passed")])).toEqual(["  1 of 2  a: now and then"]);
  });
});
