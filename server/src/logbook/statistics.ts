import type { Kind, Mode } from "@hound/core/circuit";
import type { Rate, Statistics } from "@hound/core/record";
import type { Knex } from "knex";

/** Circuits and parts listed at most, those that failed most. */
const MOST_CIRCUITS = 50;
const MOST_PARTS = 8;
/** Edges of the classes of what was said. */
const EDGES = [0, 0.05, 0.2, 0.4, 0.6, 0.8, 0.95] as const;

/** Jobs that count: closed, not deleted. */
const CLOSED = "outcome IS NOT NULL AND deleted_at IS NULL";

/** What fails here, over all closed jobs. */
export async function statisticsOf(db: Knex): Promise<Statistics> {
  const all = <T>(sql: string, ...values: readonly (string | number)[]) => db.raw(sql, [...values]) as Promise<T[]>;
  const outcomes = await all<{ outcome: string; n: number }>(
    `SELECT outcome, count(*) AS n FROM logbook WHERE ${CLOSED} GROUP BY outcome`,
  );
  const by = (outcome: string) => outcomes.find((o) => o.outcome === outcome)?.n ?? 0;
  const found = by("found");
  return {
    closed: outcomes.reduce((sum, o) => sum + o.n, 0),
    outcomes: { found, nothing: by("nothing"), givenUp: by("givenUp") },
    ...(await circuitsOf(all)),
    kinds: await kindsOf(all),
    minutes: await minutesOf(all),
    firstRight: await firstRightOf(all),
    calibration: await calibrationOf(all),
  };
}

type All = <T>(sql: string, ...values: readonly (string | number)[]) => Promise<T[]>;

async function circuitsOf(all: All): Promise<Pick<Statistics, "circuits" | "moreCircuits">> {
  const circuits = await all<{ circuit: string; name: string; jobs: number; minutes: number | null }>(
    `SELECT circuit, max(CASE WHEN circuit_name = '' THEN title ELSE circuit_name END) AS name, count(*) AS jobs, avg(minutes) AS minutes
     FROM logbook WHERE ${CLOSED} AND outcome = 'found' AND circuit <> '' GROUP BY circuit ORDER BY jobs DESC, name LIMIT ${MOST_CIRCUITS}`,
  );
  const [{ n }] = await all<{ n: number }>(
    `SELECT count(DISTINCT circuit) AS n FROM logbook WHERE ${CLOSED} AND outcome = 'found' AND circuit <> ''`,
  );
  const marks = circuits.map(() => "?").join(", ");
  const parts = await all<{ circuit: string; part: string; mode: Mode; n: number }>(
    `SELECT f.circuit, f.part, f.mode, count(DISTINCT f.job_id) AS n FROM found_faults f JOIN logbook l ON l.job_id = f.job_id
     WHERE l.deleted_at IS NULL AND f.circuit IN (${marks}) GROUP BY f.circuit, f.part, f.mode ORDER BY n DESC, f.part`,
    ...circuits.map((c) => c.circuit),
  );
  return {
    circuits: circuits.map(({ circuit, name, jobs, minutes }) => ({
      circuit,
      name,
      jobs,
      minutes,
      parts: parts
        .filter((p) => p.circuit === circuit)
        .slice(0, MOST_PARTS)
        .map(({ part, mode, n: times }) => ({ part, mode, rate: rateOf(times, jobs) })),
    })),
    moreCircuits: n - circuits.length,
  };
}

async function kindsOf(all: All): Promise<Statistics["kinds"]> {
  const rows = await all<{ kind: Kind | "bridge"; mode: Mode; n: number }>(
    `SELECT f.kind, f.mode, count(*) AS n FROM found_faults f JOIN logbook l ON l.job_id = f.job_id
     WHERE l.deleted_at IS NULL AND f.kind <> '' GROUP BY f.kind, f.mode ORDER BY n DESC`,
  );
  const total = rows.reduce((sum, r) => sum + r.n, 0);
  const names = [...new Set(rows.map((r) => r.kind))];
  return names
    .map((kind) => {
      const own = rows.filter((r) => r.kind === kind);
      const times = own.reduce((sum, r) => sum + r.n, 0);
      return {
        kind,
        rate: rateOf(times, total),
        modes: own.map((r) => ({ mode: r.mode, rate: rateOf(r.n, times) })),
      };
    })
    .sort((a, b) => b.rate.times - a.rate.times);
}

async function minutesOf(all: All): Promise<Statistics["minutes"]> {
  const where = `${CLOSED} AND outcome = 'found' AND minutes IS NOT NULL`;
  const [{ n }] = await all<{ n: number }>(`SELECT count(*) AS n FROM logbook WHERE ${where}`);
  const middle = await all<{ minutes: number }>(
    `SELECT minutes FROM logbook WHERE ${where} ORDER BY minutes LIMIT 1 OFFSET ?`,
    Math.floor((n - 1) / 2),
  );
  return { median: n > 0 ? middle[0].minutes : null, counted: n };
}

async function firstRightOf(all: All): Promise<Rate> {
  const [{ times, n }] = await all<{ times: number | null; n: number }>(
    `SELECT sum(first_right) AS times, count(first_right) AS n FROM logbook WHERE ${CLOSED}`,
  );
  return rateOf(times ?? 0, n);
}

async function calibrationOf(all: All): Promise<Statistics["calibration"]> {
  const cases = EDGES.map((edge, i) => `WHEN probability >= ${edge} THEN ${i}`).reverse();
  const rows = await all<{ class: number; said: number; times: number; n: number }>(
    `SELECT CASE ${cases.join(" ")} END AS class, avg(probability) AS said, sum(was_true) AS times, count(*) AS n
     FROM said JOIN logbook l ON l.job_id = said.job_id WHERE l.deleted_at IS NULL GROUP BY class ORDER BY class`,
  );
  return rows.map(({ said, times, n }) => ({ said, rate: rateOf(times, n) }));
}

/** Two-sided 95 %. */
const Z = 1.959964;

/** A count of so many, with Wilson's score interval (E. B. Wilson, J. Am. Stat. Assoc. 22, 1927). */
export function rateOf(times: number, of: number): Rate {
  if (of === 0) return { times, of, low: 0, high: 1 };
  const p = times / of;
  const z2 = (Z * Z) / of;
  const middle = (p + z2 / 2) / (1 + z2);
  const half = (Z * Math.sqrt((p * (1 - p)) / of + z2 / (4 * of))) / (1 + z2);
  return { times, of, low: Math.max(0, middle - half), high: Math.min(1, middle + half) };
}
