import { defineConfig } from "vite";

/** The compiled command line as one file: hundreds of small ones take longer to find than a case to rank. */
export default defineConfig({
  build: {
    ssr: "dist/main.js",
    outDir: "dist",
    emptyOutDir: false,
    target: "node20",
    minify: false,
    rollupOptions: { output: { entryFileNames: "hound.js", codeSplitting: false } },
  },
  // The pool of threads is wanted for many cases only, and finds its own parts beside itself.
  ssr: { noExternal: true, external: ["piscina"] },
});
