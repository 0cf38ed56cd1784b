import express from "express";
import { pino } from "pino";
import request from "supertest";
import { expect, it } from "vitest";
import { problemResponse, withoutValues } from "./problemResponse.ts";

/** Answers with an error of the given code, and what the log holds then. */
async function thrown(code: string, besides: object = {}) {
  const lines: string[] = [];
  const app = express();
  app.post("/", (_, __, next) => next(Object.assign(new Error("gone"), { code, ...besides })));
  app.use(problemResponse(pino({ level: "error" }, { write: (line: string) => lines.push(line) })));
  const { status } = await request(app).post("/");
  return { status, logged: lines.length };
}

it.each(["ERR_WORKER_OUT_OF_MEMORY", "ERR_OUT_OF_RANGE", "ERR_INVALID_ARG_TYPE", "ERR_INTERNAL_ASSERTION", "EMFILE"])(
  "what went wrong here is a fault of ours, logged, and never laid at the sender's door: %s",
  async (code) => {
    expect(await thrown(code)).toEqual({ status: 500, logged: 1 });
  },
);

it.each(["Z_DATA_ERROR", "Z_BUF_ERROR", "ERR__ERROR_FORMAT_PADDING_1"])(
  "a body that cannot be unpacked is refused: %s",
  async (code) => {
    expect(await thrown(code)).toEqual({ status: 400, logged: 0 });
  },
);

it.each(["SQLITE_FULL", "ENOSPC", "EDQUOT"])("a disk without room is said so, whoever found out: %s", async (code) => {
  expect(await thrown(code)).toEqual({ status: 507, logged: 1 });
});

it("the log tells what kind of statement failed, and nothing of what was typed", () => {
  const typed = "insert into `jobs` (`title`) values ('Ann Miller - at home') - UNIQUE constraint failed: jobs.id";
  const error = Object.assign(new Error(typed), { code: "SQLITE_CONSTRAINT" });
  const logged = JSON.stringify(withoutValues(error));
  expect(logged).not.toContain("Miller");
  for (const kept of ["insert into `jobs`", "UNIQUE constraint failed", "SQLITE_CONSTRAINT", "problemResponse.test"])
    expect(logged).toContain(kept);
});
