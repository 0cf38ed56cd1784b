import { DEFAULTS, KINDS, type Kind, rowOf } from "@hound/core/circuit";
import { type Edited, readTrail, setWord, type Trail, wordsOfPart } from "@hound/core/notation";
import { useState } from "react";
import { useNotice } from "../app/Notice.tsx";
import { useDesk } from "../desk/DeskContext.tsx";
import { print } from "../words/print.ts";

/** What the figures take for granted because nobody wrote it down, with one press to have supplies ideal in this job. */
export function Assumed() {
  const { state, drawn, edit, trailDocument } = useDesk();
  const notice = useNotice();
  const [why, setWhy] = useState<string | null>(null);
  const { trail } = state;
  if (!drawn || drawn.outdated) return null;
  const has = (designator: string, role: string) => wordsOfPart(trail, designator).some((w) => w.role === role);
  const supplies = drawn.circuit.parts.filter(
    (p) => p.kind === "supply" && p.internalOhms > 0 && !has(p.designator, "internalResistance"),
  );
  const loose = new Map<Kind, string[]>();
  for (const { kind, designator } of drawn.circuit.parts)
    if (rowOf(kind).needs !== "nothing" && !has(designator, "tolerance"))
      loose.set(kind, [...(loose.get(kind) ?? []), designator]);
  if (supplies.length === 0 && loose.size === 0) return null;
  const makeIdeal = () => {
    const refused = edit(
      allIdeal(
        trail,
        supplies.map((p) => p.designator),
      ),
    );
    setWhy(refused);
    if (refused === null)
      notice({
        text: "Supplies are ideal now: ri=0 is written in the trail",
        action: { label: "Undo", run: () => trailDocument.undo() },
      });
  };
  return (
    <section aria-label="Taken for granted" className="rounded-lg border border-rule px-3 py-2 text-faint">
      {supplies.length > 0 && (
        <p className="flex flex-wrap items-center gap-x-3 gap-y-1">
          <span className="grow">
            {listed(supplies.map((p) => p.designator))}: {print(DEFAULTS.internalOhms, "ohm")} inside is taken for
            granted, as none is written.
          </span>
          <button
            type="button"
            onClick={makeIdeal}
            className="rounded-lg border border-rule px-3 py-1 text-ink hover:bg-band"
          >
            Ideal in this job
          </button>
        </p>
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

function listed(names: readonly string[]): string {
  return names.length > 6 ? `${names.slice(0, 5).join(", ")} and ${names.length - 5} more` : names.join(", ");
}

function allIdeal(trail: Trail, designators: readonly string[]): Edited {
  let edited: Edited = { kind: "refused", why: "there is no supply" };
  let now = trail;
  for (const designator of designators) {
    edited = setWord(now, designator, "internalResistance", "ri=0");
    if (edited.kind === "refused") return edited;
    now = readTrail(edited.text);
  }
  return edited;
}
