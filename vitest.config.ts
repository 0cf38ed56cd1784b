import { defineConfig } from "vitest/config";

/** How much slower than a quiet machine this one is, as `npm test` measured it: time limits stretch by so much. */
const PATIENCE = Number(process.env.HOUND_PATIENCE ?? 4);

/** Tests of what has no effects but its answers. */
const PLAIN = ["core/**/*.test.ts", "web/src/!(api|desk|outbox)/**/*.test.ts"];

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
      // What keeps nothing between files is loaded once a worker.
      { extends: true, test: { name: "plain", include: PLAIN, isolate: false } },
      {
        extends: true,
        test: { name: "effects", include: ["{server,cli,web,scripts}/**/*.test.{ts,mjs}"], exclude: PLAIN },
      },
    ],
  },
});
