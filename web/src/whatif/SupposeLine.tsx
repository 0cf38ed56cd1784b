import type { Network } from "@hound/core/circuit";
import { type Choice, isSameFault, readSupposed, type Supposed, writeSupposed } from "@hound/core/whatif";
import { type FormEvent, type RefObject, useId } from "react";
import { Spoken } from "../app/Spoken.tsx";
import { useDesk, useSelection } from "../desk/DeskContext.tsx";
import { useKept } from "../desk/useKept.ts";
import { inMode, optionsOf } from "./SupposedList.tsx";
import type { Supposing } from "./useSupposing.ts";

interface SupposeLineProps {
  readonly supposing: Supposing;
  readonly choices: ReadonlyMap<string, readonly Choice[]>;
  readonly network: Network;
  readonly field: RefObject<HTMLInputElement | null>;
}

/** Faults in words, and for what is picked on the board the ways in which it can be wrong. */
export function SupposeLine({ supposing, choices, network, field }: SupposeLineProps) {
  const { selection } = useSelection();
  const { state } = useDesk();
  const { value: text, set: setText, forget } = useKept(`what if ${state.job.id}`, "");
  const echo = useId();
  const read = readSupposed(text, network);
  const { supposed, change, undo, redo } = supposing;
  const add = (faults: readonly Supposed[]) => change(withFaults(supposed, faults));
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (read.kind === "mistake" || read.faults.length === 0) return;
    add(read.faults);
    forget();
  };
  const picked = selection?.kind === "branch" ? (choices.get(selection.name) ?? []) : [];
  const node = selection?.kind === "node" ? selection.name : null;
  return (
    <form onSubmit={submit} className="flex flex-col gap-2">
      <div className="flex items-center gap-2">
        <label className="flex min-w-0 grow items-center gap-2 rounded-xl border-2 border-suspect bg-sheet px-3 py-1.5">
          <span className="shrink-0 text-lg font-bold text-suspect">What if</span>
          <input
            ref={field}
            value={text}
            onChange={(e) => setText(e.target.value)}
            aria-describedby={echo}
            aria-invalid={read.kind === "mistake"}
            autoComplete="off"
            autoCapitalize="off"
            spellCheck={false}
            placeholder="R3 open, R2 470→2k"
            className="min-w-0 grow bg-transparent text-xl font-bold placeholder:font-normal placeholder:text-faint/70 focus:outline-none"
          />
        </label>
        <button type="button" onClick={undo ?? undefined} disabled={!undo} className={QUIET}>
          Undo
        </button>
        <button type="button" onClick={redo ?? undefined} disabled={!redo} className={QUIET}>
          Redo
        </button>
      </div>
      <Spoken
        text={read.kind === "mistake" ? read.message : read.faults.map((f) => writeSupposed(f, network)).join(", ")}
      />
      <p id={echo} className="min-h-6">
        {read.kind === "mistake" ? (
          <span className="text-wrong">
            {text.trim().length > read.length && <>At “{text.slice(read.at, read.at + read.length)}”: </>}
            {read.message}
          </span>
        ) : read.faults.length > 0 ? (
          <strong>{read.faults.map((f) => writeSupposed(f, network)).join(", ")}</strong>
        ) : picked.length === 0 && node === null ? (
          <span className="text-faint">Type a fault, or pick a part on the board.</span>
        ) : null}
        {text === "" && selection && picked.length > 0 && (
          <span className="flex flex-wrap items-center gap-1.5">
            <strong>{selection.name}</strong>
            {optionsOf(picked).map(([option, name]) => (
              <button
                key={option}
                type="button"
                className={QUIET}
                onClick={() => add([inMode(selection.name, option, picked)])}
              >
                {name}
              </button>
            ))}
          </span>
        )}
        {text === "" && node !== null && (
          <label className="flex items-center gap-1.5">
            <strong>{node}</strong> bridged to
            <select
              aria-label={`Bridge ${node} to`}
              value=""
              onChange={(e) => add([{ nodes: [node, e.target.value] as never, mode: "bridged" }])}
              className="rounded border border-rule bg-sheet px-2 py-1"
            >
              <option value="">…</option>
              {network.nodes
                .filter((n) => n !== node && !n.includes("."))
                .map((n) => (
                  <option key={n} value={n}>
                    {n}
                  </option>
                ))}
            </select>
          </label>
        )}
      </p>
    </form>
  );
}

const QUIET = "shrink-0 rounded-lg border border-rule px-2.5 py-1 enabled:hover:bg-band disabled:opacity-40";

/** With some more; a part is wrong in one way only, the newest. */
export function withFaults(before: readonly Supposed[], more: readonly Supposed[]): Supposed[] {
  const isReplaced = (f: Supposed) =>
    more.some((m) => ("part" in f && "part" in m ? f.part === m.part : isSameFault(f, m)));
  return [...before.filter((f) => !isReplaced(f)), ...more];
}
