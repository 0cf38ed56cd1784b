import { randomBytes } from "node:crypto";
import { deflateSync } from "node:zlib";

/** A picture of noise, which nothing packs: PNG, RFC 2083. */
export function picture(width: number, height: number): Buffer {
  const chunk = (type: string, data: Buffer) => {
    const named = Buffer.concat([Buffer.from(type, "latin1"), data]);
    const ends = Buffer.alloc(8);
    ends.writeUInt32BE(data.length, 0);
    ends.writeUInt32BE(crcOf(named), 4);
    return Buffer.concat([ends.subarray(0, 4), named, ends.subarray(4)]);
  };
  const head = Buffer.alloc(13);
  head.writeUInt32BE(width, 0);
  head.writeUInt32BE(height, 4);
  head.set([8, 2, 0, 0, 0], 8);
  const lines = randomBytes(height * (1 + 3 * width));
  for (let y = 0; y < height; y += 1) lines[y * (1 + 3 * width)] = 0;
  const signature = Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]);
  return Buffer.concat([
    signature,
    chunk("IHDR", head),
    chunk("IDAT", deflateSync(lines, { level: 0 })),
    chunk("IEND", Buffer.alloc(0)),
  ]);
}

function crcOf(bytes: Buffer): number {
  let crc = ~0;
  for (const byte of bytes) {
    crc ^= byte;
    for (let bit = 0; bit < 8; bit += 1) crc = (crc >>> 1) ^ (crc & 1 ? 0xedb88320 : 0);
  }
  return ~crc >>> 0;
}
