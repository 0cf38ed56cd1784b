import { Readable } from "node:stream";
import { pipeline } from "node:stream/promises";
import type { Response } from "express";
import yauzl, { type Entry, type ZipFile } from "yauzl";
import yazl from "yazl";
import { Problem } from "../problems.ts";

/** One file of a folder. */
export interface FolderFile {
  readonly path: string;
  readonly bytes: Uint8Array;
}

/** Files that are read one by one, when they are wanted. */
export interface Folder {
  readonly paths: readonly string[];
  /** @throws Problem where it cannot be read, or is larger than it says */
  read(path: string): Promise<Uint8Array>;
}

/** What cannot be packed any further. */
const PACKED = /\.jpg$/;

/** Sends files as one zip, one after another: as many as there are, memory holds one. It ends when the other side leaves. */
export async function sendZip(
  response: Response,
  files: AsyncIterable<FolderFile> | Iterable<FolderFile>,
  name: string,
) {
  const zip = new yazl.ZipFile();
  const sent = pipeline(zip.outputStream, response.attachment(name).type("application/zip"));
  // Who leaves before the first file is made is noticed when it is.
  sent.catch(() => {});
  try {
    for await (const { path, bytes } of files) await Promise.race([added(zip, path, bytes), sent]);
    zip.end();
    await sent;
  } catch (error) {
    // A file that ends too early is seen to be broken; one that nobody waits for needs no answer.
    const isGone = response.closed || response.destroyed;
    response.destroy();
    await sent.catch(() => {});
    if (!isGone) throw error;
  }
}

/** Adds a file, and waits until it has gone through. */
function added(zip: yazl.ZipFile, path: string, bytes: Uint8Array): Promise<void> {
  return new Promise((done, fail) => {
    const source = Readable.from([Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength)], {
      objectMode: false,
    });
    source.on("end", done).on("error", fail);
    zip.addReadStream(source, path, { size: bytes.byteLength, compress: !PACKED.test(path) });
  });
}

/** What a zip may hold. */
export interface ZipLimits {
  /** Paths that mean something. */
  readonly known: RegExp;
  readonly mostFiles: number;
  /** Bytes of one file, and of all that is read. */
  readonly mostOfOne: number;
  readonly mostOfAll: number;
}

/** What systems put beside files that they pack. */
const STRAY = /(?:^|\/)(?:__MACOSX\/.*|\.DS_Store|Thumbs\.db|desktop\.ini)$/i;
/** Bytes of a local header, without its name. */
const HEADER = 30;

/**
 * Works with a zip on the disk. What it says of itself is believed only as far as it is borne out: no file is read beyond
 * the size that it declares, nor all of them beyond a limit; files that lie over one another or mean nothing are refused.
 * @param signal ends it: nobody waits any more
 * @throws Problem `no-workshop` or `too-large`
 */
export async function withZip<T>(
  file: string,
  limits: ZipLimits,
  signal: AbortSignal,
  work: (folder: Folder) => Promise<T>,
): Promise<T> {
  const zip = await yauzl
    .openPromise(file, { autoClose: false, lazyEntries: true, validateEntrySizes: true })
    .catch(() => refuse("it is no zip file"));
  try {
    const entries = await listed(zip, limits, signal);
    let left = limits.mostOfAll;
    const read = async (path: string) => {
      const entry = entries.get(path);
      if (!entry) return refuse(`there is no ${path}`);
      if (entry.uncompressedSize > limits.mostOfOne) throw new Problem("too-large", { detail: path });
      const chunks: Buffer[] = [];
      const stream = await zip.openReadStreamPromise(entry).catch((error: Error) => unreadable(path, error));
      stream.on("error", () => {});
      try {
        for await (const chunk of stream as AsyncIterable<Buffer>) {
          signal.throwIfAborted();
          left -= chunk.length;
          if (left < 0) throw new Problem("too-large", { detail: `it holds more than ${limits.mostOfAll} bytes` });
          chunks.push(chunk);
        }
      } catch (error) {
        if (error instanceof Problem || signal.aborted) throw error;
        return unreadable(path, error as Error);
      } finally {
        stream.destroy();
      }
      return Buffer.concat(chunks);
    };
    return await work({ paths: [...entries.keys()], read });
  } finally {
    zip.close();
  }
}

async function listed(zip: ZipFile, limits: ZipLimits, signal: AbortSignal): Promise<Map<string, Entry>> {
  const { known, mostFiles } = limits;
  if (zip.entryCount > mostFiles) throw new Problem("too-large", { detail: `it holds more than ${mostFiles} files` });
  const entries = new Map<string, Entry>();
  try {
    for await (const entry of zip.eachEntry()) {
      signal.throwIfAborted();
      const { fileName: path } = entry;
      if (path.endsWith("/") || STRAY.test(path)) continue;
      if (entries.has(path)) refuse(`${path} is in it twice`);
      if (!known.test(path)) refuse(`${path} is no part of a workshop`);
      entries.set(path, entry);
    }
  } catch (error) {
    if (error instanceof Problem || signal.aborted) throw error;
    refuse((error as Error).message);
  }
  const inOrder = [...entries.values()].sort((a, b) => a.relativeOffsetOfLocalHeader - b.relativeOffsetOfLocalHeader);
  let end = 0;
  for (const { fileName, relativeOffsetOfLocalHeader: start, compressedSize, fileNameLength } of inOrder) {
    if (start < end) refuse(`${fileName} lies over another file`);
    end = start + HEADER + fileNameLength + compressedSize;
  }
  return entries;
}

function refuse(detail: string): never {
  throw new Problem("no-workshop", { detail });
}

function unreadable(path: string, error: Error): never {
  return refuse(`${path} cannot be unpacked: ${error.message}`);
}
