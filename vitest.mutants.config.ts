import { defineConfig, mergeConfig } from "vitest/config";
import base from "./vitest.config.ts";

const { projects: _, ...test } = base.test ?? {};

/**
 * What planted errors are to be noticed by: all tests but those that start other processes, compile the kernels, or take
 * longest for what they would notice besides.
 */
export default mergeConfig(
  { ...base, test },
  defineConfig({
    test: {
      include: ["{core,server,web}/**/*.test.ts"],
      exclude: [
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
