import express from "express";
import { pino } from "pino";
import request from "supertest";
import { expect, it } from "vitest";
import { problemResponse } from "./problemResponse.ts";

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
