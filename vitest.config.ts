import { defineConfig } from "vitest/config";

/** How much slower than a quiet machine this one is, as `npm test` measured it: time limits stretch by so much. */
const PATIENCE = Number(process.env.HOUND_PATIENCE ?? 4);
/** Milliseconds of a quiet machine, several times what the slowest test takes: only what hangs is to meet it. */
const LIMIT = 45_000 * PATIENCE;

/** Tests of what keeps nothing between files: its modules are loaded once a worker. */
const SHARED = ["{core,server,cli}/**/*.test.ts", "web/src/!(api|desk|outbox)/**/*.test.ts"];

/** Unit and API tests, run from source. */
export default defineConfig({
  resolve: { conditions: ["source"] },
  ssr: { resolve: { conditions: ["source"], externalConditions: ["source"] } },
  test: {
    exclude: ["**/node_modules/**", "**/dist/**"],
    setupFiles: ["./scripts/seedProperties.mjs"],
    maxWorkers: "100%",
    testTimeout: LIMIT,
    hookTimeout: LIMIT,
    teardownTimeout: LIMIT,
    projects: [
      { extends: true, test: { name: "shared", include: SHARED, isolate: false } },
      { extends: true, test: { name: "alone", include: ["{web,scripts}/**/*.test.{ts,mjs}"], exclude: SHARED } },
    ],
  },
});
