// Writes the lint rules of the architecture into biome.json.
import { readFileSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { withArrows } from "./arrows.mjs";
import { install, root, tool } from "./bringUp.mjs";

install();
const file = join(root, "biome.json");
writeFileSync(file, `${JSON.stringify(withArrows(JSON.parse(readFileSync(file, "utf8"))), null, 2)}\n`);
tool("biome", ["format", "--write", "biome.json"]);
