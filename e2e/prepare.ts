import { copyFileSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { RunningServer } from "./src/runningServer.ts";

/** Makes the database that every test begins with: the demo, loaded once. @returns what takes it away again */
export default async function prepare() {
  const prepared = join(tmpdir(), `hound-e2e-prepared-${process.pid}.sqlite`);
  const server = new RunningServer();
  await server.start();
  await server.stop();
  copyFileSync(server.database, prepared);
  await server.remove();
  process.env.HOUND_E2E_PREPARED = prepared;
  return () => rmSync(prepared, { force: true });
}
