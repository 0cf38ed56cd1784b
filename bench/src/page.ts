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
