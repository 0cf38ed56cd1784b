import { Attempt, type NewAttempt, PracticeSet, type ShownSet, shownSet } from "@hound/core/paper";
import type { Hunt } from "@hound/core/practice";
import type { Knex } from "knex";
import { jsonOf } from "../database/json.ts";
import { inTransaction } from "../database/transaction.ts";
import { Problem } from "../problems.ts";
import type { HuntService } from "./service.ts";

interface Row {
  id: string;
  data: string;
  created_at: string;
}

/** Attempts that are told of at most, the newest first. */
const MOST_ATTEMPTS = 2000;

/** What was handed out by a teacher, and exercises on paper that were done. */
export class ExerciseService {
  constructor(
    private readonly db: Knex,
    private readonly hunts: HuntService,
    private readonly now: () => Date,
  ) {}

  async sets(): Promise<ShownSet[]> {
    const rows = await this.db<Row>("exercise_sets").orderBy("created_at", "desc");
    return rows.flatMap((row) => {
      const set = setIn(row);
      return set ? [shownSet(row.id, set)] : [];
    });
  }

  /** The same id twice is the same set. */
  async keep(id: string, set: PracticeSet): Promise<ShownSet> {
    const row = { id, data: JSON.stringify(set), created_at: this.now().toISOString() };
    await this.db("exercise_sets").insert(row).onConflict("id").ignore();
    return shownSet(id, set);
  }

  async removeSet(id: string) {
    if ((await this.db("exercise_sets").where({ id }).del()) === 0) throw new Problem("set-not-found");
  }

  /** Begins a hunt of a set. @param exercise from 1 */
  async start(id: string, exercise: number, hunt: string, who: string | null): Promise<Hunt> {
    const row = await this.db<Row>("exercise_sets").where({ id }).first();
    const set = row && setIn(row);
    const own = set?.exercises[exercise - 1];
    if (!set || own?.what !== "hunt") throw new Problem("set-not-found");
    const { what: _, ...options } = own;
    return this.hunts.as(who).create({ ...options, id: hunt, set: { name: set.name, exercise } });
  }

  async attempts(): Promise<Attempt[]> {
    const rows = await this.db<Row>("attempts").orderBy("created_at", "desc").limit(MOST_ATTEMPTS);
    return rows.flatMap((row) => {
      const read = Attempt.safeParse(jsonOf(row.data));
      return read.success && read.data.id === row.id ? [read.data] : [];
    });
  }

  /** The same id twice is the same attempt. */
  attempted(done: NewAttempt, who: string | null): Promise<Attempt> {
    return inTransaction(this.db, async (trx) => {
      const at = this.now().toISOString();
      const attempt: Attempt = { ...done, who: who ?? "", createdAt: at };
      await trx("attempts")
        .insert({ id: done.id, data: JSON.stringify(attempt), created_at: at })
        .onConflict("id")
        .ignore();
      return attempt;
    });
  }
}

function setIn(row: Row): PracticeSet | null {
  const read = PracticeSet.safeParse(jsonOf(row.data));
  return read.success ? read.data : null;
}
