// Makes the demo cases afresh from the circuits and recipes in demo/: readings come from the seeded bench.
import { readFileSync, rmSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { pathToFileURL } from "node:url";
import { build, install, root, say } from "./bringUp.mjs";

install();
build({ web: false });
const { main } = await import(pathToFileURL(join(root, "cli", "dist", "main.js")).href);
const recipes = JSON.parse(readFileSync(join(root, "demo", "recipes.json"), "utf8"));
for (const { circuit, complaint, seed, fault, points, finding, repair, standsIn } of recipes) {
  const out = join(root, "demo", "cases", `${circuit}.json`);
  const options = fault ? ["--fault", fault] : ["--healthy"];
  const status = await main([
    "simulate",
    join(root, "demo", "circuits", `${circuit}.trail`),
    "--out",
    out,
    "--seed",
    String(seed),
    ...options,
    ...(points ? ["--at", points] : []),
  ]);
  if (status !== 0) process.exit(status);
  const { format, version, title, ...rest } = JSON.parse(readFileSync(out, "utf8"));
  const readings = points ? rest.readings : [];
  const closed = { ...(finding ? { finding } : {}), ...(repair ? { repair } : {}) };
  // What the simulated meter finds there: the fault that the readings were made with.
  const standIn = { faults: [fault ?? standsIn], seed };
  const file = { format, version, title, complaint, ...closed, ...rest, readings, standIn };
  rmSync(out);
  writeFileSync(out, `${JSON.stringify(file, null, 2)}\n`);
  say(`demo/cases/${circuit}.json: ${readings.length} readings`);
}
