// Mutation testing of one folder or file: `npm run mutants -- core/src/plan` (or `core/src/plan/settle.ts:10-60`).
// Errors are planted one by one, and the tests are to notice them. An hour or more for a large folder, so
// `--sample 60` plants about that many, drawn evenly and the same each time.

import { existsSync, mkdirSync, readdirSync, readFileSync, statSync } from "node:fs";
import { join } from "node:path";
import { createInstrumenter } from "@stryker-mutator/instrumenter";
import { createInjector } from "typed-inject";
import { install, root, run, say } from "./bringUp.mjs";

/** Errors within one place of a sample, itself included, at most. */
const HOLDS = 3;

install();
const words = process.argv.slice(2);
const sampleAt = words.indexOf("--sample");
const sample = sampleAt < 0 ? 0 : Number(words.splice(sampleAt, 2)[1]);
const [target, ...rest] = words;
if (!target || !(sample >= 0)) {
  say("Which folder? Such as npm run mutants -- core/src/plan --sample 60");
  process.exit(2);
}
const [path, range] = target.replace(/\/$/, "").split(":");
if (!existsSync(join(root, path))) {
  say(`There is no ${path}.`);
  process.exit(2);
}
const files = statSync(join(root, path)).isFile()
  ? [path]
  : readdirSync(join(root, path), { recursive: true })
      .filter((f) => /\.tsx?$/.test(f) && !/\.test\.tsx?$|(^|\/)index\.ts$|\.wasm\.ts$/.test(f))
      .map((f) => `${path}/${f}`);
const name = path.replaceAll("/", "-");
mkdirSync(join(root, "reports"), { recursive: true });
const patterns = sample > 0 ? await drawn(files, sample) : range ? [`${path}:${range}`] : files;
const env = { ...process.env, MUTATE: JSON.stringify(patterns), MUTANTS_NAME: name };
const bin = join(root, "node_modules", "@stryker-mutator", "core", "bin", "stryker.js");
run(process.execPath, [bin, "run", ...rest], { env, stdio: "inherit" });

/** Places of about `count` of all errors that could be planted, as patterns of file and range. */
async function drawn(names, count) {
  const quiet = Object.fromEntries(
    ["trace", "debug", "info", "warn", "error", "fatal"].flatMap((level) => [
      [level, () => {}],
      [`is${level[0].toUpperCase()}${level.slice(1)}Enabled`, () => false],
    ]),
  );
  const instrumenter = createInjector().provideValue("logger", quiet).injectFunction(createInstrumenter);
  const sources = names.sort().map((f) => ({ name: f, content: readFileSync(join(root, f), "utf8"), mutate: true }));
  const { mutants } = await instrumenter.instrument(sources, { plugins: null, excludedMutations: [], ignorers: [] });
  const places = mutants.map(({ fileName, location: { start, end } }) => ({ fileName, start, end }));
  const order = (a, b) => a.line - b.line || a.column - b.column;
  const isWithin = (a, b) => a.fileName === b.fileName && order(b.start, a.start) <= 0 && order(a.end, b.end) <= 0;
  // A place takes all errors within it along: those that hold many others are left to a run of the whole.
  const few = places.filter((place) => places.filter((other) => isWithin(other, place)).length <= HOLDS);
  const asPattern = ({ line, column }) => `${line + 1}:${column}`;
  const patterns = [...new Set(few.map((p) => `${p.fileName}:${asPattern(p.start)}-${asPattern(p.end)}`))];
  // The same shuffle each time.
  let state = 12345;
  const random = () => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    return state / 2 ** 32;
  };
  const shuffled = patterns.map((pattern) => [random(), pattern]).sort(([a], [b]) => a - b);
  say(
    `${mutants.length} errors could be planted in ${names.length} files; ${Math.min(count, patterns.length)} places are tried.`,
  );
  return shuffled.slice(0, count).map(([, pattern]) => pattern);
}
