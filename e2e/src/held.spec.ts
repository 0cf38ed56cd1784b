import { spawnSync } from "node:child_process";
import { join } from "node:path";
import { expect, test } from "@playwright/test";
import { patient } from "./patience.ts";

/** What the benchmarks hold the product to in full counts, here in small ones; how long it takes does not count. */
const COUNTS = {
  kills: { HOUND_KILLS: "5" },
  fuzz: { HOUND_FUZZ: "3000" },
  load: { HOUND_SECONDS: "6" },
  readers: { HOUND_FUZZ: "5000" },
} as const;

for (const [name, counts] of Object.entries(COUNTS))
  test(`the benchmark ${name} finds no fault`, () => {
    test.setTimeout(patient(240_000));
    const root = join(import.meta.dirname, "../..");
    const { status, stdout, stderr } = spawnSync(
      process.execPath,
      ["--conditions=source", "--import", "tsx", join(root, "bench/src", `${name}.bench.ts`)],
      { cwd: root, encoding: "utf8", env: { ...process.env, ...counts } },
    );
    expect(status, stdout + stderr).toBe(0);
  });
