// The simulated meter: brings up what it needs, then listens until Ctrl-C.

import { join } from "node:path";
import { pathToFileURL } from "node:url";
import { build, install, root } from "./bringUp.mjs";

install();
build({ web: false });
const { main } = await import(pathToFileURL(join(root, "cli", "dist", "main.js")).href);
process.exitCode = await main(["meter", ...process.argv.slice(2)]);
