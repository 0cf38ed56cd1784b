import type { Circuit } from "@hound/core/circuit";
import type { Trail } from "@hound/core/notation";
import type { Reading } from "@hound/core/record";
import { isSameJunction, type Leads, leadsOf, sameIn } from "./junctions.ts";
import type { Op, Refused } from "./ops.ts";
import { type Names, renamed } from "./renamings.ts";

/** What becomes of readings on their way when the circuit was changed elsewhere. */
interface Followed {
  readonly pending: readonly Op[];
  /** Those whose point is another junction now: somebody has to say where they belong. */
  readonly asked: readonly Refused[];
}

/**
 * Readings that are on their way, after the trail was changed by others: a junction that only has another name is followed
 * to it, one whose name is that of another junction now, or that is gone, is asked about. Two junctions are the same where
 * any lead of a part is at both.
 */
export function follow(pending: readonly Op[], before: Trail, after: Trail): Followed {
  if (!before.circuit || !after.circuit || before.text === after.text) return { pending, asked: [] };
  const was = leadsOf(before.circuit);
  const nodes = new Map<string, string>();
  const moved = new Map<string, string>();
  for (const { name, now, isTaken } of changedIn(before.circuit, after.circuit)) {
    if (now !== null && !isTaken) nodes.set(name, now);
    else moved.set(name, isTaken ? `${name} was moved since: it is another junction now` : `${name} is gone since`);
  }
  if (nodes.size + moved.size === 0) return { pending, asked: [] };
  const asked: Refused[] = [];
  const kept = pending.flatMap((op): Op[] => {
    if (op.op !== "add" && op.op !== "change") return [op];
    const why = pointsOf(op.reading).flatMap((point) => moved.get(point) ?? []);
    if (why.length === 0) return [{ ...op, reading: renamed(op.reading, { nodes, parts: new Map() }) }];
    asked.push({ what: "op", op, why: `${why.join(", and ")}; it was ${beside(was, pointsOf(op.reading), moved)}` });
    return [];
  });
  return { pending: kept, asked };
}

/**
 * What the junctions of one trail are called in another, where they are called otherwise: for readings that came in under
 * the one while this tab had changed it to the other.
 */
export function namesIn(before: Trail, after: Trail): Names {
  const isChanged = before.circuit !== null && after.circuit !== null && before.text !== after.text;
  const changed = isChanged ? changedIn(before.circuit, after.circuit) : [];
  return { nodes: new Map(changed.flatMap(({ name, now }) => (now === null ? [] : [[name, now]]))), parts: new Map() };
}

interface Changed {
  readonly name: string;
  /** What the junction is called now; null where it is there no more. */
  readonly now: string | null;
  /** Its name is another junction's now. */
  readonly isTaken: boolean;
}

/** Junctions that are not what their name says any more. */
function changedIn(before: Circuit, after: Circuit): Changed[] {
  const is = leadsOf(after);
  return [...leadsOf(before)].flatMap(([name, leads]) =>
    isSameJunction(leads, is.get(name)) ? [] : [{ name, now: sameIn(is, leads), isTaken: is.has(name) }],
  );
}

/** Where the moved ones of some points were: "beside R1 and R2". */
function beside(
  was: ReadonlyMap<string, Leads>,
  points: readonly string[],
  moved: ReadonlyMap<string, string>,
): string {
  const leads = points.filter((name) => moved.has(name)).flatMap((name) => [...(was.get(name) ?? [])]);
  const parts = [...new Set(leads.map((lead) => lead.split(" ")[0]))];
  return `beside ${parts.slice(0, 4).join(" and ")}`;
}

function pointsOf(reading: Reading): string[] {
  if (reading.quantity === "observation" || reading.quantity === "current") return [];
  return [reading.from, reading.to].filter((name) => name !== undefined);
}
