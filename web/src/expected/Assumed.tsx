import {
  type Circuit,
  CONTACT_KINDS,
  DEFAULTS,
  idealOhms,
  isInstrumentOpen,
  KINDS,
  type Kind,
  type Part,
  rowOf,
} from "@hound/core/circuit";
import { type Edited, readTrail, setWord, type Trail, wordsOfPart } from "@hound/core/notation";
import { idealMeter, meterData } from "@hound/core/record";
import { useState } from "react";
import { useNotice } from "../app/Notice.tsx";
import { useDesk } from "../desk/DeskContext.tsx";
import { print } from "../words/print.ts";

/**
 * What the figures take for granted because nobody wrote it down, with one press to have all of it ideal in this job:
 * supplies, contacts, wires, instruments, and the meter in hand.
 */
export function Assumed() {
  const { desk, state, drawn, meter, edit, trailDocument } = useDesk();
  const notice = useNotice();
  const [why, setWhy] = useState<string | null>(null);
  const { trail, job } = state;
  if (!drawn || drawn.outdated) return null;
  const has = (designator: string, role: string) => wordsOfPart(trail, designator).some((w) => w.role === role);
  // As the conventions leave it: what they take for ideal is not taken for granted.
  const { parts } = drawn.circuit;
  const supplies = parts.filter(
    (p) => p.kind === "supply" && p.internalOhms > 0 && !has(p.designator, "internalResistance"),
  );
  const instruments = drawn.written.parts.filter((p) => "ohms" in p && isInstrumentOpen(p));
  const contacts = parts.filter(
    (p) => "ohms" in p && p.ohms === DEFAULTS.contactOhms && CONTACT_KINDS.has(p.kind) && !has(p.designator, "value"),
  );
  const loose = new Map<Kind, string[]>();
  for (const { kind, designator } of parts)
    if (rowOf(kind).needs !== "nothing" && !has(designator, "tolerance"))
      loose.set(kind, [...(loose.get(kind) ?? []), designator]);
  const isLoaded = Number.isFinite(meterData(meter).inputOhms);
  const isReal = supplies.length + instruments.length + contacts.length > 0;
  if (!isReal && loose.size === 0) return null;
  const makeIdeal = () => {
    const named = [...supplies, ...instruments, ...contacts].map((p) => p.designator);
    const refused = edit(allIdeal(trail, named, new Set(supplies.map((p) => p.designator))));
    setWhy(refused);
    if (refused !== null) return;
    const before = job.meter;
    if (isLoaded) desk.changeJob({ meter: idealMeter(before) });
    notice({
      text: "All ideal in this job: it is written in the trail, and the meter loads nothing",
      action: {
        label: "Undo",
        run: () => {
          trailDocument.undo();
          if (isLoaded) desk.changeJob({ meter: before });
        },
      },
    });
  };
  return (
    <section aria-label="Taken for granted" className="rounded-lg border border-rule px-3 py-2 text-faint">
      {isReal && (
        <div className="flex flex-wrap items-center gap-x-3 gap-y-1">
          <div className="min-w-0 grow basis-60">
            {supplies.length > 0 && (
              <p>
                {listed(supplies.map((p) => p.designator))}: {print(DEFAULTS.internalOhms, "ohm")} inside is taken for
                granted, as none is written.
              </p>
            )}
            {contacts.length > 0 && (
              <p>
                {listed(contacts.map((p) => p.designator))}: {print(DEFAULTS.contactOhms, "ohm")} of contact.
              </p>
            )}
            {instruments.length > 0 && (
              <p>As the meter in hand: {instruments.map((p) => inHand(p, drawn.circuit)).join(", ")}.</p>
            )}
          </div>
          <button
            type="button"
            onClick={makeIdeal}
            className="rounded-lg border border-rule px-3 py-1 text-ink hover:bg-band"
          >
            Ideal in this job
          </button>
        </div>
      )}
      {loose.size > 0 && (
        <p>
          Tolerances not written:{" "}
          {[...loose].map(([kind, names]) => `${listed(names)} ${print(KINDS[kind].tolerance * 100, "%")}`).join("; ")}.
        </p>
      )}
      {why && (
        <p role="alert" className="text-wrong">
          {why}
        </p>
      )}
    </section>
  );
}

/** `AM1 20 mΩ`, `VM1 ideal`. */
function inHand({ designator, kind }: Part, { parts }: Circuit): string {
  const part = parts.find((p) => p.designator === designator);
  if (!part || !("ohms" in part)) return designator;
  return `${designator} ${part.ohms === idealOhms(kind, part) ? "ideal" : print(part.ohms, "ohm")}`;
}

function listed(names: readonly string[]): string {
  return names.length > 6 ? `${names.slice(0, 5).join(", ")} and ${names.length - 5} more` : names.join(", ");
}

function allIdeal(trail: Trail, designators: readonly string[], supplies: ReadonlySet<string>): Edited {
  let edited: Edited = { kind: "refused", why: "there is nothing to be ideal" };
  let now = trail;
  for (const designator of designators) {
    edited = supplies.has(designator)
      ? setWord(now, designator, "internalResistance", "ri=0")
      : setWord(now, designator, "value", "ideal");
    if (edited.kind === "refused") return edited;
    now = readTrail(edited.text);
  }
  return edited;
}
