import type { Circuit } from "@hound/core/circuit";
import { expectedOf, exposureOf, habitsOf } from "@hound/core/faults";
import type { World } from "@hound/core/practice";
import { prepare, rankFaults } from "@hound/core/rank";
import { type FaultCount, Habits, type PartCount, type Priors } from "@hound/core/record";
import { drawCircuit, type Random, seededRandom } from "@hound/core/simulate";
import { row } from "./timing.ts";
import { Bench, drawWorld, follow } from "./worlds.ts";

/**
 * A workshop of 300 jobs on eight circuits, each job ranked with what the jobs before it taught and without: the log
 * score of the true repair after three readings, and the minutes of the last two hundred jobs from the
 * complaint to the verdict (a wrong repair costs a swap). Once with habits unlike the tables (plugs and resistors that
 * fail often, a weak part in each circuit), once with habits just like them. `HOUND_JOBS=300`.
 */
const JOBS = Number(process.env.HOUND_JOBS ?? 300);
const CIRCUITS = 8;
const READINGS = 3;
const TIMED_FROM = 100;
const WRONG = 6;

const UNLIKE: Priors = {
  rates: { connector: 60, resistor: 4, lamp: 4, fuse: 3, supply: 2, coil: 9, sensor: 1, bridge: 0.05 },
};

interface Job {
  readonly circuit: number;
  readonly parts: readonly PartCount[];
  readonly kinds: readonly FaultCount[];
}

/** What the server would say of the closed jobs. */
function habitsAfter(jobs: readonly Job[], circuits: readonly Circuit[]): Habits {
  const due = (own: readonly Job[]) => {
    const sums: Record<string, number> = {};
    for (const { circuit, kinds } of own)
      for (const [kind, n] of Object.entries(expectedOf(exposureOf(circuits[circuit]), kinds.length)))
        sums[kind] = (sums[kind] ?? 0) + (n ?? 0);
    return sums;
  };
  return Habits.parse({
    settings: { revision: 0 },
    jobs: jobs.length,
    kinds: jobs.flatMap((j) => j.kinds),
    expected: due(jobs),
    circuits: circuits.map((_, c) => {
      const own = jobs.filter((j) => j.circuit === c);
      const counts = new Map<string, PartCount>();
      for (const one of own.flatMap((j) => j.parts)) {
        const key = `${one.part} ${one.mode}`;
        counts.set(key, { ...one, count: (counts.get(key)?.count ?? 0) + 1 });
      }
      return {
        circuit: String(c),
        name: "",
        jobs: own.length,
        kinds: own.flatMap((j) => j.kinds),
        expected: due(own),
        parts: [...counts.values()],
      };
    }),
  });
}

function jobOf(world: World, circuit: number): Job {
  const prepared = prepare({ circuit: world.circuit, readings: [] });
  if (prepared.kind === "problem") throw new Error(prepared.message);
  const { nodes, branches } = prepared.network;
  const found = world.faults.map(({ site }) => {
    if (site.branch >= 0)
      return { kind: branches[site.branch].kind, part: branches[site.branch].name, mode: site.mode };
    const names = prepared.set.bridges[site.bridge].map((n) => nodes[n]).sort();
    return { kind: "bridge" as const, part: names.join("~"), mode: "bridged" as const };
  });
  return {
    circuit,
    parts: found.map(({ part, mode }) => ({ part, mode, count: 1 })),
    kinds: found.map(({ kind, mode }) => ({ kind, mode, count: 1 })),
  };
}

/** Log of the probability that the ranking gives to what is wrong, after some readings at nodes. */
function scoreOf(world: World, job: Job, points: readonly string[], habits: Priors | undefined): number {
  const bench = new Bench(world);
  const readings = points.flatMap((from) => bench.read({ quantity: "voltage", from, value: 0 }, {}) ?? []);
  const ranking = rankFaults({ circuit: world.circuit, readings, ...(habits ? { habits } : {}) }, { pairs: false });
  if (ranking.kind === "problem") return 0;
  const wanted = [...new Set(job.parts.map((p) => p.part.split(".")[0]))].sort().join();
  const p = ranking.repairs.find(
    (r) =>
      r.repair
        .map((s) => ("part" in s ? s.part : [...s.nodes].sort().join("~")))
        .sort()
        .join() === wanted,
  );
  return Math.log(Math.max(p?.probability ?? 0, 1e-6));
}

function workshop(name: string, truth: Priors, weak: boolean, random: Random) {
  const circuits = Array.from({ length: CIRCUITS }, () => drawCircuit(7 + Math.floor(random.next() * 7), random));
  const habitsIn = circuits.map(({ parts }): Priors => {
    const own = parts[Math.floor(random.next() * parts.length)].designator;
    return weak ? { ...truth, pinned: [{ part: own }] } : truth;
  });
  const jobs: Job[] = [];
  const sum = { learnt: 0, tables: 0, n: 0, minutesLearnt: 0, minutesTables: 0, timed: 0 };
  for (let n = 0; n < JOBS; n += 1) {
    const c = Math.floor(random.next() * CIRCUITS);
    const world = drawWorld(random, 9000 + n, { circuit: circuits[c], habits: habitsIn[c] });
    const job = jobOf(world, c);
    const learnt = habitsOf(habitsAfter(jobs, circuits), String(c));
    const nodes = world.network.nodes.filter((_, i) => i !== world.network.reference);
    const points = nodes.sort(() => random.next() - 0.5).slice(0, READINGS);
    sum.learnt += scoreOf(world, job, points, learnt);
    sum.tables += scoreOf(world, job, points, undefined);
    sum.n += 1;
    if (n >= TIMED_FROM) {
      const [one, other] = [follow(world, { habits: learnt }), follow(world)];
      if (!("kind" in one) && !("kind" in other)) {
        sum.minutesLearnt += one.minutes + (1 - one.right) * WRONG;
        sum.minutesTables += other.minutes + (1 - other.right) * WRONG;
        sum.timed += 1;
      }
    }
    jobs.push(job);
  }
  row(`learning: ${name}`, `${sum.n} jobs`);
  row("  mean log score, learnt and tables", (sum.learnt / sum.n).toFixed(4), (sum.tables / sum.n).toFixed(4));
  row(
    "  minutes, learnt and tables",
    (sum.minutesLearnt / sum.timed).toFixed(2),
    (sum.minutesTables / sum.timed).toFixed(2),
    `${sum.timed} jobs`,
  );
  row(
    "  learnt beside tables",
    `score ${(sum.learnt / sum.tables).toFixed(3)}`,
    `minutes ${(sum.minutesLearnt / sum.minutesTables).toFixed(3)}`,
  );
}

const SEED = Number(process.env.HOUND_SEED ?? 31);
workshop("habits unlike the tables", UNLIKE, true, seededRandom(SEED));
workshop("habits like the tables", {}, false, seededRandom(SEED + 1));
