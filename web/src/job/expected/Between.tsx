import type { Network, NodeName } from "@hound/core/circuit";
import { equivalentBetween, OVERLOAD } from "@hound/core/rank";
import type { Meter } from "@hound/core/record";
import { combine } from "@hound/core/reduce";
import { useState } from "react";
import { print } from "../../words/print.ts";
import { shown } from "../../words/quantities.ts";
import { useDesk } from "../DeskContext.tsx";

/** Any two nodes: what lies between them, with power on and off, and what a meter makes of it. */
export function Between({ network, meter }: { network: Network; meter: Meter }) {
  const { selection } = useDesk();
  const names = network.nodes.filter((n) => !n.endsWith(".tap"));
  const reference = network.nodes[network.reference];
  const chosen = selection?.kind === "node" && selection.name !== reference ? selection.name : null;
  const [from, setFrom] = useState<string | null>(null);
  const [to, setTo] = useState<string>(reference);
  const a = (from ?? chosen ?? names.find((n) => n !== reference) ?? reference) as NodeName;
  const b = (names.includes(to as NodeName) ? to : reference) as NodeName;
  const found = a === b ? null : equivalentBetween(network, a, b, meter);
  const paths = a === b ? [] : pathsBetween(network, a, b);
  const loading = found && found.openVolts !== 0 ? 1 - found.readVolts / found.openVolts : 0;
  return (
    <div className="flex flex-col gap-4">
      <div className="flex flex-wrap gap-4">
        <NodeSelect label="From (red lead)" value={a} names={names} onChange={setFrom} />
        <NodeSelect label="To (black lead)" value={b} names={names} onChange={setTo} />
      </div>
      {a === b && <p className="text-faint">Choose two different nodes.</p>}
      {a !== b && !found && (
        <p className="text-faint">
          Nothing connects {a} to {b}: no voltage between them means anything.
        </p>
      )}
      {found && (
        <>
          <section aria-label="Power on" className="rounded-lg border border-rule bg-sheet p-4">
            <h2 className="text-lg font-bold">Power on</h2>
            <p>
              <b className="text-2xl">{shown(found.openVolts, "V")}</b> from {a} to {b}.
            </p>
            <p>
              The meter shows {shown(found.readVolts, "V", 5)}
              {Math.abs(loading) < 5e-5
                ? ": it hardly loads the circuit."
                : `, ${print(Number((loading * 100).toPrecision(2)), "%")} less, as it loads the circuit.`}
            </p>
            <p className="text-faint">
              Seen from here all of it acts like {shown(found.openVolts, "V")} behind {shown(found.sourceOhms, "ohm")}.
              A wire across would carry {shown(found.shortAmps, "A")}. Do not try it.
            </p>
          </section>
          <section aria-label="Power off" className="rounded-lg border border-rule bg-sheet p-4">
            <h2 className="text-lg font-bold">Power off, supplies disconnected</h2>
            <p>
              An ohmmeter shows{" "}
              <b className="text-2xl">
                {found.offOhms >= OVERLOAD || !Number.isFinite(found.offOhms) ? "OL" : shown(found.offOhms, "ohm")}
              </b>
              .
            </p>
            {paths.length > 0 && (
              <p className="text-faint">
                {paths.length === 1 ? "One path, through " : `${paths.length} paths side by side: `}
                {paths.join("; ")}.
              </p>
            )}
          </section>
        </>
      )}
    </div>
  );
}

/** What an ohmmeter between two nodes includes, side by side, supplies left out. */
function pathsBetween(network: Network, from: NodeName, to: NodeName): string[] {
  const [a, b] = [network.nodes.indexOf(from), network.nodes.indexOf(to)];
  const live = network.branches.flatMap((branch, k) =>
    branch.kind === "supply" || branch.law.kind === "open" ? [] : [k],
  );
  const namesOf = (c: ReturnType<typeof combine>[number]): string[] =>
    c.kind === "branch" ? [network.branches[c.branch].name] : c.parts.flatMap(namesOf);
  const whole = combine(network, live, new Set([a, b])).filter(
    (c) => (c.from === a && c.to === b) || (c.from === b && c.to === a),
  );
  return whole.flatMap((c) => (c.kind === "parallel" ? c.parts : [c])).map((c) => namesOf(c).join(", "));
}

interface NodeSelectProps {
  readonly label: string;
  readonly value: string;
  readonly names: readonly string[];
  readonly onChange: (name: string) => void;
}

function NodeSelect({ label, value, names, onChange }: NodeSelectProps) {
  return (
    <label className="flex flex-col gap-1">
      {label}
      <select
        value={value}
        onChange={(e) => onChange(e.target.value)}
        className="rounded-lg border border-rule bg-sheet px-3 py-2 text-lg"
      >
        {names.map((name) => (
          <option key={name}>{name}</option>
        ))}
      </select>
    </label>
  );
}
