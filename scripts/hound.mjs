// The command line: brings up what it needs, then runs it in this process.

import { join } from "node:path";
import { pathToFileURL } from "node:url";
import { build, install, root } from "./bringUp.mjs";

install();
build({ web: false });
const { main } = await import(pathToFileURL(join(root, "cli", "dist", "hound.js")).href);
process.exitCode = await main(process.argv.slice(2));
