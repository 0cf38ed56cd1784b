// Writes docs/schema/case.schema.json from the schema that the case reader uses.
import { mkdirSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { pathToFileURL } from "node:url";
import { build, install, root } from "./bringUp.mjs";

install();
build({ web: false });
const { caseSchema } = await import(pathToFileURL(join(root, "core", "dist", "notation", "index.js")).href);
mkdirSync(join(root, "docs", "schema"), { recursive: true });
writeFileSync(join(root, "docs", "schema", "case.schema.json"), `${JSON.stringify(caseSchema(), null, 2)}\n`);
