import { createWriteStream } from "node:fs";
import { Transform } from "node:stream";
import { pipeline } from "node:stream/promises";
import type { Request } from "express";
import { Problem } from "../problems.ts";

/** Writes what is sent to a file that nobody else may read. @throws Problem `too-large` beyond so many bytes */
export async function receive(request: Request, file: string, most: number) {
  await pipeline(request, atMost(most), createWriteStream(file, { mode: 0o600 }));
}

function atMost(bytes: number): Transform {
  let seen = 0;
  return new Transform({
    transform(chunk: Buffer, _encoding, done) {
      seen += chunk.length;
      const tooMuch = () => new Problem("too-large", { detail: `${bytes / 1e6} MB is the most that is taken` });
      done(seen > bytes ? tooMuch() : null, chunk);
    },
  });
}
