import { spawnSync } from "node:child_process";
import { join } from "node:path";

/** Every story of the engine's table typed into the page, in the built application. */
const root = join(import.meta.dirname, "../..");
const { status } = spawnSync(
  process.execPath,
  [join(root, "node_modules/@playwright/test/cli.js"), "test", "--config", "e2e/playwright.config.ts", "stories"],
  { cwd: root, stdio: "inherit", env: { ...process.env, HOUND_STORIES: "all" } },
);
process.exitCode = status ?? 1;
