import { isUtf8 } from "node:buffer";
import { isWellFormed } from "@hound/core/record";
import type { RequestHandler } from "express";
import { Problem } from "../problems.ts";

/** Brackets within brackets: nothing that is sent has more than a dozen. */
const DEEPEST = 100;
const [QUOTE, BACKSLASH] = [0x22, 0x5c];
const [OPEN, CLOSE] = [new Set([0x5b, 0x7b]), new Set([0x5d, 0x7d])];

/**
 * Before a body is read: JSON is UTF-8, and what is nested deeper than anything that is meant would take the stack of
 * whoever walks through it.
 * @throws Problem
 */
export function refuseUnreadable(_request: unknown, _response: unknown, body: Buffer) {
  if (!isUtf8(body)) throw new Problem("invalid-input", { detail: "the body is not UTF-8 text" });
  let depth = 0;
  let isText = false;
  for (let at = 0; at < body.length; at += 1) {
    const byte = body[at];
    if (isText) {
      if (byte === BACKSLASH) at += 1;
      else if (byte === QUOTE) isText = false;
    } else if (byte === QUOTE) isText = true;
    else if (OPEN.has(byte)) depth += 1;
    else if (CLOSE.has(byte)) depth -= 1;
    if (depth > DEEPEST) throw new Problem("invalid-input", { detail: `the body is nested more than ${DEEPEST} deep` });
  }
}

/** After it was read: every text in it is whole, and no key stands for what every object has. */
export const refuseUnsound: RequestHandler = (request, _response, next) => {
  const at = unsoundAt(request.body);
  if (at !== null)
    throw new Problem("invalid-input", {
      errors: [{ pointer: at, detail: "half a character, or a name that objects have of their own" }],
    });
  next();
};

/** @returns where there is half a character or a key `__proto__`; null where all is sound */
export function unsoundAt(value: unknown): string | null {
  const left: [unknown, string][] = [[value, ""]];
  for (let next = left.pop(); next; next = left.pop()) {
    const [one, at] = next;
    if (typeof one === "string" && !isWellFormed(one)) return at;
    if (typeof one !== "object" || one === null || Buffer.isBuffer(one)) continue;
    for (const [key, inner] of Object.entries(one)) {
      if (key === "__proto__" || !isWellFormed(key)) return at;
      left.push([inner, `${at}/${key}`]);
    }
  }
  return null;
}
