import { type Network, rowOf } from "@hound/core/circuit";
import type { Unit } from "@hound/core/units";
import { type Comparison, comparisonCsv, type Load, type Pair } from "@hound/core/whatif";
import { useState } from "react";
import { CopyTable } from "../app/CopyTable.tsx";
import { Scroll } from "../app/Scroll.tsx";
import { TableHead } from "../app/TableHead.tsx";
import { useDesk, useSelection } from "../desk/DeskContext.tsx";
import { stampOf } from "../desk/stamp.ts";
import { glowOf } from "../expected/chartRows.ts";
import { GlowMark } from "../expected/GlowMark.tsx";
import { print, printFixed } from "../words/print.ts";
import { shown } from "../words/quantities.ts";
import type { TableData } from "../words/tables.ts";
import { limitsWords } from "./FitTable.tsx";

const QUANTITIES = { nodes: "Nodes", volts: "V", amps: "I", ohms: "R", watts: "P" } as const;
type Quantity = keyof typeof QUANTITIES;
const UNITS: Readonly<Record<Quantity, Unit>> = { nodes: "V", volts: "V", amps: "A", ohms: "ohm", watts: "W" };

/** As figures: node by node, part by part, each with its unit beside it. */
function tableOf({ nodes, parts }: Comparison): TableData {
  const row = (of: string, unit: string, { healthy, whatif }: Pair) => [of, unit, healthy, whatif, whatif - healthy];
  return {
    title: "Healthy, and with the faults",
    columns: ["Of", "Unit", "Healthy", "With it", "Change"].map((name) => ({ name })),
    rows: [
      ...nodes.map((n) => row(n.name, "V", n.volts)),
      ...parts.flatMap((part) =>
        (["volts", "amps", "ohms", "watts"] as const).map((q) => row(part.name, UNITS[q], part[q])),
      ),
    ],
  };
}

/** Healthy, with the faults, and the change, for every node and for V, I, R and P of every part. */
export function ChangeChart({ comparison, network }: { comparison: Comparison; network: Network }) {
  const [quantity, setQuantity] = useState<Quantity>("nodes");
  const { state, select } = useDesk();
  const { selection } = useSelection();
  const rows =
    quantity === "nodes"
      ? comparison.nodes
          .filter((n) => !n.name.includes("."))
          .map((n) => ({ name: n.name, pair: n.volts, kind: "node" as const, more: limitsCell(n.limits) }))
      : comparison.parts.map((p, k) => ({
          name: p.name,
          pair: p[quantity],
          kind: "branch" as const,
          more:
            quantity === "watts" ? (
              rowOf(network.branches[k].kind).works === "shines" ? (
                <Glows pair={p.watts} rating={network.branches[k].part.powerRating} />
              ) : (
                loadCell(p.loads.whatif)
              )
            ) : quantity === "amps" ? (
              loadCell(p.loads.whatif?.of === "current" ? p.loads.whatif : null)
            ) : null,
        }));
  const last = quantity === "nodes" ? "in limits" : "of its rating";
  return (
    <div className="flex flex-col gap-2">
      <div className="flex items-center gap-1">
        {(Object.keys(QUANTITIES) as Quantity[]).map((q) => (
          <button
            key={q}
            type="button"
            aria-pressed={q === quantity}
            onClick={() => setQuantity(q)}
            className="rounded-lg border border-rule px-3 py-1 aria-pressed:border-copper aria-pressed:bg-copper-wash aria-pressed:font-bold"
          >
            {QUANTITIES[q]}
          </button>
        ))}
      </div>
      <CopyTable
        tables={() => [tableOf(comparison)]}
        stamp={() => stampOf(state, new Date())}
        csv={() => comparisonCsv(comparison)}
      />
      <Scroll label="Chart of changes">
        <table className="w-full" aria-label="Healthy and with the faults">
          <TableHead columns={[quantity === "nodes" ? "node" : "part", "healthy", "with it", "change", last]} />
          <tbody>
            {rows.map(({ name, pair, kind, more }) => (
              <tr
                key={name}
                className={`border-t border-rule text-right ${selection?.name === name ? "bg-copper-wash" : ""}`}
              >
                <th scope="row" className="p-0 text-left">
                  <button type="button" className="w-full px-3 py-1.5 text-left" onClick={() => select({ kind, name })}>
                    {name}
                  </button>
                </th>
                <td className="px-2 py-1.5 whitespace-nowrap text-faint">{figure(pair.healthy, UNITS[quantity])}</td>
                <td className="px-2 py-1.5 font-bold whitespace-nowrap">{figure(pair.whatif, UNITS[quantity])}</td>
                <td className="px-2 py-1.5 whitespace-nowrap">{changeOf(pair, UNITS[quantity])}</td>
                <td className="px-2 py-1.5 whitespace-nowrap">{more}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </Scroll>
    </div>
  );
}

function figure(value: number, unit: Unit): string {
  if (Number.isNaN(value)) return "floats";
  return Number.isFinite(value) ? shown(value, unit) : "open";
}

function changeOf({ healthy, whatif }: Pair, unit: Unit): string {
  const change = whatif - healthy;
  if (!Number.isFinite(change)) return healthy === whatif ? "–" : whatif > healthy ? "▲ open" : "▼";
  if (Math.abs(change) < 1e-9 * Math.max(1e-3, Math.abs(healthy))) return "–";
  return `${change > 0 ? "▲" : "▼"} ${print(Number(Math.abs(change).toPrecision(3)), unit)}`;
}

function limitsCell(limits: number) {
  if (Number.isNaN(limits)) return "–";
  return Math.abs(limits) <= 1 ? <span className="text-faint">within</span> : limitsWords(limits);
}

/** `2.4 ×` its rating; loud where that is too much. */
function loadCell(load: Load | null) {
  if (!load) return null;
  const times = load.value / load.rating;
  const words = printFixed(times, times < 1 ? 2 : times < 10 ? 1 : 0);
  return <span className={times > 1 ? "font-bold text-wrong" : "text-faint"}>{words} ×</span>;
}

/** By its rating; of a lamp without one by its power in the healthy circuit. */
function Glows({ pair, rating }: { pair: Pair; rating: number | undefined }) {
  return <GlowMark glow={glowOf(pair.whatif, rating ?? (pair.healthy > 0 ? pair.healthy : undefined))} />;
}
