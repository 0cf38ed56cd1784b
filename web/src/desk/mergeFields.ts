import type { JobField } from "@hound/core/record";
import { isSameData } from "../app/isSameData.ts";
import type { Fields, Op } from "./ops.ts";

/** Fields that hold several things, of which two people may change one each. Of all others, what is set last holds. */
const SEVERAL: readonly JobField[] = ["details", "meter", "priors", "standing", "tags", "claims", "work"];

/** What was changed here, put on what others made of it meanwhile: lists keep what both added and lose what either took off. */
export function mergeFields(base: Fields, mine: Fields, theirs: Fields): Fields {
  const fields = Object.entries(mine).map(([name, value]) => {
    const field = name as JobField;
    return [field, SEVERAL.includes(field) ? merged(base[field], value, theirs[field]) : value];
  });
  return Object.fromEntries(fields) as Fields;
}

/** Changes of fields as they are once others changed the job from `base` to `theirs`. */
export function onTopOf(pending: readonly Op[], base: Fields, theirs: Fields): readonly Op[] {
  if (SEVERAL.every((field) => isSameData(base[field], theirs[field]))) return pending;
  return pending.map((op) => (op.op === "set" ? { ...op, fields: mergeFields(base, op.fields, theirs) } : op));
}

function merged(base: unknown, mine: unknown, theirs: unknown): unknown {
  if (isSameData(theirs, base) || isSameData(mine, theirs)) return mine;
  if (isSameData(mine, base)) return theirs;
  if (Array.isArray(mine) && Array.isArray(theirs)) return mergedList(Array.isArray(base) ? base : [], mine, theirs);
  if (!isRecord(mine) || !isRecord(theirs)) return mine;
  const before = isRecord(base) ? base : {};
  const names = [...new Set([...Object.keys(theirs), ...Object.keys(mine)])];
  const entries = names.map((name) => [name, merged(before[name], mine[name], theirs[name])] as const);
  return Object.fromEntries(entries.filter(([, value]) => value !== undefined));
}

function mergedList(base: readonly unknown[], mine: readonly unknown[], theirs: readonly unknown[]): unknown[] {
  const [was, own] = [base, mine].map((list) => new Map(list.map((one) => [keyOf(one), one])));
  const kept = theirs.flatMap((one) => {
    const key = keyOf(one);
    if (own.has(key)) return [merged(was.get(key), own.get(key), one)];
    return was.has(key) ? [] : [one];
  });
  const there = new Set(theirs.map(keyOf));
  // What they took off is gone, unless it was changed here.
  const added = mine.filter((one) => {
    const key = keyOf(one);
    return !there.has(key) && !(was.has(key) && isSameData(was.get(key), one));
  });
  return [...kept, ...added];
}

/** What tells the things of a list apart. */
function keyOf(one: unknown): string {
  if (!isRecord(one)) return JSON.stringify(one);
  const name = one.id ?? one.part ?? one.name ?? one.nodes;
  return name === undefined ? JSON.stringify(one) : JSON.stringify(name);
}

const isRecord = (value: unknown): value is Readonly<Record<string, unknown>> =>
  typeof value === "object" && value !== null && !Array.isArray(value);
