import { spawnSync } from "node:child_process";
import { join } from "node:path";

/** Lines typed in two tabs while server, tab or network die, as in the browser test of that name, hundreds of times. */
const root = join(import.meta.dirname, "../..");
const { status } = spawnSync(
  process.execPath,
  [join(root, "node_modules/@playwright/test/cli.js"), "test", "--config", "e2e/playwright.config.ts", "chaos"],
  { cwd: root, stdio: "inherit", env: { ...process.env, HOUND_RUNS: process.env.HOUND_RUNS ?? "200" } },
);
process.exitCode = status ?? 1;
