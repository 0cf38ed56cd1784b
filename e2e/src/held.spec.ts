import { spawnSync } from "node:child_process";
import { join } from "node:path";
import { expect, test } from "@playwright/test";
import { count } from "./deep.ts";
import { patient } from "./patience.ts";

/** What the benchmarks hold the product to in full counts, here in small ones; how long it takes does not count. */
const COUNTS: Readonly<Record<string, Readonly<Record<string, string>>>> = {
  kills: { HOUND_KILLS: String(count(5, 2)) },
  fuzz: { HOUND_FUZZ: String(count(3000, 600)) },
  load: { HOUND_SECONDS: String(count(6, 1)), HOUND_PARTS: String(count(400, 40)) },
  siege: {
    HOUND_JOBS: String(count(200, 20)),
    HOUND_PICTURES: String(count(60, 8)),
    HOUND_ABANDONED: String(count(100, 20)),
  },
  upheaval: { HOUND_KILLS: String(count(25, 5)), HOUND_JOBS: String(count(100, 20)) },
  readers: { HOUND_FUZZ: String(count(5000, 600)), HOUND_ROUNDS: String(count(5, 1)) },
};

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
