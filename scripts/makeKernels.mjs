// Compiles core/assembly to WebAssembly, and writes it as text into core/src/kernels/kernels.wasm.ts.
import { writeFileSync } from "node:fs";
import { join } from "node:path";
import { install, root } from "./bringUp.mjs";
import { compileKernels } from "./compileKernels.mjs";

install();
writeFileSync(join(root, "core", "src", "kernels", "kernels.wasm.ts"), await compileKernels());
