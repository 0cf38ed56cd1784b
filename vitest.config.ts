import { defineConfig } from "vitest/config";

/** Unit and API tests, run from source. */
export default defineConfig({
  resolve: { conditions: ["source"] },
  ssr: { resolve: { conditions: ["source"], externalConditions: ["source"] } },
  test: {
    include: ["{core,server,cli,web,scripts}/**/*.test.{ts,tsx,mjs}"],
    exclude: ["**/node_modules/**", "**/dist/**"],
    setupFiles: ["./scripts/seedProperties.mjs"],
    testTimeout: 30_000,
  },
});
