import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { defaultClientConditions, defineConfig, loadEnv } from "vite";
import { offline } from "./offline.ts";

export default defineConfig(({ mode }) => {
  const { HOUND_API = "4621" } = loadEnv(mode, ".", "HOUND_");
  return {
    plugins: [react(), tailwindcss(), offline()],
    resolve: { conditions: ["source", ...defaultClientConditions] },
    build: { outDir: "dist", emptyOutDir: true, target: "es2022", assetsInlineLimit: 0 },
    worker: { format: "es" },
    server: {
      strictPort: true, // The host stays as asked for: the server compares it with where a page comes from.
      proxy: { "/api": { target: `http://127.0.0.1:${HOUND_API}`, changeOrigin: false } },
    },
  };
});
