// Who may import whom: one short table, from which the lint rules in biome.json are made (`npm run arrows`).

/** Rooms of core in the order data flows; each may import those before it, but for what is named. */
export const CORE = [
  ["units"],
  ["kernels", { only: [] }],
  ["circuit", { only: ["units"] }],
  ["configuration", { only: ["circuit"] }],
  ["record", { only: ["units", "circuit", "configuration"] }],
  ["notation", { only: ["units", "circuit", "configuration", "record"] }],
  ["solve"],
  ["reduce"],
  ["claims", { only: ["units", "circuit", "solve", "reduce"] }],
  ["measure"],
  ["faults"],
  ["safety", { only: ["units", "circuit", "configuration", "record", "solve"] }],
  ["rank", { rooms: true }],
  ["plan"],
  ["judgement"],
  ["coach"],
  ["whatif", { not: ["plan", "judgement", "coach"] }],
  ["help", { only: ["circuit", "record", "notation", "faults"] }],
  ["repair", { not: ["judgement", "coach"] }],
  ["stream", { only: ["units", "configuration", "record"] }],
  ["layout", { only: ["units", "circuit", "configuration", "record", "notation", "solve", "reduce"] }],
  ["simulate", { not: ["plan", "judgement", "coach", "whatif", "repair", "layout"] }],
  ["diagnose", { not: ["coach", "whatif", "repair", "layout"] }],
  ["practice", { not: ["whatif", "repair", "layout", "diagnose"] }],
  ["paper", { not: ["plan", "judgement", "coach", "whatif", "repair", "layout", "diagnose"] }],
];

/**
 * Rooms of the pages, the lowest first; each may import those before it. What all words and parts of pages are made of; what
 * is kept and sent; the bench's session; the board; a room a stage; pages.
 */
export const WEB = [
  "words",
  "app",
  "api",
  "outbox",
  "trail",
  "desk",
  "frame",
  "ranking",
  "session",
  "lab",
  "line",
  "board",
  "pictures",
  "meter",
  "coach",
  "circuit",
  "expected",
  "whatif",
  "suspects",
  "readings",
  "bench",
  "repair",
  "sheets",
  "job",
  "jobs",
  "library",
  "workshop",
  "failures",
  "sums",
  "paper",
  "practice",
  "help",
];

const OUTSIDE = ["node:*", "react", "react-dom", "express", "knex", "@hound/*", "ml-matrix", "fast-check", "vitest"];
const CORE_ONLY = ["@hound/*", "!@hound/core", "!@hound/core/*"];
const PACKAGES = [
  ["server", [...CORE_ONLY, "react*", "vite*"], "The server imports core only."],
  ["cli", [...CORE_ONLY, "react*", "express", "knex"], "The command line imports core only."],
  [
    "web",
    [...CORE_ONLY, "node:*", "express", "knex", "better-sqlite3"],
    "The pages import core only, and nothing of Node.",
  ],
];

function override(includes, patterns) {
  const noRestrictedImports = { level: "error", options: { patterns } };
  return { includes, linter: { rules: { style: { noRestrictedImports } } } };
}

function coreOverride([room, { only, not = [], rooms = false } = {}], at) {
  const names = CORE.map(([name]) => name);
  const allowed = only ?? names.slice(0, at).filter((name) => !not.includes(name));
  const refused = names.filter((name) => name !== room && !allowed.includes(name));
  const words = allowed.length > 0 ? allowed.join(", ") : "no other folder";
  const faces = ["../../*/*", "!../**/index.ts", "!../**/test/*"];
  const patterns = (isInner) => [
    { group: OUTSIDE, message: "The core knows no interface, no server and no machine." },
    {
      group: isInner ? faces : ["../*/*", ...faces],
      message: "Import another folder through its face, index.ts.",
    },
    ...(refused.length > 0
      ? [
          {
            group: refused.map((name) => `**/${name}/index.ts`),
            message: `Arrows point one way: ${room}/ may import ${words}.`,
          },
        ]
      : []),
  ];
  const outer = override([`core/src/${room}/**`, "!**/*.test.ts"], patterns(false));
  // Rooms inside a folder see each other's files.
  return rooms ? [outer, override([`core/src/${room}/*/**`, "!**/*.test.ts"], patterns(true))] : [outer];
}

/** @param at place of a room among those of the pages: those after it are not for it */
function webOverride(room, at) {
  const [, group, message] = PACKAGES.find(([name]) => name === "web");
  const refused = WEB.slice(at + 1);
  const patterns = [{ group, message }];
  if (refused.length > 0)
    patterns.push({
      group: refused.map((name) => `../${name}/**`),
      message: `Arrows point one way: ${room}/ of the pages may not import what is above it.`,
    });
  return override([`web/src/${room}/**`, "!**/*.test.ts"], patterns);
}

/** biome.json with the rules of the table in it; everything else as it is. */
export function withArrows(config) {
  const packages = PACKAGES.map(([name, group, message]) =>
    override([`${name}/src/**`, "!**/*.test.ts", "!**/test/**"], [{ group, message }]),
  );
  return { ...config, overrides: [...CORE.flatMap(coreOverride), ...packages, ...WEB.map(webOverride)] };
}
