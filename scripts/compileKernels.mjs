import { existsSync, readFileSync } from "node:fs";
import { join } from "node:path";
import asc from "assemblyscript/asc";

const folder = join(import.meta.dirname, "..", "core", "assembly");
const FLAGS = ["-O3", "--runtime", "stub", "--noAssert", "--enable", "simd", "--outFile", "kernels.wasm"];

/** The kernels as a TypeScript module with the WebAssembly in hexadecimal. */
export async function compileKernels() {
  let binary;
  const { error, stderr } = await asc.main(["index.ts", ...FLAGS], {
    readFile: (name) => (existsSync(join(folder, name)) ? readFileSync(join(folder, name), "utf8") : null),
    writeFile: (name, contents) => {
      if (name === "kernels.wasm") binary = contents;
    },
    listFiles: () => [],
  });
  if (error) throw new Error(`${error.message}\n${stderr}`);
  const lines = Buffer.from(binary)
    .toString("hex")
    .match(/.{1,110}/g)
    .map((line) => `  "${line}",`);
  return `/** Made from core/assembly by \`npm run kernels\`: WebAssembly in hexadecimal. */\nexport const KERNELS = [\n${lines.join("\n")}\n].join("");\n`;
}
