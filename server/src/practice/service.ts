import { randomInt, randomUUID } from "node:crypto";
import { buildNetwork, type Circuit } from "@hound/core/circuit";
import { keyOf } from "@hound/core/configuration";
import { readTrail } from "@hound/core/notation";
import {
  type Act,
  type BenchState,
  benchAtFirst,
  complaintOf,
  doAct,
  drawWorld,
  type Hunt,
  type HuntSummary,
  hiddenOf,
  MOST_ACTS,
  MOST_PARTS,
  type Naming,
  NewHunt,
  NOTHING_BURNT,
  noticedIn,
  type RunFile,
  rightOf,
  situationFor,
  standingOf,
  type Told,
  UNSAFE,
  type World,
  worldOf,
} from "@hound/core/practice";
import { type Meter, meterData, NEW_JOB_FIELDS, type Reading } from "@hound/core/record";
import type { Knex } from "knex";
import { inTransaction } from "../database/transaction.ts";
import { JobRepository } from "../jobs/repository.ts";
import { habitsFor } from "../logbook/habits.ts";
import { Problem } from "../problems.ts";
import type { Reader } from "../threads/threads.ts";
import type { CircuitLook } from "../threads/worker.ts";
import { HuntRepository, type StoredHunt } from "./repository.ts";

/** The stand-in bench: what is hidden stays here until it was named. Each verb is one transaction. */
export class HuntService {
  constructor(
    private readonly db: Knex,
    private readonly now: () => Date,
    private readonly reader: Reader,
    private readonly who: string | null = null,
  ) {}

  /** The same work, done by somebody. */
  as(who: string | null): HuntService {
    return new HuntService(this.db, this.now, this.reader, who);
  }

  async list(limit: number): Promise<{ hunts: HuntSummary[]; total: number }> {
    const { hunts, total } = await new HuntRepository(this.db).list(limit);
    return { hunts: hunts.map(summaryOf), total };
  }

  async find(id: string): Promise<Hunt> {
    return shownOf(found(await new HuntRepository(this.db).find(id)));
  }

  /** The same id twice is the same hunt. */
  async create(asked: NewHunt): Promise<Hunt> {
    const { id, title, trail, seed = randomInt(2 ** 32), parts, ...options } = NewHunt.parse(asked);
    const look = await this.reader.look(trail);
    if (look.partCount > MOST_PARTS)
      throw new Problem("no-hunt", { detail: `a circuit of at most ${MOST_PARTS} parts` });
    const { circuit } = readTrail(trail);
    if (!circuit) throw new Problem("no-hunt", { detail: "the trail has mistakes" });
    const habits = (look.key === "" ? null : await habitsFor(this.db, look.key)) ?? {};
    const world = drawWorld(circuit, seed, { ...options, parts, habits });
    if (typeof world === "string") throw new Problem("no-hunt", { detail: world });
    const first = benchAtFirst(meterData(options.meter));
    const situation = world.situation ?? "complaint";
    const noticed = noticedIn(world);
    return inTransaction(this.db, async (trx) => {
      const hunts = new HuntRepository(trx);
      const made = await hunts.find(id);
      if (made) return shownOf(made);
      const at = this.now().toISOString();
      const { meter, help, limit, costs, count, kinds, set } = options;
      const kept = {
        ...{ id, title, state: "open" as const, count, kinds, help, limit, costs, ...(set ? { set } : {}) },
        ...{ who: this.who ?? "", now: first.now, display: displayAtFirst(world, options.meter, first) },
        ...{ noticed, acts: [], namings: [], best: null, createdAt: at, meter, trail, partCount: circuit.parts.length },
      };
      const hidden = { faults: hiddenOf(world), seed, situation, burnt: first.burnt };
      const stored = { hidden, kept };
      await this.lay(trx, stored, { look, complaint: complaintOf(world, noticed), readings: noticed, at });
      return shownOf(stored);
    });
  }

  /** Takes in a run that was made elsewhere and is over; the same one twice is one. */
  async bring({ trail, meter, hunt }: RunFile): Promise<Hunt> {
    const { truth, ...own } = hunt;
    if (!truth || hunt.state === "open") throw new Problem("no-hunt", { detail: "a run whose hunt is over" });
    const look = await this.reader.look(trail);
    const { circuit } = readTrail(trail);
    const world = circuit ? worldOf(circuit, truth.faults, truth.seed) : "the trail has mistakes";
    if (typeof world === "string") throw new Problem("no-hunt", { detail: world });
    return inTransaction(this.db, async (trx) => {
      const hunts = new HuntRepository(trx);
      const made = await hunts.find(hunt.id);
      if (made) return shownOf(made);
      const kept = { ...own, meter, trail, partCount: look.partCount };
      const hidden = { ...truth, situation: situationFor(hunt.count), burnt: NOTHING_BURNT };
      const stored = { hidden, kept };
      const readings = [...hunt.noticed, ...hunt.acts.flatMap((a) => a.reading ?? [])];
      await this.lay(trx, stored, { look, complaint: "", readings, at: this.now().toISOString() });
      return shownOf(stored);
    });
  }

  /** Lays a hunt on the bench: a job of its own, with its circuit and what was read by then. */
  private async lay(trx: Knex, stored: StoredHunt, { look, complaint, readings, at }: Laid) {
    const { id, title, meter, trail } = stored.kept;
    const jobs = new JobRepository(trx, this.who);
    if (await jobs.find(id)) throw new Problem("id-in-use");
    const { situation } = stored.hidden;
    await jobs.create(id, { title, complaint, ...NEW_JOB_FIELDS, situation, meter, state: "open" }, at);
    await new HuntRepository(trx).create(stored);
    await jobs.addCircuit(id, { trail, look, revision: 0 }, at);
    await jobs.history.add(id, { what: "job", done: "made" }, at);
    for (const reading of readings) await jobs.addReading(id, randomUUID(), { ...reading, takenAt: at }, at);
  }

  /** Does one thing at the bench. @param after how many acts there were before it; the same one again is answered again */
  act(id: string, after: number, act: Act): Promise<{ told: Told; acts: number }> {
    return this.change(id, async (stored, trx) => {
      const { kept, hidden } = stored;
      const before = kept.acts[after];
      if (before) {
        if (JSON.stringify(before.act) !== JSON.stringify(act)) throw new Problem("hunt-moved-on");
        const { act: _, ...told } = before;
        return { stored, answer: { told: { ...told, refused: null }, acts: after + 1 } };
      }
      if (after > kept.acts.length) throw new Problem("hunt-moved-on");
      if (kept.state !== "open") throw new Problem("hunt-over");
      if (kept.acts.length >= MOST_ACTS) throw new Problem("no-hunt", { detail: `at most ${MOST_ACTS} acts` });
      const state: BenchState = { now: kept.now, burnt: hidden.burnt, acts: kept.acts.length };
      const { state: next, told } = doAct(worldIn(stored), meterData(kept.meter), state, act, kept.costs);
      if (told.refused !== null) return { stored, answer: { told, acts: kept.acts.length } };
      const { refused: _, ...brought } = told;
      const acts = [...kept.acts, { act, ...brought }];
      await this.writeDown(trx, id, told);
      return {
        stored: {
          hidden: { ...hidden, burnt: next.burnt },
          kept: { ...kept, acts, now: next.now, display: told.display },
        },
        answer: { told, acts: acts.length },
      };
    });
  }

  /** What is thought to be wrong. A wrong name costs what swapping it costs; the right one ends the hunt. */
  name(id: string, { named, sure }: Pick<Naming, "named" | "sure">): Promise<Hunt> {
    return this.change(id, (stored) => {
      const { kept } = stored;
      if (kept.state !== "open") throw new Problem("hunt-over");
      const right = rightOf(worldIn(stored), named);
      const isOver = right === 1;
      const took = isOver ? 0 : kept.costs.swap * Math.max(1, named.length);
      const naming = { named, sure, right, minutes: kept.now.minutes, took };
      const minutes = kept.now.minutes + took;
      const next: StoredHunt = {
        ...stored,
        kept: {
          ...kept,
          now: { ...kept.now, minutes },
          namings: [...kept.namings, naming],
          state: isOver ? "found" : "open",
        },
      };
      return { stored: next, answer: shownOf(next) };
    });
  }

  giveUp(id: string): Promise<Hunt> {
    return this.change(id, (stored) => {
      const { kept } = stored;
      const next: StoredHunt = kept.state === "open" ? { ...stored, kept: { ...kept, state: "givenUp" } } : stored;
      return { stored: next, answer: shownOf(next) };
    });
  }

  /** What the planner needed in the same world, as it was worked out once the hunt was over. */
  mark(id: string, best: NonNullable<Hunt["best"]>): Promise<Hunt> {
    return this.change(id, (stored) => {
      if (stored.kept.state === "open") throw new Problem("no-hunt", { detail: "marks come when the hunt is over" });
      const next: StoredHunt = { ...stored, kept: { ...stored.kept, best } };
      return { stored: next, answer: shownOf(next) };
    });
  }

  remove(id: string): Promise<void> {
    return inTransaction(this.db, async (trx) => {
      const hunts = new HuntRepository(trx);
      found(await hunts.find(id));
      await hunts.remove(id);
    });
  }

  /** What was read goes into the job's list, and how the circuit stands now into the job. */
  private async writeDown(trx: Knex, id: string, { reading, now }: Told) {
    const jobs = new JobRepository(trx, this.who);
    const job = await jobs.find(id);
    const { circuit } = readTrail(job?.circuit.trail ?? "");
    if (!job || !circuit) return;
    const at = this.now().toISOString();
    const by = this.who === null ? {} : { who: this.who };
    if (reading) await jobs.addReading(id, randomUUID(), { ...reading, ...by, takenAt: at }, at);
    const standing = standingOf(now, buildNetwork(circuit));
    if (keyOf(standing) !== keyOf(job.standing)) await jobs.update(job, { ...job, standing }, at);
  }

  private change<T>(id: string, how: Change<T>): Promise<T> {
    return inTransaction(this.db, async (trx) => {
      const hunts = new HuntRepository(trx);
      const before = found(await hunts.find(id));
      const { stored, answer } = await how(before, trx);
      if (stored !== before) await hunts.update(stored);
      return answer;
    });
  }
}

interface Laid {
  readonly look: CircuitLook;
  readonly complaint: string;
  readonly readings: readonly Reading[];
  readonly at: string;
}

type Change<T> = (
  stored: StoredHunt,
  trx: Knex,
) => { stored: StoredHunt; answer: T } | Promise<{ stored: StoredHunt; answer: T }>;

function found(stored: StoredHunt | null): StoredHunt {
  if (!stored) throw new Problem("hunt-not-found");
  return stored;
}

function worldIn({ kept, hidden }: StoredHunt) {
  const world = worldOf(readTrail(kept.trail).circuit as Circuit, hidden.faults, hidden.seed, hidden.situation);
  if (typeof world === "string") throw new Problem("no-hunt", { detail: world });
  return world;
}

function displayAtFirst(world: World, meter: Meter, first: BenchState) {
  return doAct(world, meterData(meter), first, { act: "touch", lead: "red", at: null }).told.display;
}

/** What may be seen of a hunt: what is hidden once it is over. */
function shownOf({ kept, hidden: { faults, seed } }: StoredHunt): Hunt {
  const { meter: _, trail: __, partCount: ___, ...hunt } = kept;
  return { ...hunt, truth: kept.state === "open" ? null : { faults, seed } };
}

function summaryOf(stored: StoredHunt): HuntSummary {
  const { id, title, state, count, help, set, who, namings, best, createdAt, truth, now, acts } = shownOf(stored);
  const unsafe = acts.reduce((n, a) => n + a.traps.filter((t) => UNSAFE.has(t)).length, 0);
  const shared = { id, title, state, count, help, set, who, namings, best, createdAt, truth };
  return { ...shared, minutes: now.minutes, partCount: stored.kept.partCount, unsafe };
}
