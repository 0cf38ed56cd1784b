import { defineConfig } from "@playwright/test";
import { patient } from "./src/patience.ts";

/** Journeys through the real thing: the built server and pages, the demo's database, Debian's Chromium. */
export default defineConfig({
  testDir: "src",
  testMatch: "*.spec.ts",
  outputDir: "../test-results/browser",
  globalSetup: "./prepare.ts",
  workers: 2,
  fullyParallel: true,
  retries: 0,
  timeout: patient(60_000),
  expect: { timeout: patient(10_000) },
  reporter: [["list"], ["json"]],
  use: {
    // Every test would keep all pages anew; the one that is about that lets it.
    serviceWorkers: "block",
    viewport: { width: 1280, height: 800 },
    // Recording takes time: HOUND_TRACE=1 npm test -- browser
    trace: process.env.HOUND_TRACE ? "retain-on-failure" : "off",
    screenshot: "only-on-failure",
    launchOptions: {
      executablePath: "/usr/bin/chromium-headless-shell",
      args: ["--disable-gpu", "--disable-quic", "--disable-background-networking", "--no-first-run"],
    },
  },
});
