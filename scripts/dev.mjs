// Pages that reload as they are edited, with the API behind them: Vite in front, the server on the next port.
import { spawn } from "node:child_process";
import { join } from "node:path";
import { build, install, root, say, serve } from "./bringUp.mjs";

install();
build({ web: false });
const port = Number(process.env.PORT ?? 4620);
const api = port + 1;
const server = serve({ HOUND_DEMO: process.env.HOUND_DEMO ?? "demo", PORT: String(api) });
const args = [join(root, "node_modules", "vite", "bin", "vite.js"), "web", "--port", String(port)];
if (process.env.HOST) args.push("--host", process.env.HOST);
const vite = spawn(process.execPath, args, {
  cwd: root,
  stdio: "inherit",
  env: { ...process.env, HOUND_API: String(api) },
});
server.on("exit", () => vite.kill());
vite.on("exit", () => server.kill());
say(`Pages on port ${port}, API on port ${api}.`);
