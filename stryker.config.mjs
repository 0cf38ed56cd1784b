const name = process.env.MUTANTS_NAME ?? "mutants";

export default {
  testRunner: "vitest",
  plugins: ["@stryker-mutator/vitest-runner"],
  vitest: { configFile: "vitest.mutants.config.ts" },
  mutate: JSON.parse(process.env.MUTATE ?? "[]"),
  coverageAnalysis: "perTest",
  // Tables that are made once would each take a run of everything.
  ignoreStatic: true,
  concurrency: 2,
  // The compiler in use has no interface for this step, and types are checked elsewhere.
  tsconfigFile: "no-such-tsconfig.json",
  disableTypeChecks: true,
  tempDirName: "reports/.stryker-tmp",
  reporters: ["clear-text", "json"],
  clearTextReporter: { allowColor: false, logTests: false, reportScoreTable: true },
  jsonReporter: { fileName: `reports/${name}.json` },
  timeoutMS: 8000,
  ignorePatterns: ["dist", "reports", "data", "test-results", "docs/screenshots", "web/dist"],
};
