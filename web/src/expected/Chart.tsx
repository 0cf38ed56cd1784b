import type { Conventions } from "@hound/core/record";
import { ruleFor } from "@hound/core/reduce";
import { ArrowDown, ArrowUp } from "lucide-react";
import { useMemo, useState } from "react";
import { CopyTable } from "../app/CopyTable.tsx";
import { Scroll } from "../app/Scroll.tsx";
import { useDesk, useSelection } from "../desk/DeskContext.tsx";
import { stampOf } from "../desk/stamp.ts";
import { print } from "../words/print.ts";
import { endsWords, figureBesideEnds, reachWords, widerLimit, windowBy } from "../words/quantities.ts";
import { Assumed } from "./Assumed.tsx";
import { CELLS, type CellName, type ChartRow, cellText, chartRows, chartTables } from "./chartRows.ts";
import { GlowMark } from "./GlowMark.tsx";
import { LimitsChoice } from "./LimitsChoice.tsx";
import { Mine } from "./Mine.tsx";
import { Spread } from "./Spread.tsx";
import type { Expected } from "./useExpected.ts";

interface ChartProps {
  readonly onHush: (isHushed: boolean) => void;
  readonly expected: Expected;
  readonly conventions: Conventions;
}

const HEADS: Readonly<Record<CellName, string>> = { volts: "V", amps: "I", ohms: "R", watts: "P" };

/** Every part's voltage, current, resistance and power with its window; the rule and the spread behind a cell on request. */
export function Chart({ expected, conventions, onHush }: ChartProps) {
  const { state, select } = useDesk();
  const { selection } = useSelection();
  const rows = useMemo(() => chartRows(expected), [expected]);
  const [isMine, setMine] = useState(false);
  const [order, setOrder] = useState<{ by: CellName | "name"; down: boolean } | null>(null);
  const [shown, setShown] = useState<readonly CellName[]>(CELLS);
  const [open, setOpen] = useState<{ branch: number; cell: CellName } | null>(null);
  const sorted = useMemo(() => sortedRows(rows, order), [rows, order]);
  const sortBy = (by: CellName | "name") =>
    setOrder((now) => (now?.by === by ? (now.down ? { by, down: false } : null) : { by, down: true }));
  const arrow = (by: CellName | "name") =>
    order?.by === by && (order.down ? <ArrowDown size={14} aria-hidden /> : <ArrowUp size={14} aria-hidden />);
  if (isMine)
    return (
      <div className="flex flex-col gap-3">
        <button
          type="button"
          aria-pressed
          onClick={() => setMine(false)}
          className="self-end rounded-lg border border-copper bg-copper px-3 py-1.5 text-sheet"
        >
          Check mine
        </button>
        <Mine expected={expected} conventions={conventions} onHush={onHush} />
      </div>
    );
  return (
    <div className="flex flex-col gap-4">
      <div className="flex flex-wrap items-center gap-3">
        <fieldset className="flex gap-3">
          <legend className="sr-only">Columns</legend>
          {CELLS.map((cell) => (
            <label key={cell} className="flex items-center gap-1.5">
              <input
                type="checkbox"
                checked={shown.includes(cell)}
                onChange={(e) => setShown(CELLS.filter((c) => (c === cell ? e.target.checked : shown.includes(c))))}
                className="size-4 accent-copper"
              />
              {HEADS[cell]}
            </label>
          ))}
        </fieldset>
        <LimitsChoice limits={conventions.limits} />
        <span className="grow" />
        <button
          type="button"
          aria-pressed={false}
          onClick={() => setMine(true)}
          className="rounded-lg border border-rule px-3 py-1.5 hover:bg-band"
        >
          Check mine
        </button>
        <CopyTable
          tables={() => chartTables(expected, rows, conventions.limits)}
          stamp={() => stampOf(state, new Date())}
        />
      </div>
      <Assumed />
      {expected.onPaper && (
        <p className="rounded-lg border border-doubt px-3 py-2">
          Three figures are carried on at every step, as on paper. Checks shows what that costs.
        </p>
      )}
      <Scroll label="The chart">
        <table className="w-full border-collapse text-[0.94rem]" aria-label="What every part should show">
          <thead className="bg-band">
            <tr>
              <th
                scope="col"
                aria-sort={order?.by === "name" ? (order.down ? "ascending" : "descending") : "none"}
                className="text-left"
              >
                <button
                  type="button"
                  onClick={() => sortBy("name")}
                  className="flex items-center gap-1 px-3 py-2 font-bold"
                >
                  Part {arrow("name")}
                </button>
              </th>
              {shown.map((cell) => (
                <th
                  key={cell}
                  scope="col"
                  aria-sort={order?.by === cell ? (order.down ? "descending" : "ascending") : "none"}
                  className="text-right"
                >
                  <button
                    type="button"
                    onClick={() => sortBy(cell)}
                    className="inline-flex items-center gap-1 px-2 py-2 font-bold"
                  >
                    {arrow(cell)} {HEADS[cell]}
                  </button>
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {sorted.map((row) => (
              <tr
                key={row.name}
                className={`border-t border-rule ${row.branch < 0 ? "bg-band font-bold" : ""} ${selection?.name === row.name ? "bg-copper-wash" : ""}`}
              >
                <th scope="row" className="py-1.5 pr-1 pl-3 text-left">
                  {row.name}
                  {row.beside && <span className="block text-sm font-normal text-faint">{row.beside}</span>}
                  {row.glow && <GlowMark glow={row.glow} />}
                </th>
                {shown.map((cell) => (
                  <td key={cell} className="p-0 text-right whitespace-nowrap">
                    <button
                      type="button"
                      disabled={row.branch < 0}
                      aria-expanded={open?.branch === row.branch && open.cell === cell}
                      aria-label={`${HEADS[cell]} of ${row.name}: ${cellText(row, cell, conventions, cell !== "ohms" && !expected.onPaper)}`}
                      onClick={() => {
                        select({ kind: "branch", name: row.name });
                        setOpen({ branch: row.branch, cell });
                      }}
                      className={`w-full px-1.5 py-1.5 text-right enabled:hover:bg-band ${open?.branch === row.branch && open.cell === cell ? "outline-2 -outline-offset-2 outline-copper" : ""}`}
                    >
                      <Stacked text={cellText(row, cell, conventions, cell !== "ohms" && !expected.onPaper)} />
                    </button>
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </Scroll>
      {open && (
        <Behind expected={expected} row={rows[open.branch]} cell={open.cell} letter={conventions.sourceLetter} />
      )}
      <Nodes expected={expected} limits={conventions.limits} />
    </div>
  );
}

function sortedRows(
  rows: readonly ChartRow[],
  order: { by: CellName | "name"; down: boolean } | null,
): readonly ChartRow[] {
  if (!order) return rows;
  const { by, down } = order;
  const parts = rows.filter((r) => r.branch >= 0);
  const key = (r: ChartRow) => (by === "name" ? 0 : Math.abs(r.values[by]));
  const inOrder = [...parts].sort((a, b) =>
    by === "name" ? a.name.localeCompare(b.name, undefined, { numeric: true }) : key(b) - key(a),
  );
  return [...(down ? inOrder : inOrder.reverse()), ...rows.filter((r) => r.branch < 0)];
}

interface BehindProps {
  readonly expected: Expected;
  readonly row: ChartRow;
  readonly cell: CellName;
  readonly letter: Conventions["sourceLetter"];
}

/** Why a cell holds what it holds, and how far tolerances may move it. */
function Behind({ expected, row, cell, letter }: BehindProps) {
  const { network } = expected;
  const { from, to } = network.branches[row.branch];
  const rule = ruleFor(network, row.branch, cell).replaceAll("E(", `${letter}(`).replace("E −", `${letter} −`);
  const window = row.windows[cell];
  const title = `${HEADS[cell]} of ${row.name}`;
  return (
    <section aria-label={`Behind ${title}`} className="rounded-lg border border-copper bg-sheet p-4">
      <h2 className="text-lg font-bold">{title}</h2>
      <p>{rule.charAt(0).toUpperCase() + rule.slice(1)}.</p>
      {cell === "watts" && <ThreeWays row={row} />}
      {window && (
        <Spread
          network={network}
          window={window}
          quantity={
            cell === "amps"
              ? { kind: "amps", branch: row.branch }
              : { kind: cell === "watts" ? "watts" : "volts", from, to, branch: row.branch }
          }
        />
      )}
    </section>
  );
}

/** Power as V·I, I²·R and V²÷R: of a part that only resists, all three agree. */
function ThreeWays({ row }: { row: ChartRow }) {
  const { volts, amps, ohms } = row.values;
  const ways = [
    ["V × I", Math.abs(volts * amps)],
    ["I² × R", amps * amps * ohms],
    ["V² ÷ R", (volts * volts) / ohms],
  ] as const;
  // A supply's own resistance is not what its power comes from.
  if (!Number.isFinite(ohms) || Math.abs(ways[0][1] - ways[1][1]) > 0.05 * ways[0][1]) return null;
  return (
    <p className="font-mono">
      {ways.map(([way, watts]) => `${way} = ${print(Number(watts.toPrecision(4)), "W")}`).join(" · ")}
    </p>
  );
}

/** A figure, and beneath it its limits where they are said in words. */
function Stacked({ text }: { text: string }) {
  const [figure, limits] = text.split(" (");
  return (
    <>
      {figure}
      {limits !== undefined && <span className="block text-sm text-faint">{limits.replace(")", "")}</span>}
    </>
  );
}

/** Every node against the reference: what the staircase draws, as a table. */
function Nodes({ expected, limits }: { expected: Expected; limits: Conventions["limits"] }) {
  const { select } = useDesk();
  const { network, chart } = expected;
  if (!chart) return null;
  return (
    <section aria-label="Nodes" className="rounded-lg border border-rule bg-sheet">
      <h2 className="px-3 pt-2 text-lg font-bold">Nodes against {network.nodes[network.reference]}</h2>
      <table className="w-full border-collapse" aria-label="What every node should read">
        <thead>
          <tr className="text-left text-faint">
            <th scope="col" className="px-3 py-1 font-normal">
              Node
            </th>
            <th scope="col" className="px-3 py-1 text-right font-normal">
              Expected
            </th>
            <th scope="col" className="px-3 py-1 text-right font-normal">
              Still healthy
            </th>
          </tr>
        </thead>
        <tbody>
          {network.nodes.map((name, n) => {
            if (n === network.reference || name.endsWith(".tap")) return null;
            const { reach } = chart.nodes[n];
            const within = windowBy(chart.nodes[n], limits);
            return (
              <tr key={name} className="border-t border-rule">
                <th scope="row" className="text-left">
                  <button
                    type="button"
                    onClick={() => select({ kind: "node", name })}
                    className="px-3 py-1.5 font-bold hover:underline"
                  >
                    {name}
                  </button>
                </th>
                <td className="px-3 py-1.5 text-right">
                  {reach ? reachWords(reach, "V") : figureBesideEnds(within, "V")}
                </td>
                <td className="px-3 py-1.5 text-right text-faint">
                  {!reach && widerLimit(within) > 0 && endsWords(within, "V")}
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </section>
  );
}
