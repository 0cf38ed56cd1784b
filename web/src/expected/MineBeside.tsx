import type { Network } from "@hound/core/circuit";
import { type Asked, missingFor, nextCells } from "@hound/core/claims";
import type { Conventions } from "@hound/core/record";
import { X } from "lucide-react";
import { type FormEvent, useState } from "react";
import { useDesk } from "../desk/DeskContext.tsx";
import { useKept } from "../desk/useKept.ts";
import { claimName, equationWords } from "../words/claims.ts";
import { ruleWords } from "../words/deduced.ts";
import { inWords } from "../words/print.ts";
import { shown } from "../words/quantities.ts";
import { probed } from "./ends.ts";
import type { OwnFigures } from "./useClaims.ts";
import type { Expected } from "./useExpected.ts";

/** Volts between any two nodes. */
export function Between({ expected: { network }, own }: { expected: Expected; own: OwnFigures }) {
  const { state } = useDesk();
  const names = probed(network);
  const [pair, setPair] = useState<readonly [string, string]>([names[0], names[names.length - 1]]);
  const { value: text, set, forget } = useKept(`own between ${state.job.id}`, "");
  const [why, setWhy] = useState<string | null>(null);
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (text.trim() === "") return;
    const refused = pair[0] === pair[1] ? "two nodes, please" : own.write(pair.join(" to "), "volts", text.trim());
    setWhy(refused);
    if (refused === null) forget();
  };
  const choice = (end: 0 | 1, label: string) => (
    <select
      aria-label={label}
      value={pair[end]}
      onChange={(e) => setPair(end === 0 ? [e.target.value, pair[1]] : [pair[0], e.target.value])}
      className="rounded border border-rule bg-sheet px-1.5 py-0.5"
    >
      {names.map((name) => (
        <option key={name}>{name}</option>
      ))}
    </select>
  );
  return (
    <form onSubmit={submit} className="flex flex-wrap items-center gap-2">
      V from {choice(0, "Own volts from")} to {choice(1, "Own volts to")}
      <input
        value={text}
        aria-label="My volts between"
        autoComplete="off"
        onChange={(e) => {
          set(e.target.value);
          setWhy(null);
        }}
        className="w-20 rounded border border-field bg-paper px-1.5 py-0.5 text-right font-mono"
      />
      <button type="submit" className="rounded-lg border border-rule px-3 py-1 hover:bg-band">
        Mark it
      </button>
      {why !== null && (
        <span role="alert" className="text-wrong">
          {inWords(why)}
        </span>
      )}
    </form>
  );
}

interface NextProps {
  readonly expected: Expected;
  readonly own: OwnFigures;
  readonly asked: { readonly place: string; readonly of: Asked } | null;
  readonly letter: Conventions["sourceLetter"];
}

/** On request, the cell that can be filled now and by which rule; and what the one that is pointed at still needs. */
export function Next({ expected: { network }, own, asked, letter }: NextProps) {
  const [isShown, setShown] = useState(false);
  if (!isShown)
    return (
      <button
        type="button"
        onClick={() => setShown(true)}
        className="self-start rounded-lg border border-rule px-3 py-1.5 hover:bg-band"
      >
        What can be filled now?
      </button>
    );
  const cells = nextCells(network, own.marked).slice(0, 3);
  const missing = asked ? missingFor(network, own.marked, asked.place, asked.of) : null;
  return (
    <section aria-label="What can be filled now" className="rounded-lg border border-copper bg-sheet px-3 py-2">
      {cells.length === 0 ? (
        <p>Nothing follows in one step from what is there.</p>
      ) : (
        <ul className="font-mono text-[0.95rem]">
          {cells.map(({ fact }) => (
            <li key={`${fact.of} ${fact.name}`}>{ruleWords(fact, letter)}</li>
          ))}
        </ul>
      )}
      {asked && missing && missing.length > 0 && (
        <p className="mt-1 text-faint">
          {claimName(asked)} is not due yet: it needs{" "}
          {missing.map((f) => claimName({ place: f.name, of: f.of === "emf" ? "volts" : f.of })).join(" and ")}.
        </p>
      )}
    </section>
  );
}

/** Equations of one's own, checked against the circuit. */
export function Equations({ own, network }: { own: OwnFigures; network: Network }) {
  const { state } = useDesk();
  const { value: text, set, forget } = useKept(`own equation ${state.job.id}`, "");
  const [why, setWhy] = useState<string | null>(null);
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (text.trim() === "") return;
    const refused = own.writeEquation(text.trim());
    setWhy(refused);
    if (refused === null) forget();
  };
  return (
    <section aria-label="Own equations">
      <form onSubmit={submit} className="flex flex-wrap items-center gap-2">
        <input
          value={text}
          aria-label="My own equation"
          placeholder="I1 = I2 + I3, or V1 + V2 = 24"
          autoComplete="off"
          spellCheck={false}
          onChange={(e) => {
            set(e.target.value);
            setWhy(null);
          }}
          className="min-w-0 grow basis-60 rounded-lg border border-field bg-paper px-3 py-1.5 font-mono"
        />
        <button type="submit" className="rounded-lg border border-rule px-3 py-1.5 hover:bg-band">
          Check it
        </button>
      </form>
      {why !== null && (
        <p role="alert" className="text-wrong">
          {inWords(why)}
        </p>
      )}
      <ul className="mt-1 flex flex-col gap-1">
        {own.equations.map(({ key, text: line, mark }) => (
          <li key={key} className="flex items-center gap-2">
            <code>{line}</code>
            <span className={typeof mark !== "string" && mark.kind === "holds" ? "" : "text-wrong"}>
              {typeof mark === "string" ? inWords(mark) : equationWords(mark)}
            </span>
            <button
              type="button"
              aria-label={`Take out ${line}`}
              className="rounded p-0.5 text-faint hover:text-wrong"
              onClick={() => own.drop(key)}
            >
              <X size={16} aria-hidden />
            </button>
          </li>
        ))}
      </ul>
      {own.together && (
        <p className="mt-1">
          Solved together:{" "}
          <b>
            {own.together
              .map(({ symbol: { of, branch }, value }) => {
                const [letter, unit] = of === "amps" ? (["I", "A"] as const) : (["V", "V"] as const);
                return `${letter}(${network.branches[branch].name}) = ${shown(value, unit)}`;
              })
              .join(", ")}
          </b>
          .
        </p>
      )}
    </section>
  );
}
