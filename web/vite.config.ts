import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { defaultClientConditions, defineConfig, loadEnv } from "vite";
import { compressed } from "./compressed.ts";
import { early } from "./early.ts";
import { offline } from "./offline.ts";

const OURS = /\/(?:core|web)\/src\/(?!trail\/)/;
const SMALL = { maxModuleSize: 40_000 } as const;

/** Few files instead of many small ones: each is a request of its own. The editor comes with what shows a trail. */
const GROUPS = [
  // What every page needs …
  {
    name: "base",
    test: /node_modules\/(?:react|react-dom|scheduler|react-router|cookie|set-cookie-parser|@tanstack\/(?:react-query|query-core)|zod|idb|workbox-window)\//,
  },
  { name: "icons", test: /node_modules\/lucide-react\// },
  { name: "parts", test: /node_modules\/(?!@codemirror|@lezer)/, minShareCount: 3, ...SMALL },
  // … what most stages of a job share, and what two or three do.
  { name: "shared", test: OURS, minShareCount: 3, ...SMALL },
  { name: "job", test: OURS, minShareCount: 2, ...SMALL },
] as const;

export default defineConfig(({ mode }) => {
  const { HOUND_API = "4621" } = loadEnv(mode, ".", "HOUND_");
  return {
    plugins: [react(), tailwindcss(), early(), offline(), compressed()],
    resolve: { conditions: ["source", ...defaultClientConditions] },
    build: {
      outDir: "dist",
      emptyOutDir: true,
      target: "es2022",
      assetsInlineLimit: 0,
      rolldownOptions: { output: { codeSplitting: { includeDependenciesRecursively: false, groups: [...GROUPS] } } },
    },
    worker: { format: "es" },
    server: {
      strictPort: true, // The host stays as asked for: the server compares it with where a page comes from.
      proxy: { "/api": { target: `http://127.0.0.1:${HOUND_API}`, changeOrigin: false } },
    },
  };
});
