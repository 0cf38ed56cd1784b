import { defineConfig, mergeConfig } from "vitest/config";
import base from "./vitest.config.ts";

/**
 * What planted errors are to be noticed by: all tests but those that start other processes, compile the kernels, or take
 * longest for what they would notice besides.
 */
export default mergeConfig(
  base,
  defineConfig({
    test: {
      exclude: [
        "scripts/**",
        "cli/**",
        "server/src/main.test.ts",
        "core/src/kernels/kernels.test.ts",
        "core/src/rank/found.test.ts",
        "core/src/rank/invariance.test.ts",
      ],
      bail: 1,
      testTimeout: 300_000,
    },
  }),
);
