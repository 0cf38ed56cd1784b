import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { defaultClientConditions, defineConfig, loadEnv } from "vite";

export default defineConfig(({ mode }) => {
  const { HOUND_API = "4621" } = loadEnv(mode, ".", "HOUND_");
  return {
    plugins: [react(), tailwindcss()],
    resolve: { conditions: ["source", ...defaultClientConditions] },
    build: { outDir: "dist", emptyOutDir: true, target: "es2022", assetsInlineLimit: 0 },
    worker: { format: "es" },
    server: { strictPort: true, proxy: { "/api": `http://127.0.0.1:${HOUND_API}` } },
  };
});
