import { applyEdits, type Edited, pinNodes, type TextEdit } from "@hound/core/notation";
import type { Reading } from "@hound/core/record";
import { newId } from "../app/newId.ts";
import { readOnce } from "../trail/readOnce.ts";
import { mergeFields } from "./mergeFields.ts";
import { type Fields, inverseOf, type Op, type ReadingOp, readingsOf } from "./ops.ts";
import { type Names, Renamings, standingIn, workIn } from "./renamings.ts";
import { SavedJob } from "./savedJob.ts";

const SAVE_AFTER = 500;

/** What is taken over: a trail (null: the circuit stays), readings that come, and ids of those that go. */
export interface Brought {
  readonly text: string | null;
  readonly add: readonly Reading[];
  readonly remove: readonly string[];
}

/** What takes a step back, and what is said then. */
interface Undo {
  readonly back: readonly Op[];
  /** What its fields were set to: what others set since stays. */
  readonly from?: Fields;
  readonly says: string;
}

/** What lies on the bench for one job: the trail and the readings, and what is done to them. */
export class JobDesk extends SavedJob {
  private readonly undos: Undo[] = [];
  private readonly renamings = new Renamings();
  /** Texts that came of a junction's being named because it was read. */
  private readonly naming = new Set<string>();

  setText(text: string, typing = false) {
    const before = this.state.text;
    if (text === before) return;
    this.put({ text, trail: readOnce(text), typing, ...this.onItsWay() });
    const going = this.renamings.between(before, text, readingsOf(this.state));
    for (const op of going?.ops ?? []) this.push(op.op === "set" ? { ...op, id: newId() } : op);
    if (going?.names) this.rename(going.names);
    this.pump.schedule(SAVE_AFTER);
  }

  /** Whether a text came of a reading's junction being named. */
  isNaming(text: string): boolean {
    return this.naming.has(text);
  }

  /** Typing stops for something else: all that is shown is of the text as it stands. */
  catchUp() {
    if (this.state.typing) this.put({});
  }

  /** Takes over an edit of the circuit; readings follow nodes and parts to their new names, and back when it is undone. */
  edit(edited: Extract<Edited, { kind: "edited" }>) {
    const { text: to, nodes, parts } = edited;
    if (nodes.size + parts.size > 0) {
      const { text: from, trail } = this.state;
      const taken = new Set(trail.circuit?.parts.flatMap((p) => [p.from, p.to]));
      this.renamings.remember({ from, to, names: { nodes, parts }, taken, readings: readingsOf(this.state) });
    }
    this.setText(to);
  }

  /** Gives how the circuit stands and the repair under way the new names of nodes and parts. */
  private rename(names: Names) {
    const { standing, work } = this.state.job;
    const fields: Fields = {
      ...(Object.keys(standing).length > 0 ? { standing: standingIn(standing, names) } : {}),
      ...(work ? { work: workIn(work, names) } : {}),
    };
    if (Object.keys(fields).length > 0) this.changeJob(fields);
  }

  /** Changes the trail in places, as the editor would. */
  applyEdits(edits: readonly TextEdit[]) {
    this.setText(applyEdits(this.state.text, edits));
  }

  /**
   * Adds a reading; one whose id is there already is the same again. Junctions it uses that nobody named are named in the trail first, so that a later insertion cannot
   * move it to another node.
   */
  addReading(taken: Reading, id: string = newId()) {
    if (readingsOf(this.state).some((r) => r.id === id)) return;
    this.does({ op: "add", id, reading: this.pinned(taken) }, "Reading taken back");
  }

  /**
   * Takes over a circuit, readings, or both, as one step: whoever takes it back, with the editor's undo or this one, takes
   * back all of it.
   */
  bringIn({ text, add, remove }: Brought): () => void {
    const before = this.state.text;
    const { standing } = this.state.job;
    const leaving = readingsOf(this.state).filter((r) => remove.includes(r.id));
    const gone = leaving.map(({ id, reading }): ReadingOp => ({ op: "remove", id, reading }));
    const coming = add.map((reading): ReadingOp => ({ op: "add", id: newId(), reading }));
    const isOther = text !== null && text !== before;
    const stands = (fields: Fields): Op[] => (isOther ? [{ op: "set", id: newId(), fields }] : []);
    const forth: Op[] = [...gone, ...coming, ...stands({ standing: {} })];
    const back: Op[] = [...coming.map(inverseOf), ...gone.map(inverseOf), ...stands({ standing })];
    if (!isOther) {
      for (const op of forth) this.push(op);
      const undo: Undo = { back, says: "Readings taken back" };
      this.undos.push(undo);
      return () => this.takeBack(undo);
    }
    this.setText(text);
    for (const op of forth) this.push(op);
    // To add the same reading again does nothing: what comes back by redo is restored.
    const again = forth.map((op): Op => (op.op === "add" ? { ...op, op: "restore" } : op));
    this.renamings.remember({ from: before, to: text, forth: again, back });
    return () => {
      if (this.state.text === text) this.setText(before);
    };
  }

  correctReading(id: string, taken: Reading) {
    const reading = this.pinned(taken);
    const before = readingsOf(this.state).find((r) => r.id === id)?.reading;
    if (!before) return;
    this.does({ op: "change", id, reading, before }, "Correction taken back");
  }

  removeReading(id: string) {
    const reading = readingsOf(this.state).find((r) => r.id === id)?.reading;
    if (!reading) return;
    this.does({ op: "remove", id, reading }, "Reading restored");
  }

  /** A change of the readings that `undo` takes back. */
  private does(op: ReadingOp, says: string) {
    this.push(op);
    this.undos.push({ back: [inverseOf(op)], says });
  }

  /** Brings back a reading that was deleted some time. */
  restoreReading(id: string, reading: Reading) {
    this.push({ op: "restore", id, reading });
  }

  /** Lets a stored reading go that is not what was stored. */
  dropDamaged(id: string) {
    this.push({ op: "drop", id });
  }

  /** Stores a trail as a version, whatever is in force. */
  storeAgain(text: string) {
    this.push({ op: "store", id: newId(), text });
  }

  private pinned(reading: Reading): Reading {
    if (reading.quantity === "observation" || reading.quantity === "current") return reading;
    const { trail } = this.state;
    // The plus terminal goes by what the board shows: only an inner junction without a name needs one.
    const used = [reading.from, reading.to].filter((n) => n !== undefined && !n.startsWith("+")) as NonNullable<
      typeof reading.from
    >[];
    const { text, names } = pinNodes(trail, used);
    if (text === trail.text) return reading;
    this.naming.add(text);
    this.setText(text);
    const renamed = new Map(used.map((n, i) => [n, names[i]]));
    const name = (n: string | undefined) =>
      n === undefined ? undefined : (renamed.get(n as NonNullable<typeof reading.from>) ?? n);
    return {
      ...reading,
      ...(reading.from ? { from: name(reading.from) as string } : {}),
      ...(reading.to ? { to: name(reading.to) } : {}),
    };
  }

  /** Takes back the last step: of the readings, the repair, how the circuit stands. @returns what was done, or null when there was nothing */
  undo(): string | null {
    const last = this.undos.at(-1);
    if (!last) return null;
    this.takeBack(last);
    return last.says;
  }

  /** Once: what was taken back already stays so. */
  private takeBack(undo: Undo) {
    const at = this.undos.indexOf(undo);
    if (at < 0) return;
    this.undos.splice(at, 1);
    const { from, back } = undo;
    const onNow = (op: Op): Op =>
      op.op === "set" && from ? { ...op, fields: mergeFields(from, op.fields, this.state.job) } : op;
    for (const op of back) this.push(onNow(op));
  }

  /** Changes fields as one step that `undo` takes back. @param back what is said when it was */
  step(fields: Fields, back: string) {
    const { job } = this.state;
    const before = Object.fromEntries(Object.keys(fields).map((key) => [key, job[key as keyof Fields]])) as Fields;
    this.changeJob(fields);
    this.undos.push({ back: [{ op: "set", id: newId(), fields: before }], from: fields, says: back });
  }

  /** Changes title, state, finding, meter and the like. */
  changeJob(fields: Fields) {
    this.push({ op: "set", id: newId(), fields });
  }
}
