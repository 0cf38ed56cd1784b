// Writes the whole workshop as a folder of open files, or brings one in (`npm run export FOLDER`, `npm run import FOLDER`).
import { join } from "node:path";
import { build, install, root, run } from "./bringUp.mjs";

install();
build({ web: false });
run(process.execPath, [join(root, "server", "dist", "folder.js"), ...process.argv.slice(2)], { stdio: "inherit" });
