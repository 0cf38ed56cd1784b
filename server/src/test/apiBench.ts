import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import type { Knex } from "knex";
import { pino } from "pino";
import request from "supertest";
import { afterEach, beforeEach } from "vitest";
import { createApp } from "../app.ts";
import { openDatabase } from "../database/open.ts";
import { PATIENT } from "./patient.ts";

interface ApiBench {
  readonly folder: string;
  readonly db: Knex;
  readonly api: ReturnType<typeof request>;
  /** Milliseconds; every look at the clock moves it on by a step. */
  clock: number;
  /** Opens the database of the folder once more, as after a restart. */
  open(): Promise<void>;
}

/**
 * For each test of a file the API on a database of its own, in a folder of its own, with a clock of its own.
 * @param begin where the clock begins, and how far each look moves it, in milliseconds
 */
export function apiBench(
  begin = { at: Date.UTC(2026, 0, 5, 9), step: 1000 },
  more: Partial<Parameters<typeof createApp>[0]> = {},
): ApiBench {
  let [folder, clock] = ["", 0];
  let db: Knex;
  let api: ReturnType<typeof request>;
  const now = () => {
    clock += begin.step;
    return new Date(clock);
  };
  const open = async () => {
    db = await openDatabase(join(folder, "hound.sqlite"));
    api = request(createApp({ db, log: pino({ level: "silent" }), now, limits: PATIENT, ...more }));
  };
  beforeEach(async () => {
    folder = mkdtempSync(join(tmpdir(), "hound-"));
    clock = begin.at;
    await open();
  });
  afterEach(async () => {
    await db.destroy();
    rmSync(folder, { recursive: true, force: true });
  });
  return {
    get folder() {
      return folder;
    },
    get db() {
      return db;
    },
    get api() {
      return api;
    },
    get clock() {
      return clock;
    },
    set clock(to) {
      clock = to;
    },
    open,
  };
}
