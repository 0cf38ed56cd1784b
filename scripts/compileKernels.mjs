import { createHash } from "node:crypto";
import { existsSync, readdirSync, readFileSync } from "node:fs";
import { createRequire } from "node:module";
import { join } from "node:path";

const folder = join(import.meta.dirname, "..", "core", "assembly");
const FLAGS = ["-O3", "--runtime", "stub", "--noAssert", "--enable", "simd", "--outFile", "kernels.wasm"];

const sha256 = (...texts) => texts.reduce((hash, text) => hash.update(text), createHash("sha256")).digest("hex");

/** What the kernels are made of: their sources, the compiler's version and how it is called. */
export function hashOfSources() {
  const { version } = createRequire(import.meta.url)("assemblyscript/package.json");
  const names = readdirSync(folder).filter((name) => name.endsWith(".ts"));
  return sha256(version, ...FLAGS, ...names.sort().flatMap((name) => [name, readFileSync(join(folder, name))]));
}

/** Hash of the WebAssembly in hexadecimal. */
export const hashOfKernels = (hex) => sha256(hex);

/** The kernels as a TypeScript module with the WebAssembly in hexadecimal, and what it was made of. */
export async function compileKernels() {
  const { default: asc } = await import("assemblyscript/asc");
  let binary;
  const { error, stderr } = await asc.main(["index.ts", ...FLAGS], {
    readFile: (name) => (existsSync(join(folder, name)) ? readFileSync(join(folder, name), "utf8") : null),
    writeFile: (name, contents) => {
      if (name === "kernels.wasm") binary = contents;
    },
    listFiles: () => [],
  });
  if (error) throw new Error(`${error.message}\n${stderr}`);
  const hex = Buffer.from(binary).toString("hex");
  const lines = hex.match(/.{1,110}/g).map((line) => `  "${line}",`);
  return `/** Made from core/assembly by \`npm run kernels\`: WebAssembly in hexadecimal. */\n// sources ${hashOfSources()}\n// kernels ${hashOfKernels(hex)}\nexport const KERNELS = [\n${lines.join("\n")}\n].join("");\n`;
}
