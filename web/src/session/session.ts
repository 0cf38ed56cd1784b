import type { Circuit } from "@hound/core/circuit";
import { afterChange, type Configuration, CURRENT_STEPS, type CurrentStep, stepped } from "@hound/core/configuration";
import type { Judgement } from "@hound/core/judgement";
import type { QuickReading } from "@hound/core/notation";
import type { Measurement } from "@hound/core/plan";
import { type Reading, takenSo } from "@hound/core/record";
import type { LineQuestion } from "./lineQuestions.ts";
import { measurementOf, type NextStep, nextSteps, otherKind, type PutOff, SHOWN, settled, stepOf } from "./proposal.ts";

/** What the bench holds from one verb to the next: what is typed, what is proposed, what was asked and put off. */
export interface Session {
  readonly typed: string;
  /** What is to be recorded once it is said again: it was asked about. */
  readonly confirmed: string | null;
  /** The judgement that the proposals are from; null while the next one is worked out. */
  readonly judgement: Judgement | null;
  /** Proposed before all else, in this order: what proves a repair. */
  readonly insisted: readonly Measurement[] | null;
  /** Proposed before what the ranking wants: it was asked for by words. */
  readonly asked: Measurement | null;
  /** The proposal that somebody chose instead of the best one, and those that were put off. */
  readonly chosen: string | null;
  readonly putOff: PutOff;
}

export const BEGUN: Session = {
  typed: "",
  confirmed: null,
  judgement: null,
  insisted: null,
  asked: null,
  chosen: null,
  putOff: new Map(),
};

/** What somebody does at the bench: by the line, the keypad, a foot switch, the voice, or a meter that sends. */
export type Verb =
  | { readonly verb: "type"; readonly text: string }
  /** Records what is typed, as it is; where there is nothing, ticks the next step of a branch in hand. */
  | { readonly verb: "record" }
  /** Records a line as if it were typed, and leaves what is typed. */
  | { readonly verb: "say"; readonly line: string }
  /** Takes the correction of a question: the first one where none is named. */
  | { readonly verb: "accept"; readonly question?: LineQuestion | undefined }
  /** Records a reading that came another way; `id` is its own. */
  | {
      readonly verb: "take";
      readonly reading: Reading;
      readonly id?: string | undefined;
      readonly echo?: string | undefined;
    }
  | { readonly verb: "takeBack" }
  | { readonly verb: "choose"; readonly key: string }
  | { readonly verb: "putOff"; readonly key: string; readonly how: "never" | "later" }
  /** Proposes the best measurement of another kind: volts, amperes, ohms, a look in turn. */
  | { readonly verb: "nextKind" }
  | { readonly verb: "insist"; readonly measurements: readonly Measurement[] | null }
  | { readonly verb: "judged"; readonly judgement: Judgement };

/** What a verb finds: the job as it is, and what is made of what is typed. */
export interface Found {
  readonly circuit: Circuit | null;
  readonly standing: Configuration;
  readonly understood: QuickReading;
  /** What is made of any other line. */
  readonly read: (line: string) => QuickReading;
  /** No supply here can bring it about, or no single fault. */
  readonly isDoubtful: boolean;
  readonly questions: readonly LineQuestion[];
  readonly steps: readonly NextStep[] | null;
  /** What comes next of the branch that a current is taken of. */
  readonly current: { readonly next: CurrentStep | null } | null;
  /** A reading as it is kept: by whom, with which meter, on which range. */
  readonly asTaken: (reading: Reading) => Reading;
}

/** What is to be done besides: the job changes, something is said, the line is at hand again. */
export type Effect =
  | { readonly do: "add"; readonly reading: Reading; readonly id?: string | undefined }
  /** The branch in hand goes on; nothing is said of it. */
  | { readonly do: "stepped"; readonly standing: Configuration }
  | { readonly do: "stand"; readonly standing: Configuration; readonly echo: string }
  | { readonly do: "say"; readonly reading: Reading; readonly echo?: string | undefined }
  /** The next step of the branch in hand is done. */
  | { readonly do: "tick" }
  | { readonly do: "undo" }
  | { readonly do: "focus" };

export interface Turn {
  readonly session: Session;
  readonly effects: readonly Effect[];
}

const FOCUS: Effect = { do: "focus" };
const turned = (session: Session, ...effects: readonly Effect[]): Turn => ({ session, effects });
/** A lone minus takes back what was done last. */
const TAKE_BACK = /^[-−]$/;

/** What a verb makes of a session. */
export function turn(session: Session, verb: Verb, found: Found): Turn {
  switch (verb.verb) {
    case "type":
      return turned({ ...session, typed: verb.text });
    case "record":
      return record(session, found);
    case "say": {
      const said = { ...session, typed: verb.line };
      const next = record(said, { ...found, understood: found.read(verb.line), isDoubtful: false, questions: [] });
      // The focus stays with who said it.
      return turned({ ...next.session, typed: session.typed }, ...next.effects.filter((e) => e.do !== "focus"));
    }
    case "accept": {
      const question = verb.question ?? found.questions[0];
      if (!question) return turned(session);
      const next = question.instead ? take(session, question.instead, found) : turned({ ...session, typed: "" });
      return turned(next.session, ...next.effects, FOCUS);
    }
    case "take":
      return take(session, verb.reading, found, verb.id, verb.echo);
    case "takeBack":
      return turned({ ...session, typed: "" }, { do: "undo" });
    case "choose":
      return turned({ ...session, chosen: verb.key, asked: null }, FOCUS);
    case "putOff": {
      const putOff = new Map(session.putOff).set(verb.key, verb.how);
      return turned({ ...session, putOff, chosen: null, asked: null }, FOCUS);
    }
    case "nextKind": {
      const { circuit, steps } = found;
      const { judgement, putOff } = session;
      if (!circuit || !judgement || !steps?.[0]) return turned(session);
      const other = otherKind(circuit, judgement, putOff, steps[0]);
      return turned(other ? { ...session, chosen: other.key, asked: null } : session);
    }
    case "insist":
      return turned(verb.measurements === session.insisted ? session : { ...session, insisted: verb.measurements });
    case "judged":
      return turned({ ...session, judgement: settled(session.judgement, verb.judgement) });
    default:
      return verb satisfies never;
  }
}

function record(session: Session, found: Found): Turn {
  const { typed, confirmed } = session;
  const { understood, current, standing } = found;
  if (TAKE_BACK.test(typed.trim())) return turn(session, { verb: "takeBack" }, found);
  if (typed.trim() === "" && current?.next && current.next !== "read") return turned(session, { do: "tick" });
  if (understood.kind === "change") {
    const next = afterChange(standing, understood.change);
    const stands: Effect = { do: "stand", standing: next, echo: understood.echo };
    const after: Effect[] = understood.after ? [{ do: "add", reading: takenSo(understood.after, next) }] : [];
    return turned({ ...session, typed: "", judgement: null, insisted: null, asked: null }, stands, ...after);
  }
  if (understood.kind === "asked")
    return turned({ ...session, typed: "", asked: measurementOf(understood.proposal), chosen: null }, FOCUS);
  if (understood.kind !== "reading") return turned(session);
  // What would be taken with a branch open, or with the meter in it, is asked about once.
  const isAsked = isHeld(found);
  if (isAsked && confirmed !== typed) return turned({ ...session, confirmed: typed });
  const reading = found.isDoubtful ? { ...understood.reading, doubted: true } : understood.reading;
  const next = take(session, reading, found, undefined, understood.echo);
  return turned(next.session, ...next.effects, FOCUS);
}

/** Whether what is typed is recorded only when it is said twice. */
export function isHeld({ isDoubtful, questions }: Pick<Found, "isDoubtful" | "questions">): boolean {
  return isDoubtful || questions[0]?.key === "inHand";
}

function take(session: Session, reading: Reading, found: Found, id?: string, echo?: string): Turn {
  const { standing } = found;
  const kept = found.asTaken(reading);
  const isInHand = reading.quantity === "current" && reading.through === standing.inHand?.through;
  const read = CURRENT_STEPS.indexOf("read") + 1;
  const on: Effect[] = isInHand ? [{ do: "stepped", standing: stepped(standing, read) }] : [];
  // Until the next point is worked out nothing is proposed: a number typed meanwhile must not land at the old one.
  const after = { ...session, typed: "", judgement: null, insisted: null, asked: null, chosen: null };
  return turned(after, { do: "add", reading: kept, id }, ...on, { do: "say", reading: kept, echo });
}

/** What to measure next, the best first; null while it is worked out. */
export function stepsOf(
  { insisted, asked, putOff, chosen, judgement }: Omit<Session, "typed" | "confirmed">,
  circuit: Circuit | null,
  readings: readonly Reading[],
  { isByProbes, isOver }: { readonly isByProbes: boolean; readonly isOver: boolean },
): readonly NextStep[] | null {
  const inFront = (list: readonly NextStep[]) => [
    ...list.filter((s) => s.key === chosen),
    ...list.filter((s) => s.key !== chosen),
  ];
  if (insisted && insisted.length > 0) {
    const own = insisted.map((m) => stepOf(m, null)).filter((s) => putOff.get(s.key) !== "never");
    const later = (s: NextStep) => Number(putOff.get(s.key) === "later" && s.key !== chosen);
    return inFront(own).sort((a, b) => later(a) - later(b));
  }
  const others = circuit && judgement && nextSteps(circuit, readings, judgement, { putOff, chosen, isByProbes });
  if (asked) {
    const own = stepOf(asked, null);
    const rest = isOver ? [] : (others ?? []);
    return [rest.find((s) => s.key === own.key) ?? own, ...rest.filter((s) => s.key !== own.key)].slice(0, SHOWN);
  }
  // A job that is over asks for nothing.
  if (isOver) return [];
  return others && inFront(others);
}
