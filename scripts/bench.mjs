// Runs the benchmarks from source: all of them, or those named (`npm run bench -- ranking typing`).
import { existsSync, readdirSync } from "node:fs";
import { join } from "node:path";
import { browser, build, install, root, run, say } from "./bringUp.mjs";

install();
const folder = join(root, "bench", "src");
const all = readdirSync(folder)
  .filter((f) => f.endsWith(".bench.ts"))
  .map((f) => f.replace(".bench.ts", ""));
const wanted = process.argv.slice(2).length > 0 ? process.argv.slice(2) : all;
const unknown = wanted.filter((name) => !existsSync(join(folder, `${name}.bench.ts`)));
if (unknown.length > 0) {
  say(`There is no benchmark ${unknown.join(", ")}; there are ${all.join(", ")}.`);
  process.exit(2);
}
const IN_BROWSER = ["logbook", "typing", "stories", "drag", "outbox", "firstLoad", "enter", "streaming", "hover"];
const AT_SERVER = ["kills", "load", "fuzz"];
if (wanted.some((name) => IN_BROWSER.includes(name))) browser();
if (wanted.some((name) => [...IN_BROWSER, ...AT_SERVER].includes(name))) build();
for (const name of wanted) {
  process.stdout.write(`\n== ${name}\n`);
  run(process.execPath, ["--conditions=source", "--expose-gc", "--import", "tsx", join(folder, `${name}.bench.ts`)], {
    stdio: ["ignore", "inherit", "inherit"],
  });
}
