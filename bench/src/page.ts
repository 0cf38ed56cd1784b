import { type ChildProcess, spawn } from "node:child_process";
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { chromium, type Page } from "@playwright/test";

const ROOT = join(import.meta.dirname, "../..");

/** The built application on a database of its own with the demo jobs, and a page of Chromium. */
export async function openPage(): Promise<{ page: Page; address: string; close: () => Promise<void> }> {
  const folder = mkdtempSync(join(tmpdir(), "hound-bench-"));
  const { child, address } = await start(folder);
  const browser = await chromium.launch({
    executablePath: "/usr/bin/chromium",
    args: ["--disable-gpu", "--disable-quic", "--disable-background-networking", "--no-sandbox"],
  });
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  const close = async () => {
    await browser.close();
    child.kill("SIGTERM");
    await new Promise((done) => child.on("exit", done));
    rmSync(folder, { recursive: true, force: true });
  };
  return { page, address, close };
}

function start(folder: string): Promise<{ child: ChildProcess; address: string }> {
  const env = { ...process.env, PORT: "0", HOUND_DB: join(folder, "db.sqlite"), HOUND_DEMO: join(ROOT, "demo") };
  const child = spawn(process.execPath, [join(ROOT, "server/dist/main.js")], { env });
  return new Promise((done, fail) => {
    let output = "";
    child.stdout?.on("data", (chunk) => {
      output += chunk;
      const ready = /ready: (\S+?)\/?\s/.exec(output);
      if (ready) done({ child, address: ready[1] });
    });
    child.on("exit", () => fail(new Error(output)));
  });
}
