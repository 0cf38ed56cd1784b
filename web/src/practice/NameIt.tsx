import type { Circuit } from "@hound/core/circuit";
import type { Hunt } from "@hound/core/practice";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { huntsApi } from "../api/hunts.ts";
import { DialogClose, DialogFrame } from "../app/DialogFrame.tsx";
import { useDesk } from "../desk/DeskContext.tsx";
import { clockWords, namedWords } from "../words/practice.ts";
import { huntKey } from "./useHunt.ts";

interface NameItProps {
  readonly hunt: Hunt;
  readonly circuit: Circuit;
  readonly onClose: () => void;
}

const HOW_SURE = [
  { sure: 0.5, words: "a guess" },
  { sure: 0.7, words: "rather sure" },
  { sure: 0.9, words: "sure" },
  { sure: 0.99, words: "quite certain" },
] as const;

/** Says what is wrong, and how sure one is: parts by name, two nodes that are joined, or nothing. */
export function NameIt({ hunt, circuit, onClose }: NameItProps) {
  const { drawn } = useDesk();
  const [named, setNamed] = useState<readonly string[]>([]);
  const [isNothing, setNothing] = useState(false);
  const [sure, setSure] = useState(0.9);
  const queries = useQueryClient();
  const sent = useMutation({
    mutationFn: (give: boolean) =>
      give ? huntsApi.giveUp(hunt.id) : huntsApi.name(hunt.id, isNothing ? [] : named, sure),
    onSuccess: (next) => {
      queries.setQueryData(huntKey(hunt.id), next);
      // What was wrong is not meant again; of what was part of it the rest is looked for.
      if (next.state === "open" && (next.namings.at(-1)?.right ?? 0) === 0) setNamed([]);
      setNothing(false);
    },
  });
  const turn = (name: string) => {
    setNothing(false);
    setNamed((before) => (before.includes(name) ? before.filter((n) => n !== name) : [...before, name]));
  };
  const bridges = named.filter((name) => name.includes("~"));
  const last = sent.data?.namings.at(-1);
  const isWrong = last !== undefined && last.right < 1;
  return (
    <DialogFrame open onOpenChange={(open) => !open && onClose()} title="What is wrong?" wide>
      {isWrong && (
        <p role="alert" className="rounded-lg border-2 border-doubt px-3 py-2 text-doubt">
          {last.right > 0
            ? `${namedWords(last.named)} is one of it, and not all. `
            : `Not ${namedWords(last.named)}: it was changed for nothing. `}
          That cost {clockWords(hunt.costs.swap * Math.max(1, last.named.length))}.
        </p>
      )}
      <fieldset>
        <legend className="mb-1">To be changed</legend>
        <div className="flex flex-wrap gap-2">
          {[...circuit.parts.map((p) => p.designator), ...bridges].map((name) => (
            <button
              key={name}
              type="button"
              aria-pressed={named.includes(name)}
              className="min-h-10 rounded-lg border border-rule px-3 py-1 text-lg hover:bg-band aria-pressed:border-copper aria-pressed:bg-copper-wash aria-pressed:font-bold"
              onClick={() => turn(name)}
            >
              {name}
            </button>
          ))}
          {hunt.count !== "one" && hunt.count !== "two" && (
            <button
              type="button"
              aria-pressed={isNothing}
              className="min-h-10 rounded-lg border border-rule px-3 py-1 text-lg hover:bg-band aria-pressed:border-copper aria-pressed:bg-copper-wash aria-pressed:font-bold"
              onClick={() => {
                setNamed([]);
                setNothing(!isNothing);
              }}
            >
              nothing is wrong
            </button>
          )}
        </div>
      </fieldset>
      <BridgeChoice onAdd={turn} nodes={drawn?.network.nodes.filter((n) => !n.includes(".")) ?? []} />
      <fieldset>
        <legend className="mb-1">How sure</legend>
        <div className="flex flex-wrap gap-2">
          {HOW_SURE.map((one) => (
            <label key={one.sure} className="flex items-center gap-1.5 rounded-lg border border-rule px-3 py-1.5">
              <input
                type="radio"
                name="sure"
                className="size-5 accent-copper"
                checked={sure === one.sure}
                onChange={() => setSure(one.sure)}
              />
              {one.words}
            </label>
          ))}
        </div>
      </fieldset>
      {sent.error && (
        <p role="alert" className="text-wrong">
          Not said: {sent.error.message}. Try it again.
        </p>
      )}
      <p className="text-faint">A wrong name costs what changing the part costs: {clockWords(hunt.costs.swap)}.</p>
      <div className="flex flex-wrap justify-end gap-3">
        <button
          type="button"
          className="mr-auto rounded-lg border border-rule px-4 py-2 hover:bg-band"
          onClick={() => sent.mutate(true)}
        >
          Give up and see it
        </button>
        <DialogClose>Go on looking</DialogClose>
        <button
          type="button"
          disabled={sent.isPending || (named.length === 0 && !isNothing)}
          className="rounded-lg bg-copper px-4 py-2 font-bold text-sheet disabled:opacity-50"
          onClick={() => sent.mutate(false)}
        >
          {named.length > 0 || isNothing ? `It is ${namedWords(isNothing ? [] : named)}` : "Pick what it is"}
        </button>
      </div>
    </DialogFrame>
  );
}

function BridgeChoice({ nodes, onAdd }: { nodes: readonly string[]; onAdd: (name: string) => void }) {
  const [pair, setPair] = useState<readonly [string, string]>(["", ""]);
  const choose = (at: 0 | 1) => (
    <select
      aria-label={at === 0 ? "One node of a bridge" : "The other node of it"}
      value={pair[at]}
      className="rounded-lg border border-rule bg-paper px-2 py-1"
      onChange={(e) => setPair(at === 0 ? [e.target.value, pair[1]] : [pair[0], e.target.value])}
    >
      <option value="">…</option>
      {nodes.map((n) => (
        <option key={n}>{n}</option>
      ))}
    </select>
  );
  const [a, b] = pair;
  return (
    <div className="flex flex-wrap items-center gap-2">
      A bridge between {choose(0)} and {choose(1)}
      <button
        type="button"
        disabled={a === "" || b === "" || a === b}
        className="rounded-lg border border-rule px-3 py-1 hover:bg-band disabled:opacity-50"
        onClick={() => onAdd([a, b].sort().join("~"))}
      >
        add it
      </button>
    </div>
  );
}
