import type { Trail } from "@hound/core/notation";
import type { Job } from "@hound/core/record";
import { newId } from "../app/newId.ts";
import { readOnce } from "../trail/readOnce.ts";
import { mergeTrails } from "./merge.ts";
import { onTopOf } from "./mergeFields.ts";
import { follow, namesIn } from "./moved.ts";
import { type Draft, type Op, type Refused, withFields } from "./ops.ts";
import { renamingOps } from "./renamings.ts";

/** A job as it is here: as the server had it last, and what was done to it since. */
export interface Here {
  readonly stored: Job;
  readonly text: string;
  readonly trail: Trail;
  readonly pending: readonly Op[];
}

/** What is here and what is there, made one. */
export interface Met {
  readonly text: string;
  readonly trail: Trail;
  readonly pending: readonly Op[];
  /** What somebody has to decide about. */
  readonly asked: readonly Refused[];
  /** Both had changed the trail. */
  readonly isMerged: boolean;
}

/**
 * The job as the server has it now with what is here: changes of the trail are made one, readings follow their junctions.
 * @param own the change that this is the answer to, which is not here any more: others may have come before it
 * @returns null where both changed the trail so that somebody has to choose
 */
export function meet({ stored, text, trail: before, pending: waiting }: Here, job: Job, own: Op | null): Met | null {
  const base = stored.circuit;
  const theirs = job.circuit.trail;
  const isMine = text !== base.trail;
  const isTheirs = job.circuit.revision !== base.revision && theirs !== base.trail;
  const merged = !isMine ? theirs : !isTheirs || theirs === text ? text : mergeTrails(base.trail, text, theirs);
  if (merged === null) return null;
  const trail = merged === text ? before : readOnce(merged);
  const { pending, asked } = follow(waiting, before, trail);
  const fields = own?.op === "set" ? withFields(stored, [own]) : stored;
  const sent = own && "reading" in own ? job.readings.filter((r) => r.id === own.id) : [];
  const mine = own ? [...waiting, own] : waiting;
  return {
    text: merged,
    trail,
    pending: [
      ...onTopOf(pending, fields, job),
      ...namesOfFresh(stored, mine, job, theirs, trail),
      ...renamingOps(sent, namesIn(before, trail)),
    ],
    asked,
    isMerged: isMine && isTheirs && theirs !== text,
  };
}

/**
 * The same once somebody chose one of two trails; the one that lost is stored among the versions.
 * @param sentMeanwhile readings that went out in the names of the trail that is here
 */
export function choose(
  { stored, text, trail: before, pending: waiting }: Here,
  job: Job,
  keep: "mine" | "theirs",
  sentMeanwhile: ReadonlySet<string>,
): Omit<Met, "isMerged"> {
  const kept = keep === "mine" ? text : job.circuit.trail;
  const lost: Op[] = keep === "mine" ? [] : [{ op: "store", id: newId(), text }];
  const trail = readOnce(kept);
  const { pending, asked } = follow(waiting, before, trail);
  // All that is stored is in the names of the stored trail, but for what went there from here since.
  const onItsWay = new Set(pending.map((op) => op.id));
  const others = job.readings.filter((r) => !onItsWay.has(r.id) && !sentMeanwhile.has(r.id));
  const own = job.readings.filter((r) => sentMeanwhile.has(r.id));
  const renaming = [
    ...renamingOps(others, namesIn(readOnce(job.circuit.trail), trail)),
    ...renamingOps(own, namesIn(before, trail)),
  ];
  return { text: kept, trail, pending: [...lost, ...onTopOf(pending, stored, job), ...renaming], asked };
}

/** What is here with what a tab that is gone left behind. @param job as it is shown here */
export function inherit({ stored, text, trail: before, pending }: Here, job: Job, draft: Draft): Omit<Met, "isMerged"> {
  const known = new Set([...pending.map(keyOf), ...stored.readings.map((r) => `add ${r.id}`)]);
  const own = draft.pending.filter((op) => !known.has(keyOf(op)));
  const base = draft.base.circuit.trail;
  const merged = draft.text === base || draft.text === text ? text : mergeTrails(base, text, draft.text);
  const lost: Refused[] =
    merged === null
      ? [{ what: "circuit", text: draft.text, why: "typed in a tab that was closed; this one says something else" }]
      : [];
  const next = merged ?? text;
  const trail = next === text ? before : readOnce(next);
  const { pending: more, asked } = follow(own, readOnce(draft.text), trail);
  return {
    text: next,
    trail,
    pending: [...pending, ...onTopOf(more, draft.base, job)],
    asked: [...draft.refused.filter((r) => r.what !== "job"), ...lost, ...asked],
  };
}

/** Changes of readings that are new here and were taken under one trail, so that they hold under another. */
export function namesOfFresh(stored: Job, pending: readonly Op[], job: Job, trail: string, now: Trail): readonly Op[] {
  const known = new Set([...stored.readings, ...pending].map((one) => one.id));
  const fresh = job.readings.filter((r) => !known.has(r.id));
  return fresh.length === 0 || trail === now.text ? [] : renamingOps(fresh, namesIn(readOnce(trail), now));
}

/** With one change more. What is changed before it was sent is sent as it is now: the names of before may mean something else by then. */
export function withOp(pending: readonly Op[], op: Op, isSending: boolean): readonly Op[] {
  const at = op.op === "change" ? pending.findLastIndex((p) => "reading" in p && p.id === op.id) : -1;
  const before = pending[at];
  const isWaiting = at > 0 || !isSending;
  const isOne = op.op === "change" && isWaiting && (before?.op === "add" || before?.op === "change");
  return isOne ? pending.with(at, { ...before, reading: op.reading }) : [...pending, op];
}

const keyOf = (op: Op) => (op.op === "add" ? `add ${op.id}` : JSON.stringify(op));
