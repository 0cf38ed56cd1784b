import type { Network } from "@hound/core/circuit";
import { ASKED, type Asked, isDrawn, missingFor, nextCells, type Place } from "@hound/core/claims";
import type { Conventions } from "@hound/core/record";
import { Check, CircleX, CornerDownRight, X } from "lucide-react";
import { type FormEvent, useEffect, useState } from "react";
import { Scroll } from "../app/Scroll.tsx";
import { useDesk } from "../desk/DeskContext.tsx";
import { useKept } from "../desk/useKept.ts";
import { claimName, equationWords, markWords, placeWords } from "../words/claims.ts";
import { ruleWords } from "../words/deduced.ts";
import { inWords } from "../words/print.ts";
import { shown } from "../words/quantities.ts";
import { probed } from "./ends.ts";
import { type OwnFigures, useClaims } from "./useClaims.ts";
import type { Expected } from "./useExpected.ts";

const HEADS: Readonly<Record<Asked, string>> = { volts: "V", amps: "I", ohms: "R", watts: "P" };

/** A person's own figures in the chart's cells, each marked at once, with what probably went wrong; never weighed as readings. */
export function Mine({
  expected,
  conventions,
  onHush,
}: {
  readonly expected: Expected;
  readonly conventions: Conventions;
  readonly onHush: (isHushed: boolean) => void;
}) {
  const own = useClaims(expected);
  const [isOpen, setOpen] = useState(false);
  // Whoever works it out does not have the answers beside it.
  useEffect(() => {
    onHush(!isOpen);
    return () => onHush(false);
  }, [onHush, isOpen]);
  const { places, marked } = own;
  const rows = places.filter((p) => p.kind !== "node");
  const nodes = places.filter((p) => p.kind === "node");
  const [asked, setAsked] = useState<{ readonly place: string; readonly of: Asked } | null>(null);
  const count = (...kinds: readonly string[]) => marked.filter((m) => kinds.includes(m.mark.kind)).length;
  return (
    <div className="flex flex-col gap-3">
      <p role="status" className="rounded-lg border border-rule px-3 py-2">
        {marked.length === 0
          ? "Type your own figures, in any order, with units or without: each is marked at once. They are no readings."
          : `${count("right", "rounded")} right, ${count("wrong")} wrong${count("follows") > 0 ? `, ${count("follows")} right from what was wrong before` : ""}.`}
      </p>
      <label className="flex items-center gap-2">
        <input
          type="checkbox"
          checked={isOpen}
          onChange={(e) => setOpen(e.target.checked)}
          className="size-5 accent-copper"
        />
        Show the figures on the board
      </label>
      <Scroll label="Own figures">
        <table className="w-full border-collapse text-[0.94rem]" aria-label="My own figures">
          <thead className="bg-band">
            <tr>
              {["Part", ...ASKED.map((of) => HEADS[of])].map((head, n) => (
                <th key={head} scope="col" className={`px-2 py-2 ${n === 0 ? "text-left" : "text-right"}`}>
                  {head}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {rows.map((place) => (
              <tr key={place.name} className="border-t border-rule align-top">
                <th scope="row" className="py-1.5 pr-1 pl-3 text-left">
                  {place.name}
                  <span className="block text-sm font-normal text-faint">{placeWords(place)}</span>
                </th>
                {ASKED.map((of) => (
                  <td key={of} className="px-1 py-1 text-right">
                    {place.truth[of] === undefined ? (
                      <span className="text-faint">–</span>
                    ) : isDrawn(expected.network, place, of) ? (
                      <span className="text-faint">drawn</span>
                    ) : (
                      <Cell own={own} place={place} of={of} onAsk={setAsked} />
                    )}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </Scroll>
      <section aria-label="Own figures at nodes" className="flex flex-wrap gap-3">
        {nodes.map((place) => (
          <div key={place.name} className="flex items-start gap-1.5">
            <span className="pt-1">{claimName({ place: place.name, of: "volts" })}</span>
            <Cell own={own} place={place} of="volts" onAsk={setAsked} />
          </div>
        ))}
      </section>
      <Between expected={expected} own={own} />
      <LookAgain own={own} />
      <Next expected={expected} own={own} asked={asked} letter={conventions.sourceLetter} />
      <Equations own={own} network={expected.network} />
    </div>
  );
}

/** Volts between any two nodes. */
function Between({ expected: { network }, own }: { expected: Expected; own: OwnFigures }) {
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

interface CellProps {
  readonly own: OwnFigures;
  readonly place: Place;
  readonly of: Asked;
  readonly onAsk: (cell: { place: string; of: Asked }) => void;
}

function Cell({ own, place: { name }, of, onAsk }: CellProps) {
  const { state } = useDesk();
  const saved = own.typed(name, of);
  const { value: text, set, forget } = useKept(`own ${of} ${name} ${state.job.id}`, saved);
  const [why, setWhy] = useState<string | null>(null);
  const commit = () => {
    const refused = own.write(name, of, text.trim());
    setWhy(refused);
    if (refused === null) forget();
  };
  const mark = own.marked.find((m) => m.claim.place === name && m.claim.of === of);
  const said = mark && text.trim() === saved ? markWords(mark) : null;
  const isGood = mark?.mark.kind === "right" || mark?.mark.kind === "rounded";
  return (
    <span className="inline-flex flex-col items-end">
      <span className="flex items-center gap-0.5">
        {said &&
          (isGood ? (
            <Check size={16} className="text-low" aria-hidden />
          ) : mark?.mark.kind === "follows" ? (
            <CornerDownRight size={16} className="text-doubt" aria-hidden />
          ) : (
            <CircleX size={16} className="text-wrong" aria-hidden />
          ))}
        <input
          value={text}
          aria-label={`My ${claimName({ place: name, of })}`}
          aria-invalid={why !== null}
          autoComplete="off"
          inputMode="text"
          onChange={(e) => set(e.target.value)}
          onFocus={() => onAsk({ place: name, of })}
          onBlur={commit}
          onKeyDown={(e) => e.key === "Enter" && commit()}
          className={`w-20 rounded border bg-paper px-1.5 py-0.5 text-right font-mono ${why !== null ? "border-wrong" : "border-field"}`}
        />
      </span>
      {(why ?? said) && (
        <span
          className={`text-sm ${isGood ? "text-faint" : why !== null || mark?.mark.kind === "wrong" ? "text-wrong" : "text-doubt"}`}
        >
          {why !== null ? inWords(why) : said?.word}
        </span>
      )}
    </span>
  );
}

/** What is wrong, with what probably made it so, in the order in which it was written. */
function LookAgain({ own }: { own: OwnFigures }) {
  const odd = own.marked.filter(({ mark }) => mark.kind !== "right");
  if (odd.length === 0) return null;
  return (
    <ul
      aria-label="What to look at again"
      className="flex flex-col gap-1.5 rounded-lg border border-rule bg-sheet px-3 py-2"
    >
      {odd.map((one) => {
        const { word, more } = markWords(one);
        return (
          <li key={`${one.claim.of} ${one.claim.place}`}>
            <b>
              {claimName(one.claim)} {one.claim.typed}
            </b>
            : {word}
            {more && `: ${more}`}.
          </li>
        );
      })}
    </ul>
  );
}

interface NextProps {
  readonly expected: Expected;
  readonly own: OwnFigures;
  readonly asked: { readonly place: string; readonly of: Asked } | null;
  readonly letter: Conventions["sourceLetter"];
}

/** On request, the cell that can be filled now and by which rule; and what the one that is pointed at still needs. */
function Next({ expected: { network }, own, asked, letter }: NextProps) {
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
function Equations({ own, network }: { own: OwnFigures; network: Network }) {
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
