import { defineConfig, mergeConfig } from "vitest/config";
import base from "./vitest.config.ts";

/**
 * What planted errors are to be noticed by: the tests beside the code. Left out is what starts other processes, and what
 * takes long: whole rankings, stories, and the plan followed to its end, which would notice more.
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
        "core/src/test/stories/**",
        "core/src/rank/*.test.ts",
        "core/src/plan/follow.test.ts",
      ],
      bail: 1,
    },
  }),
);
