import { defineConfig } from "@playwright/test";

/** Journeys through the real thing: the built server and pages, a database of their own, Debian's Chromium. */
export default defineConfig({
  testDir: "src",
  testMatch: "*.spec.ts",
  outputDir: "../test-results/browser",
  workers: 2,
  fullyParallel: true,
  timeout: 120_000,
  // Machines are shared and stall now and then; what needed its second chance is listed as flaky.
  retries: 1,
  expect: { timeout: 20_000 },
  reporter: [["list"], ["json"]],
  use: {
    // Every test would keep all pages anew; the one that is about that lets it.
    serviceWorkers: "block",
    viewport: { width: 1280, height: 800 },
    trace: "retain-on-failure",
    launchOptions: {
      executablePath: "/usr/bin/chromium",
      args: ["--disable-gpu", "--disable-quic", "--disable-background-networking", "--no-first-run"],
    },
  },
});
