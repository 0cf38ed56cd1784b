// Mutation testing of one folder or file: `npm run mutants -- core/src/plan` (or `core/src/plan/settle.ts:10-60`).
// Errors are planted one by one, and the tests beside the code and those of the ranking are to notice them. An hour or
// more for a large folder; what was found is kept, so that only what changed is done again.
import { existsSync, mkdirSync } from "node:fs";
import { join } from "node:path";
import { install, root, run, say } from "./bringUp.mjs";

install();
const [target, ...rest] = process.argv.slice(2);
if (!target) {
  say("Which folder? Such as npm run mutants -- core/src/plan");
  process.exit(2);
}
const [path, range] = target.replace(/\/$/, "").split(":");
if (!existsSync(join(root, path))) {
  say(`There is no ${path}.`);
  process.exit(2);
}
const isFile = /\.tsx?$/.test(path);
const patterns = isFile
  ? [range ? `${path}:${range}` : path]
  : [`${path}/**/*.ts`, `${path}/**/*.tsx`, `!${path}/**/*.test.ts`, `!${path}/**/index.ts`];
const name = path.replaceAll("/", "-");
mkdirSync(join(root, "reports"), { recursive: true });
const env = { ...process.env, MUTATE: JSON.stringify(patterns), MUTANTS_NAME: name };
const bin = join(root, "node_modules", "@stryker-mutator", "core", "bin", "stryker.js");
run(process.execPath, [bin, "run", ...rest], { env, stdio: "inherit" });
