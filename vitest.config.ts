import { defineConfig } from "vitest/config";

/** How much slower than a quiet machine this one is, as `npm test` measured it: time limits stretch by so much. */
const PATIENCE = Number(process.env.HOUND_PATIENCE ?? 4);

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
    testTimeout: 15_000 * PATIENCE,
    hookTimeout: 15_000 * PATIENCE,
    teardownTimeout: 15_000 * PATIENCE,
    projects: [
      { extends: true, test: { name: "shared", include: SHARED, isolate: false } },
      { extends: true, test: { name: "alone", include: ["{web,scripts}/**/*.test.{ts,mjs}"], exclude: SHARED } },
    ],
  },
});
