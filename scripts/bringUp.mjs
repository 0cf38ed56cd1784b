// Installs and builds what is missing or has changed, and says what it is doing. Plain Node: it runs before anything is installed.
import { spawn, spawnSync } from "node:child_process";
import { createHash } from "node:crypto";
import { existsSync, mkdirSync, readdirSync, readFileSync, rmSync, statSync, writeFileSync } from "node:fs";
import { dirname, join, relative } from "node:path";
import { fileURLToPath } from "node:url";

export const root = dirname(dirname(fileURLToPath(import.meta.url)));
const stamps = join(root, "node_modules", ".stamps");

export function say(message) {
  process.stderr.write(`${message}\n`);
}

/** Runs a command in the project; on failure ends this process with its status. */
export function run(command, args, options = {}) {
  const { status, error } = spawnSync(command, args, { cwd: root, stdio: ["ignore", 2, 2], ...options });
  if (error) say(`${command} could not be started: ${error.message}`);
  if (status !== 0) {
    if (!options.mayFail) process.exit(status ?? 1);
    return false;
  }
  return true;
}

/** Runs a tool of node_modules. */
export function tool(name, args, options) {
  return run(process.execPath, [join(root, "node_modules", ...TOOLS[name]), ...args], options);
}

/** Runs a tool of node_modules while others run. @returns whether it ended well */
export function toolBeside(name, args) {
  return new Promise((done) => {
    const path = join(root, "node_modules", ...TOOLS[name]);
    spawn(process.execPath, [path, ...args], { cwd: root, stdio: ["ignore", 2, 2] })
      .on("error", () => done(false))
      .on("exit", (code) => done(code === 0));
  });
}

const TOOLS = {
  tsc: ["typescript", "bin", "tsc"],
  vite: ["vite", "bin", "vite.js"],
  vitest: ["vitest", "vitest.mjs"],
  biome: ["@biomejs", "biome", "bin", "biome"],
  playwright: ["@playwright", "test", "cli.js"],
};

/** `npm ci`, when the lock file, Node's version or the platform is not what was installed for. */
export function install() {
  const wanted = hashOf(
    [join(root, "package-lock.json")],
    `${process.versions.modules} ${process.platform} ${process.arch}`,
  );
  if (stampIs("install", wanted)) return;
  say("Installing what is missing (a few minutes the first time: one package is compiled) …");
  const prefix = dirname(dirname(process.execPath));
  const headers = existsSync(join(prefix, "include", "node", "node_version.h"));
  const env = { ...process.env, ...(headers ? { npm_package_config_node_gyp_nodedir: prefix } : {}) };
  run("npm", ["ci", "--no-audit", "--no-fund"], { env, shell: process.platform === "win32" });
  stamp("install", wanted);
}

/** Debian's Chromium without windows, for the browser tests: a sixth less work than the whole of it. */
export function browser() {
  if (spawnSync("chromium-headless-shell", ["--version"]).status === 0) return;
  say("Installing Chromium from Debian's packages …");
  const sudo = process.getuid?.() === 0 ? [] : ["sudo"];
  for (const args of [["update"], ["install", "-y", "chromium-headless-shell"]]) {
    const [command, ...rest] = [...sudo, "apt-get", ...args];
    run(command, rest, { env: { ...process.env, DEBIAN_FRONTEND: "noninteractive" } });
  }
}

/** Starts the built server in front; what stops this process stops it. @returns the server's process */
export function serve(env) {
  const server = spawn(process.execPath, [join(root, "server", "dist", "server.js")], {
    cwd: root,
    stdio: ["ignore", "inherit", "inherit"],
    env: { ...process.env, ...env },
  });
  // On Ctrl-C the terminal tells the server itself; this process only waits for it.
  process.on("SIGINT", () => {});
  for (const signal of ["SIGTERM", "SIGHUP"]) process.on(signal, () => server.kill("SIGTERM"));
  server.on("exit", (code) => {
    process.exitCode = code ?? 0;
  });
  return server;
}

/** The types of everything, from clean: an incremental build keeps files of deleted sources and can hide errors. */
export async function checkTypes() {
  const compiled = hashOfCompiled();
  clearCompiled();
  const isSound = await toolBeside("tsc", ["-b", "--force", "--pretty", "false"]);
  if (isSound) stamp("compile", compiled);
  // What is not built is checked besides: tests of server and pages, and the benchmarks.
  const besides = ["server/tsconfig.test.json", "web/tsconfig.test.json", "cli/tsconfig.test.json", "bench"];
  const all = await Promise.all(besides.map((p) => toolBeside("tsc", ["-p", p, "--noEmit", "--pretty", "false"])));
  // Before several tests ask for it at once.
  if (isSound) compile();
  return isSound && all.every(Boolean);
}

/** Compiles core, server, command line and pages; each only when its sources changed. */
export function build({ web = true } = {}) {
  compile();
  if (!web) return;
  const pages = hashOfPages();
  if (arePagesBuilt(pages)) return;
  say("Building the pages …");
  tool("vite", BUILD_PAGES);
  stamp("pages", pages);
}

/** Core, server and command line; these two in few files besides. What looks as it did when it was compiled is not read again. */
function compile() {
  const files = filesOfCompiled();
  const look = lookOf(files);
  const bundles = [join(root, "cli", "dist", "hound.js"), join(root, "server", "dist", "server.js")];
  const areBundled = () => bundles.every((file) => existsSync(file));
  if (stampIs("compileLook", look) && areBundled()) return;
  const compiled = hashOf(files);
  if (!stampIs("compile", compiled) || !existsSync(join(root, "cli", "dist", "main.js"))) {
    say("Compiling …");
    clearCompiled();
    tool("tsc", ["-b", "server", "cli"]);
    stamp("compile", compiled);
  }
  if (!areBundled()) for (const part of ["cli", "server"]) tool("vite", ["build", part, "--logLevel", "warn"]);
  stamp("compileLook", look);
}

/** Builds the pages while something else is done; what goes wrong is left to who needs them. */
export async function buildPagesBeside() {
  const pages = hashOfPages();
  if (!arePagesBuilt(pages) && (await toolBeside("vite", BUILD_PAGES))) stamp("pages", pages);
}

const BUILD_PAGES = ["build", "web", "--logLevel", "warn"];

function hashOfPages() {
  return hashOf(sources(["core/src", "web"]).concat(configs()));
}

function arePagesBuilt(hash) {
  return stampIs("pages", hash) && existsSync(join(root, "web", "dist", "index.html"));
}

function filesOfCompiled() {
  return sources(["core/src", "server/src", "cli/src"]).concat(configs());
}

function hashOfCompiled() {
  return hashOf(filesOfCompiled());
}

/** Names, sizes and times of files: what is the same of these has not changed. */
function lookOf(files) {
  const hash = createHash("sha256");
  for (const file of files.filter((f) => existsSync(f)).sort()) {
    const { size, mtimeMs } = statSync(file);
    hash.update(`${relative(root, file)} ${size} ${mtimeMs}\n`);
  }
  return hash.digest("hex");
}

function clearCompiled() {
  for (const name of ["core", "server", "cli"]) rmSync(join(root, name, "dist"), { recursive: true, force: true });
}

function configs() {
  return [
    "tsconfig.base.json",
    "package-lock.json",
    "core/package.json",
    "server/tsconfig.json",
    "cli/tsconfig.json",
    "cli/vite.config.ts",
    "server/vite.config.ts",
  ].map((f) => join(root, f));
}

function sources(folders) {
  return folders.flatMap((folder) => walk(join(root, folder)));
}

function walk(folder) {
  if (!existsSync(folder)) return [];
  return readdirSync(folder, { withFileTypes: true }).flatMap((entry) => {
    if (entry.name === "dist" || entry.name === "node_modules") return [];
    const path = join(folder, entry.name);
    if (entry.isDirectory()) return walk(path);
    return /\.test\.tsx?$/.test(entry.name) ? [] : [path];
  });
}

function hashOf(files, salt = "") {
  const hash = createHash("sha256").update(salt);
  // By its place within the project: a folder that was copied or moved is still the same.
  for (const file of files.filter((f) => existsSync(f) && statSync(f).isFile()).sort())
    hash.update(relative(root, file)).update(readFileSync(file));
  return hash.digest("hex");
}

function stampIs(name, value) {
  const file = join(stamps, name);
  return existsSync(file) && readFileSync(file, "utf8") === value;
}

function stamp(name, value) {
  mkdirSync(stamps, { recursive: true });
  writeFileSync(join(stamps, name), value);
}
