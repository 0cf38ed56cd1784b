import { defineConfig, mergeConfig } from "vitest/config";
import base from "./vitest.config.ts";

/** What planted errors are to be noticed by: everything but what starts other processes. */
export default mergeConfig(
  base,
  defineConfig({
    test: { exclude: ["scripts/**", "server/src/main.test.ts", "core/src/kernels/kernels.test.ts"], bail: 1 },
  }),
);
