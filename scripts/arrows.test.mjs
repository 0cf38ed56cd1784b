// The rules of the architecture, each shown to fail on a planted breach.
import { spawnSync } from "node:child_process";
import { mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { dirname, join } from "node:path";
import { fileURLToPath } from "node:url";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { WEB, withArrows } from "./arrows.mjs";

const root = dirname(dirname(fileURLToPath(import.meta.url)));

const REFUSED = [
  ["core/src/units", "../circuit/index.ts", "Arrows point one way"],
  ["core/src/circuit", "../notation/index.ts", "Arrows point one way"],
  ["core/src/notation/trail", "../../solve/index.ts", "Arrows point one way"],
  ["core/src/solve", "../rank/index.ts", "Arrows point one way"],
  ["core/src/rank", "../plan/index.ts", "Arrows point one way"],
  ["core/src/layout", "../rank/index.ts", "Arrows point one way"],
  ["core/src/rank", "../solve/tableau.ts", "through its face"],
  ["core/src/rank/prediction", "../../solve/tableau.ts", "through its face"],
  ["core/src/rank/prediction", "../../plan/index.ts", "Arrows point one way"],
  ["core/src/plan", "../diagnose/index.ts", "Arrows point one way"],
  ["core/src/rank", "node:fs", "knows no interface"],
  ["core/src/rank", "react", "knows no interface"],
  ["core/src/measure", "express", "knows no interface"],
  ["web/src/job", "@hound/server", "pages import core only"],
  ["web/src/job", "node:fs", "pages import core only"],
  ["web/src/words", "../app/Fold.tsx", "of the pages may not"],
  ["web/src/outbox", "../desk/desk.ts", "of the pages may not"],
  ["web/src/board", "../readings/ReadingRow.tsx", "of the pages may not"],
  ["web/src/board", "@hound/server", "pages import core only"],
  ["web/src/sheets", "../job/JobPage.tsx", "of the pages may not"],
  ["server/src", "react", "server imports core only"],
  ["server/src", "@hound/cli", "server imports core only"],
  ["cli/src", "@hound/server", "command line imports core only"],
];
const ALLOWED = [
  ["core/src/rank", "../solve/index.ts"],
  ["core/src/rank/evidence", "./gaussian.ts"],
  ["core/src/rank/evidence", "../prediction/predictor.ts"],
  ["core/src/rank/evidence", "../../faults/index.ts"],
  ["core/src/diagnose", "../plan/index.ts"],
  ["web/src/job", "@hound/core/rank"],
  ["web/src/job", "../sheets/sheets.ts"],
  ["web/src/board", "../desk/useSame.ts"],
  ["server/src", "node:fs"],
];

describe("lint", () => {
  it("has a place for every room of the pages", () => {
    const rooms = readdirSync(join(root, "web/src"), { withFileTypes: true }).filter((entry) => entry.isDirectory());
    expect(rooms.map((room) => room.name).sort()).toEqual([...WEB].sort());
  });

  it("has the rules of the table", () => {
    const config = JSON.parse(readFileSync(join(root, "biome.json"), "utf8"));
    expect(config).toEqual(withArrows(config));
  });

  const all = [...REFUSED, ...ALLOWED];
  const nameOf = (i) => `planted${i}x.ts`;
  let tree;
  let said = "";

  // In a tree of its own: other tests compile the real one meanwhile.
  beforeAll(() => {
    tree = mkdtempSync(join(tmpdir(), "hound-arrows-"));
    const { vcs: _, ...config } = JSON.parse(readFileSync(join(root, "biome.json"), "utf8"));
    writeFileSync(join(tree, "biome.json"), JSON.stringify(config));
    all.forEach(([folder, specifier], i) => {
      mkdirSync(join(tree, folder), { recursive: true });
      writeFileSync(
        join(tree, folder, nameOf(i)),
        `import { thing } from "${specifier}";\nexport const used = thing;\n`,
      );
    });
    const biome = join(root, "node_modules/@biomejs/biome/bin/biome");
    const args = [biome, "lint", "--max-diagnostics=200", "--colors=off", "."];
    const { stdout, stderr } = spawnSync(process.execPath, args, { cwd: tree, encoding: "utf8" });
    said = stdout + stderr;
  });

  afterAll(() => rmSync(tree, { recursive: true, force: true }));

  /** What is reported of one file. */
  const about = (i) =>
    said
      .split(/\n(?=\S+:\d+:\d+ lint)/)
      .filter((block) => block.includes(nameOf(i)) && block.includes("noRestrictedImports"))
      .join("\n");

  it.each(REFUSED.map(([folder, specifier, words], i) => [folder, specifier, words, i]))(
    "refuses %s importing %s",
    (_folder, _specifier, words, i) => {
      expect(about(i)).toContain(words);
    },
  );

  it.each(ALLOWED.map(([folder, specifier], i) => [folder, specifier, REFUSED.length + i]))(
    "allows %s importing %s",
    (_folder, _specifier, i) => {
      expect(about(i)).toBe("");
    },
  );
});

describe("the compiler", () => {
  let folder;
  const planted = {
    "node.ts": 'import { readFileSync } from "node:fs";\nexport const text = readFileSync("x");\n',
    "dom.ts": "export const title = document.title;\n",
    "clock.ts": "export const pid = process.pid;\n",
    "server.ts": 'export { createApp } from "@hound/server";\n',
    "sound.ts": "export const two = Math.sqrt(4);\n",
  };

  beforeAll(() => {
    folder = mkdtempSync(join(root, "core", "planted-"));
    for (const [name, source] of Object.entries(planted)) writeFileSync(join(folder, name), source);
    mkdirSync(join(folder, "out"));
    const options = { composite: false, noEmit: true, rootDir: ".", rewriteRelativeImportExtensions: false };
    writeFileSync(
      join(folder, "tsconfig.json"),
      JSON.stringify({ extends: "../tsconfig.json", compilerOptions: options, include: ["*.ts"], exclude: [] }),
    );
  });

  afterAll(() => rmSync(folder, { recursive: true, force: true }));

  it("keeps Node, the page and the other packages out of core", () => {
    const tsc = join(root, "node_modules/typescript/bin/tsc");
    const { stdout } = spawnSync(process.execPath, [tsc, "-p", folder, "--pretty", "false"], { encoding: "utf8" });
    for (const name of ["node.ts", "dom.ts", "clock.ts", "server.ts"])
      expect(stdout, stdout).toMatch(new RegExp(`${name}\\(\\d+,\\d+\\): error`));
    expect(stdout).not.toContain("sound.ts");
  });
});
