import { readdirSync, readFileSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { brotliCompressSync, constants, gzipSync } from "node:zlib";
import type { Plugin } from "vite";

const TEXTS = /\.(?:js|css|html|svg|json)$/;
/** Smaller files gain nothing. */
const LEAST = 900;

/** Writes every text compressed beside it, as small as it goes: the server has nothing to work out while a page loads. */
export function compressed(): Plugin {
  let folder = "dist";
  return {
    name: "compressed",
    apply: "build",
    configResolved: (config) => {
      folder = join(config.root, config.build.outDir);
    },
    closeBundle: {
      order: "post",
      sequential: true,
      handler: () => {
        for (const entry of readdirSync(folder, { recursive: true, withFileTypes: true })) {
          if (!entry.isFile() || !TEXTS.test(entry.name)) continue;
          const file = join(entry.parentPath, entry.name);
          const text = readFileSync(file);
          if (text.length < LEAST) continue;
          const quality = { [constants.BROTLI_PARAM_QUALITY]: 10, [constants.BROTLI_PARAM_SIZE_HINT]: text.length };
          writeFileSync(`${file}.br`, brotliCompressSync(text, { params: quality }));
          writeFileSync(`${file}.gz`, gzipSync(text, { level: 9 }));
        }
      },
    },
  };
}
