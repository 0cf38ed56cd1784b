import { defineConfig, mergeConfig } from "vitest/config";
import base from "./vitest.config.ts";

/** What planted errors are to be noticed by: all tests but those that start other processes or compile the kernels. */
export default mergeConfig(
  base,
  defineConfig({
    test: {
      exclude: ["scripts/**", "cli/**", "server/src/main.test.ts", "core/src/kernels/kernels.test.ts"],
      bail: 1,
    },
  }),
);
