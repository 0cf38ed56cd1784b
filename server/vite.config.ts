import { defineConfig } from "vite";

/** The compiled server and its worker in a few files: hundreds of small ones take longer to find than all else at a start. */
export default defineConfig({
  build: {
    ssr: true,
    outDir: "dist",
    emptyOutDir: false,
    target: "node20",
    minify: false,
    rollupOptions: {
      input: { server: "dist/main.js", worker: "dist/threads/worker.js" },
      output: { entryFileNames: "[name].js", chunkFileNames: "of-[name].js" },
    },
  },
  // What has compiled parts, or looks for files of its own beside itself.
  ssr: { noExternal: true, external: ["better-sqlite3", "knex", "pino", "pino-http", "piscina", "sharp"] },
});
