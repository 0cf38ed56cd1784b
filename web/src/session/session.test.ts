import type { NodeName } from "@hound/core/circuit";
import type { Configuration } from "@hound/core/configuration";
import { readQuick } from "@hound/core/notation";
import { type Reading, takenSo } from "@hound/core/record";
import { describe, expect, it } from "vitest";
import type { LineQuestion } from "./lineQuestions.ts";
import { BEGUN, type Effect, type Found, type Session, stepsOf, turn, type Verb } from "./session.ts";
import { amps, circuit, judgement, volts } from "./test/judgements.ts";

const at = (from: string) => ({ quantity: "voltage", from: from as NodeName, value: 0 }) as const;

/** A bench without a page: what each verb leaves, and all that it asked for. */
class Bench {
  session: Session = BEGUN;
  readonly done: Effect[] = [];
  standing: Configuration = {};
  questions: readonly LineQuestion[] = [];
  isDoubtful = false;
  current: Found["current"] = null;
  isOver = false;

  get steps() {
    return stepsOf(this.session, circuit, [], { isByProbes: false, isOver: this.isOver });
  }

  do(verb: Verb): this {
    const { standing, questions, isDoubtful, current, steps } = this;
    const proposal = steps?.[0]?.proposal ?? undefined;
    const understood = readQuick(this.session.typed, circuit, proposal, { standing });
    const asTaken = (reading: Reading) => takenSo({ ...reading, who: "Ada" }, standing);
    const next = turn(this.session, verb, {
      circuit,
      read: (line) => readQuick(line, circuit, undefined, { standing }),
      standing,
      questions,
      isDoubtful,
      current,
      steps,
      understood,
      asTaken,
    });
    this.session = next.session;
    this.done.push(...next.effects);
    return this;
  }

  say(text: string): this {
    return this.do({ verb: "type", text }).do({ verb: "record" });
  }

  kinds() {
    return this.done.map((effect) => effect.do);
  }
}

const judged = () => new Bench().do({ verb: "judged", judgement: judgement(volts("A", 1), volts("B", 0.8), amps) });

describe("the bench's session", () => {
  it("proposes what is asked for by words, before what the ranking wants, until it is read or put off", () => {
    const bench = judged().say("R1 current");
    expect(bench.steps?.map((s) => s.key)).toEqual(["current R1", "volts A", "volts B"]);
    expect(bench.session.typed).toBe("");
    bench.say("12.4mA");
    expect(bench.done).toContainEqual(
      expect.objectContaining({ do: "add", reading: expect.objectContaining({ through: "R1", value: 0.0124 }) }),
    );
    expect(bench.steps).toBeNull();
    const again = judged().say("B?");
    expect(again.steps?.[0].key).toBe("volts B");
    again.do({ verb: "putOff", key: "volts B", how: "later" });
    expect(again.steps?.[0].key).toBe("volts A");
  });

  it("proposes nothing where the job is over, but what somebody wants proved", () => {
    const bench = judged();
    bench.isOver = true;
    expect(bench.steps).toEqual([]);
    const proof = { kind: "voltage", reading: at("B"), minutes: 1 } as const;
    bench.do({ verb: "insist", measurements: [proof] });
    expect(bench.steps?.map((s) => s.measurement)).toEqual([proof]);
    bench.say("4.2");
    expect(bench.done).toContainEqual(expect.objectContaining({ do: "add" }));
  });

  it("records what is typed, by whom and as the circuit stands, says so, and proposes nothing until that is weighed", () => {
    const bench = judged();
    bench.standing = { lifted: ["R3"] };
    bench.say("B 4.2");
    expect(bench.done).toEqual([
      {
        do: "add",
        id: undefined,
        reading: expect.objectContaining({ from: "B", value: 4.2, who: "Ada", state: { lifted: ["R3"] } }),
      },
      { do: "say", reading: expect.objectContaining({ from: "B" }), echo: expect.any(String) },
      { do: "focus" },
    ]);
    expect(bench.session).toEqual(BEGUN);
    expect(bench.steps).toBeNull();
  });

  it("takes a bare value for the proposal, whichever that is by now", () => {
    const bench = judged().say("4.5");
    expect(bench.done[0]).toMatchObject({ do: "add", reading: { from: "A", value: 4.5 } });
    const other = judged().do({ verb: "nextKind" }).say("2.2mA");
    expect(other.done[0]).toMatchObject({ do: "add", reading: { through: "R2", value: 0.0022 } });
    const chosen = judged().do({ verb: "choose", key: "volts B" }).say("3");
    expect(chosen.done).toMatchObject([{ do: "focus" }, { do: "add", reading: { from: "B" } }, {}, {}]);
    // Nothing is proposed right after a reading: a bare value is no reading then.
    expect(bench.say("3").done).toHaveLength(3);
  });

  it("puts a proposal off until nothing else is left, or for good", () => {
    const later = judged().do({ verb: "putOff", key: "volts A", how: "later" });
    expect(later.steps?.map((s) => s.key)).toEqual(["volts B", "current R2", "volts A"]);
    const never = judged().do({ verb: "putOff", key: "volts A", how: "never" });
    expect(never.steps?.map((s) => s.key)).toEqual(["volts B", "current R2"]);
    expect(never.kinds()).toEqual(["focus"]);
  });

  it("asks once about what cannot be, or what is taken with a branch open, and records it when it is said again", () => {
    const bench = judged();
    bench.isDoubtful = true;
    bench.say("B 90");
    expect([bench.kinds(), bench.session.typed]).toEqual([[], "B 90"]);
    // Another value is another question.
    bench.say("B 91");
    expect(bench.kinds()).toEqual([]);
    expect(bench.do({ verb: "record" }).kinds()).toEqual(["add", "say", "focus"]);
    expect(bench.done[0]).toMatchObject({ reading: { value: 91, doubted: true } });
    const open = judged();
    open.questions = [{ key: "inHand", ask: "", accept: "", instead: null }];
    expect(open.say("B 3").kinds()).toEqual([]);
    expect(open.do({ verb: "record" }).kinds()).toEqual(["add", "say", "focus"]);
    expect(open.done[0]).not.toHaveProperty("reading.doubted");
    // Any other question is no obstacle.
    const slip = judged();
    slip.questions = [{ key: "sign", ask: "", accept: "", instead: null }];
    expect(slip.say("B -3").kinds()).toEqual(["add", "say", "focus"]);
  });

  it("takes the correction of a question, or clears the line where it is to be taken again", () => {
    const bench = judged();
    const question = (instead: LineQuestion["instead"]) => ({ key: "sign", ask: "", accept: "", instead });
    bench.questions = [question({ ...at("B"), value: 3 }), question(null)];
    bench.do({ verb: "type", text: "B -3" }).do({ verb: "accept" });
    expect(bench.done[0]).toMatchObject({ do: "add", reading: { from: "B", value: 3 } });
    expect(bench.kinds()).toEqual(["add", "say", "focus"]);
    bench.do({ verb: "type", text: "B -3" }).do({ verb: "accept", question: bench.questions[1] });
    expect([bench.session.typed, bench.kinds().length]).toEqual(["", 4]);
    bench.questions = [];
    expect(bench.do({ verb: "accept" }).kinds()).toHaveLength(4);
  });

  it("changes the circuit from here on, and takes a reading that came with the change in it", () => {
    const bench = judged().say("R2 swapped");
    expect(bench.done).toEqual([{ do: "stand", standing: { swapped: ["R2"] }, echo: expect.any(String) }]);
    expect([bench.session.typed, bench.session.judgement]).toEqual(["", null]);
  });

  it("ticks the next step of a branch in hand with an empty line, but the reading itself is typed", () => {
    const bench = judged();
    bench.current = { next: "open" };
    expect(bench.do({ verb: "record" }).kinds()).toEqual(["tick"]);
    bench.current = { next: "read" };
    expect(bench.do({ verb: "record" }).kinds()).toEqual(["tick"]);
    bench.standing = { inHand: { through: "R2", at: "A" as NodeName, done: 4 } };
    bench.say("R2 3mA");
    const [, added, stepped] = bench.done;
    expect(added).toMatchObject({ do: "add", reading: { through: "R2" } });
    expect(stepped).toEqual({ do: "stepped", standing: { inHand: { through: "R2", at: "A", done: 5 } } });
    // What another part reads meanwhile leaves the branch as it is.
    const other = judged();
    other.standing = bench.standing;
    expect(other.say("R3 3mA").kinds()).not.toContain("stepped");
  });

  it("takes back with a minus alone; what else is no reading is left in the line", () => {
    const bench = judged().say("-");
    expect([bench.kinds(), bench.session.typed]).toEqual([["undo"], ""]);
    const lost = judged().say("B what");
    expect([lost.kinds(), lost.session.typed]).toEqual([[], "B what"]);
  });

  it("takes what a meter sent under its own name, whatever is typed, and proposes what a repair's proof wants first", () => {
    const bench = judged().do({ verb: "take", reading: { ...at("B"), value: 2 }, id: "one" });
    expect(bench.done[0]).toMatchObject({ do: "add", id: "one" });
    const proof = judged().do({ verb: "insist", measurements: [volts("B", 0).measurement] });
    expect(proof.steps?.map((s) => s.key)).toEqual(["volts B"]);
    const before = proof.session;
    expect(proof.do({ verb: "insist", measurements: before.insisted }).session).toBe(before);
    expect(proof.say("3").session.insisted).toBeNull();
  });

  it("keeps the proposal that is being probed while it is about as good, whatever the next judgement prefers", () => {
    const bench = judged().do({ verb: "judged", judgement: judgement(volts("B", 1), volts("A", 0.6)) });
    expect(bench.steps?.[0].key).toBe("volts A");
    bench.do({ verb: "judged", judgement: judgement(volts("B", 1), volts("A", 0.2)) });
    expect(bench.steps?.[0].key).toBe("volts B");
  });
});
