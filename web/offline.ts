import { createHash } from "node:crypto";
import { readdirSync, readFileSync } from "node:fs";
import { join, relative } from "node:path";
import { build, type Plugin } from "vite";

/** Files with a hash in their name never change; the others are told apart by what is in them. */
const HASHED = /^assets\//;

/** Builds the service worker beside the pages, with the list of all that was built. */
export function offline(): Plugin {
  let folder = "dist";
  return {
    name: "offline",
    apply: "build",
    configResolved: (config) => {
      folder = join(config.root, config.build.outDir);
    },
    closeBundle: {
      sequential: true,
      handler: async () => {
        const files = readdirSync(folder, { recursive: true, withFileTypes: true })
          .filter((entry) => entry.isFile())
          .map((entry) => relative(folder, join(entry.parentPath, entry.name)).replaceAll("\\", "/"))
          .filter((name) => name !== "sw.js" && !name.startsWith("types/") && !/\.(?:br|gz)$/.test(name))
          .sort();
        const list = files.map((name) => ({
          url: `/${name}`,
          revision: HASHED.test(name)
            ? null
            : createHash("sha256")
                .update(readFileSync(join(folder, name)))
                .digest("hex")
                .slice(0, 16),
        }));
        await build({
          configFile: false,
          logLevel: "warn",
          publicDir: false,
          define: { BUILT_FILES: JSON.stringify(list), "process.env.NODE_ENV": '"production"' },
          build: {
            outDir: folder,
            emptyOutDir: false,
            lib: {
              entry: join(import.meta.dirname, "src/serviceWorker.ts"),
              formats: ["iife"],
              name: "sw",
              fileName: () => "sw.js",
            },
          },
        });
      },
    },
  };
}
