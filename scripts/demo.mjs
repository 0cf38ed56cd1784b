// Brings the application up with the demo data and a simulated meter, and stays in front until Ctrl-C.
import { spawn } from "node:child_process";
import { join } from "node:path";
import { createInterface } from "node:readline";
import { build, install, root, say, serve } from "./bringUp.mjs";

install();
build();
say("Starting …");
const { address, meter } = await standIn();
const server = serve({
  HOUND_DEMO: process.env.HOUND_DEMO ?? "demo",
  ...(address ? { HOUND_DEMO_METER: address } : {}),
});
server.on("exit", () => meter.kill());
process.on("exit", () => meter.kill());

/** The simulated meter on a free port; the demo goes on without it where it does not come up. */
function standIn() {
  const meter = spawn(
    process.execPath,
    [join(root, "scripts", "meter.mjs"), join(root, "demo", "cases"), "--port", "0"],
    {
      stdio: ["ignore", "pipe", "inherit"],
    },
  );
  return new Promise((done) => {
    meter.on("exit", () => done({ address: null, meter }));
    createInterface({ input: meter.stdout }).on("line", (line) => {
      const address = /at (\S+:\d+)/.exec(line)?.[1];
      if (!address) return;
      say(line);
      done({ address, meter });
    });
  });
}
