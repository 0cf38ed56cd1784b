import { writeFileSync } from "node:fs";
import { join } from "node:path";
import type { Plugin } from "vite";

/** The page of a job, whose code is fetched together with the first, not after it. */
const PAGE = "/job/JobPage.tsx";

/**
 * Writes a script that, on the address of a job, asks at once for the code of its page, for the job itself and for what
 * ranks: all come while the first code is still read.
 */
export function early(): Plugin {
  return {
    name: "early",
    apply: "build",
    writeBundle: ({ dir }, bundle) => {
      const chunks = Object.values(bundle).filter((c) => c.type === "chunk");
      const first = chunks.find((c) => c.facadeModuleId?.endsWith(PAGE));
      const wanted = new Set<string>();
      const walk = (name: string) => {
        if (wanted.has(name)) return;
        wanted.add(name);
        for (const next of chunks.find((c) => c.fileName === name)?.imports ?? []) walk(next);
      };
      if (first) walk(first.fileName);
      const worker = Object.keys(bundle).find((name) => /(?:^|\/)rank\.worker-[^/]*\.js$/.test(name));
      const files = JSON.stringify([...wanted].map((name) => `/${name}`));
      const script = `const [, job] = /^\\/jobs\\/([0-9a-f-]{36})(?:\\/|$)/.exec(location.pathname) ?? [];
if (job) {
  const ask = (rel, href, as) => document.head.append(Object.assign(document.createElement("link"), { rel, href, ...as }));
  for (const file of ${files}) ask("modulepreload", file);
  ask("preload", "/api/jobs/" + job, { as: "fetch", crossOrigin: "anonymous" });
  // What ranks is fetched and compiled while the page is still drawn.
  if (/\\/(?:readings|suspects|whatif)$/.test(location.pathname)) globalThis.earlyWorker = new Worker("/${worker}", { type: "module" });
}
`;
      writeFileSync(join(dir ?? "dist", "early.js"), script);
    },
  };
}
