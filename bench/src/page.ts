import { readFileSync } from "node:fs";
import { join } from "node:path";
import { chromium, type Page } from "@playwright/test";
import { BenchServer } from "./server.ts";

/** The built application on a database of its own with the demo jobs, and a page of Chromium. */
export async function openPage(): Promise<{ page: Page; address: string; close: () => Promise<void> }> {
  const server = new BenchServer({ HOUND_DEMO: join(import.meta.dirname, "../../demo") });
  await server.start();
  const browser = await chromium.launch({
    executablePath: "/usr/bin/chromium-headless-shell",
    args: ["--disable-gpu", "--disable-quic", "--disable-background-networking", "--no-sandbox"],
  });
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  const close = async () => {
    await browser.close();
    await server.remove();
  };
  return { page, address: server.address, close };
}

/** A job of the forty-part demo at a server, by its id. */
export async function jobOfForty(address: string): Promise<string> {
  const trail = readFileSync(join(import.meta.dirname, "../../demo/circuits/10-propagation-bench.trail"), "utf8");
  const made = await fetch(`${address}/api/jobs`, {
    method: "POST",
    headers: { "Content-Type": "application/json" },
    body: JSON.stringify({ title: "Forty", trail }),
  });
  return ((await made.json()) as { id: string }).id;
}
