import { open } from "node:fs/promises";
import type { Request } from "express";
import { Problem } from "../problems.ts";

/**
 * Writes what is sent to a file that nobody else may read. What comes after it failed is let pass: a sender hears the answer
 * only once all is sent, on a connection that goes on.
 * @throws Problem `too-large` beyond so many bytes
 */
export async function receive(request: Request, file: string, most: number) {
  const out = await open(file, "w", 0o600);
  let seen = 0;
  try {
    for await (const chunk of request.iterator({ destroyOnReturn: false })) {
      seen += chunk.length;
      if (seen > most) throw new Problem("too-large", { detail: `${most / 1e6} MB is the most that is taken` });
      await out.writeFile(chunk);
    }
  } catch (error) {
    request.resume();
    throw error;
  } finally {
    await out.close();
  }
}
