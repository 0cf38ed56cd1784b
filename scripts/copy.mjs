// Saves the database to a file, or puts a saved one in its place (`npm run backup [FILE]`, `npm run restore FILE`).
import { join } from "node:path";
import { build, install, root, run } from "./bringUp.mjs";

install();
build({ web: false });
run(process.execPath, [join(root, "server", "dist", "copy.js"), ...process.argv.slice(2)], { stdio: "inherit" });
