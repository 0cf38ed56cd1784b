import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { createServer, get, type IncomingMessage, type ServerResponse } from "node:http";
import type { AddressInfo } from "node:net";
import { tmpdir } from "node:os";
import { join } from "node:path";
import express from "express";
import { strToU8, unzipSync, zipSync } from "fflate";
import { afterEach, beforeEach, describe, expect, it } from "vitest";
import { Problem } from "../problems.ts";
import { sendZip, withZip, type ZipLimits } from "./zip.ts";

let folder: string;
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), "hound-"));
});
afterEach(() => rmSync(folder, { recursive: true, force: true }));

const LIMITS: ZipLimits = { known: /^[a-z]+\.txt$/, mostFiles: 50, mostOfOne: 1e8, mostOfAll: 1e8 };

/** What becomes of a zip whose files are all read. */
async function readAll(bytes: Uint8Array, limits: Partial<ZipLimits> = {}, signal = new AbortController().signal) {
  const file = join(folder, "sent.zip");
  writeFileSync(file, bytes);
  const read: Record<string, string> = {};
  try {
    await withZip(file, { ...LIMITS, ...limits }, signal, async (sent) => {
      for (const path of sent.paths) read[path] = Buffer.from(await sent.read(path)).toString();
    });
    return read;
  } catch (error) {
    if (!(error instanceof Problem)) throw error;
    return `${error.code}: ${error.extras.detail}`;
  }
}

/** Little-endian numbers in the records of a zip's directory: APPNOTE 4.3.7 and 4.3.12. */
function patched(bytes: Uint8Array, signature: number, offset: number, value: (n: number) => number | null) {
  const copy = Buffer.from(bytes);
  let n = 0;
  for (let at = 0; at + 4 <= copy.length; at += 1) {
    if (copy.readUInt32LE(at) !== signature) continue;
    const wanted = value(n);
    if (wanted !== null) copy.writeUInt32LE(wanted, at + offset);
    n += 1;
  }
  expect(n).toBeGreaterThan(0);
  return copy;
}
const [LOCAL, CENTRAL] = [0x04034b50, 0x02014b50];

describe("a zip that comes in", () => {
  it("gives its files, but for what systems put beside them", async () => {
    const files = { "a.txt": strToU8("one"), "b.txt": strToU8("two"), "__MACOSX/._a.txt": strToU8("x") };
    expect(await readAll(zipSync(files))).toEqual({ "a.txt": "one", "b.txt": "two" });
  });

  it("is read no further than each file says, nor all of them beyond a limit, and nothing unknown at all", async () => {
    const zeros = zipSync({ "a.txt": new Uint8Array(20_000_000) });
    expect(zeros.length).toBeLessThan(100_000);
    const says = (bytes: Uint8Array, size: number) =>
      patched(
        patched(bytes, CENTRAL, 24, () => size),
        LOCAL,
        22,
        () => size,
      );
    expect(await readAll(says(zeros, 1000))).toMatch(/^no-workshop: a\.txt cannot be unpacked/);
    expect(await readAll(zeros, { mostOfOne: 1e6 })).toBe("too-large: a.txt");
    const many = Object.fromEntries([..."abcdefghij"].map((n) => [`${n}.txt`, new Uint8Array(1e6)]));
    expect(await readAll(zipSync(many), { mostOfAll: 5e6 })).toMatch(/^too-large/);
    expect(await readAll(zipSync(many), { mostFiles: 9 })).toMatch(/^too-large/);
    expect(await readAll(zipSync({ "a.exe": strToU8("x") }))).toMatch(/a\.exe is no part/);
    expect(await readAll(zipSync({ "../a.txt": strToU8("x") }))).toMatch(/^no-workshop: invalid relative path/);
    expect(await readAll(strToU8("no zip"))).toMatch(/it is no zip file/);
    expect(await readAll(zipSync({ "a.txt": strToU8("one") }).subarray(0, 40))).toMatch(/^no-workshop/);
  });

  it("is refused where files lie over one another or bear one name", async () => {
    const two = zipSync({ "a.txt": strToU8("one"), "b.txt": strToU8("one") });
    expect(await readAll(patched(two, CENTRAL, 42, () => 0))).toMatch(/b\.txt lies over another file/);
    const named = Buffer.from(two.map((byte) => (byte === "b".charCodeAt(0) ? "a".charCodeAt(0) : byte)));
    expect(await readAll(named)).toMatch(/a\.txt is in it twice/);
  });

  it("is left at once when nobody waits any more", async () => {
    const gone = new AbortController();
    gone.abort();
    await expect(readAll(zipSync({ "a.txt": strToU8("x") }), {}, gone.signal)).rejects.toThrow(/abort/);
  });
});

describe("a zip that goes out", () => {
  /** Serves files as a zip once. @returns where, and the response as the server has it */
  async function served(files: () => AsyncGenerator<{ path: string; bytes: Uint8Array }>) {
    const app = express();
    const ended: (Error | null)[] = [];
    app.get("/", async (_request, response: ServerResponse) => {
      await sendZip(response as never, files(), "a.zip").then(
        () => ended.push(null),
        (error: Error) => ended.push(error),
      );
    });
    const server = createServer(app).listen(0, "127.0.0.1");
    await new Promise((done) => server.once("listening", done));
    const address = `http://127.0.0.1:${(server.address() as AddressInfo).port}/`;
    return { address, ended, close: () => server.close() };
  }
  const until = async (is: () => boolean) => {
    while (!is()) await new Promise((done) => setTimeout(done, 5));
  };

  it("holds its files, empty ones too, and ends broken where one cannot be read", async () => {
    const { address, close } = await served(async function* () {
      yield { path: "a.txt", bytes: strToU8("one".repeat(1000)) };
      yield { path: "b.txt", bytes: new Uint8Array() };
      yield { path: "c.jpg", bytes: new Uint8Array([1, 2, 3]) };
    });
    const files = unzipSync(new Uint8Array(await (await fetch(address)).arrayBuffer()));
    expect(Object.entries(files).map(([path, { length }]) => [path, length])).toEqual([
      ["a.txt", 3000],
      ["b.txt", 0],
      ["c.jpg", 3],
    ]);
    close();
    const broken = await served(async function* () {
      yield { path: "a.txt", bytes: strToU8("one") };
      throw new Error("the disk is gone");
    });
    await expect(fetch(broken.address).then((r) => r.arrayBuffer())).rejects.toThrow();
    expect(broken.ended).toMatchObject([{ message: "the disk is gone" }]);
    broken.close();
  });

  it("is made as it is taken, and no further when the other side leaves", async () => {
    let [made, isLeft] = [0, false];
    const { address, ended, close } = await served(async function* () {
      try {
        for (; made < 400; made += 1) yield { path: `${made}.jpg`, bytes: Buffer.alloc(1e6, made) };
      } finally {
        isLeft = true;
      }
    });
    const answer = await new Promise<IncomingMessage>((done) => get(address, done));
    // Nobody reads: what the sockets hold is made, and then it waits.
    await new Promise((done) => answer.once("readable", done));
    let before = -1;
    await until(() => {
      const isSame = made === before;
      before = made;
      return isSame;
    });
    expect(made).toBeLessThan(100);
    answer.destroy();
    await until(() => isLeft);
    await until(() => ended.length > 0);
    expect(ended).toEqual([null]);
    expect(made).toBeLessThan(100);
    close();
  });
});
