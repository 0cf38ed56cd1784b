import { IDEAL_OHMS, rowOf } from "@hound/core/circuit";
import { glowAt, type Reach, type Window } from "@hound/core/rank";
import type { Conventions } from "@hound/core/record";
import { type SourceRole, sourceRoles } from "@hound/core/reduce";
import type { Unit } from "@hound/core/units";
import { print } from "../words/print.ts";
import { figureWords, reachWords, undusted, widerLimit, windowBy } from "../words/quantities.ts";
import type { TableData } from "../words/tables.ts";
import type { Expected } from "./useExpected.ts";

export const CELLS = ["volts", "amps", "ohms", "watts"] as const;
export type CellName = (typeof CELLS)[number];
const UNITS: Readonly<Record<CellName, Unit>> = { volts: "V", amps: "A", ohms: "ohm", watts: "W" };

/** One line of the chart: a part, or the whole circuit. */
export interface ChartRow {
  readonly name: string;
  /** Number of the branch; −1 for the totals. */
  readonly branch: number;
  readonly values: Readonly<Record<CellName, number>>;
  readonly windows: Readonly<Partial<Record<CellName, Window>>>;
  /** Its ohms were left open, and nothing read has narrowed them. */
  readonly notKnown?: true;
  /** Of one of several sources: how it lies to the others. */
  readonly beside?: string;
  /** How bright a lamp is, by its power against its rating. */
  readonly glow?: Glow;
}

export interface Glow {
  readonly word: ReturnType<typeof glowAt>;
  /** Power over the rating. */
  readonly share: number;
}

/** How bright a lamp is at its watts; of one that says no rating, whether it is lit. */
export function glowOf(watts: number, rating: number | undefined): Glow {
  const share = rating ? watts / rating : Number(watts > 0);
  return { word: glowAt(share), share };
}

/** Parts in the order of the trail, then the totals seen by the supply. */
export function chartRows({ network, chart, states, solution, reduction, onPaper }: Expected): ChartRow[] {
  if (solution.kind !== "solved" || !chart) return [];
  const roles = new Map(sourceRoles(network).map((role) => [role.branch, roleWords(role)]));
  const rows = network.branches.map((b, branch): ChartRow => {
    const beside = roles.get(branch);
    const { volts, amps: through, watts } = chart.branches[branch];
    // A supply's current counts out of its plus, everywhere.
    const sign = b.kind === "supply" ? -1 : 1;
    const amps = sign < 0 ? turned(through) : through;
    const own = onPaper ? states[branch] : { volts: volts.value, amps: through.value };
    const state = { volts: own.volts, amps: sign * own.amps };
    const ohms = b.law.kind === "open" ? Number.POSITIVE_INFINITY : solution.point.ohms[branch];
    const power = onPaper ? own.volts * own.amps : watts.value;
    // What is solved with next to nothing in place of nothing drops nothing.
    // Across a supply it is a short circuit, and has its volts.
    const isIdeal = b.kind !== "supply" && ohms <= IDEAL_OHMS && undusted(state.volts, "V") === 0;
    return {
      name: b.name,
      branch,
      values: isIdeal ? { volts: 0, amps: state.amps, ohms: 0, watts: 0 } : { ...state, ohms, watts: power },
      windows: isIdeal ? { amps } : { volts, amps, watts },
      ...(b.part.reach && b.kind !== "supply" ? { notKnown: true as const } : {}),
      ...(beside === undefined ? {} : { beside }),
      ...(rowOf(b.kind).works === "shines" ? { glow: glowOf(watts.value, b.part.powerRating) } : {}),
    };
  });
  const { source } = reduction;
  // What one of several sees is no total.
  if (source < 0 || network.branches.filter((b) => b.kind === "supply").length > 1) return rows;
  const supply = rows[source].values;
  const total = {
    volts: supply.volts,
    amps: supply.amps,
    ohms: reduction.stops === null ? reduction.left[0].ohms : supply.volts / supply.amps,
    watts: rows.filter((r) => network.branches[r.branch].kind !== "supply").reduce((s, r) => s + r.values.watts, 0),
  };
  // The totals hang on whatever the supply's do.
  const { windows, values: own } = rows[source];
  const isOpen = Object.values(windows).some((w) => w?.reach);
  const reaches = isOpen ? { volts: windows.volts, amps: windows.amps, watts: windows.watts } : {};
  const notKnown = isOpen ? { notKnown: true as const } : {};
  return [...rows, { name: "Total", branch: -1, values: isOpen ? own : total, windows: reaches, ...notKnown }];
}

/** The same counted the other way. */
function turned({ value, reach, drawn, ...window }: Window): Window {
  const flipped = ({ low, high }: Reach): Reach => ({ low: -high, high: -low });
  return {
    ...window,
    value: -value,
    ...(reach ? { reach: flipped(reach) } : {}),
    ...(drawn ? { drawn: { likely: flipped(drawn.likely), worst: flipped(drawn.worst) } } : {}),
  };
}

/** `aiding BT2`, `opposing BT1, charged by it`. */
function roleWords({ aids, opposes, isCharged }: SourceRole): string {
  return [
    aids.length > 0 ? `aiding ${aids.join(", ")}` : "",
    opposes.length > 0 ? `opposing ${opposes.join(", ")}` : "",
    isCharged ? "charged" : "",
  ]
    .filter(Boolean)
    .join(", ");
}

/** A cell as a person would write it: with its window where there is one, by size alone where signs are hidden. */
export function cellText(row: ChartRow, cell: CellName, { signs, limits }: Conventions, withWindow: boolean): string {
  const raw = row.values[cell];
  const value = signs === "hidden" ? Math.abs(raw) : raw;
  const unit = UNITS[cell];
  if (!Number.isFinite(value)) return cell === "ohms" ? "open" : "–";
  const window = row.windows[cell];
  if (window?.reach) return reachWords(window.reach, unit);
  if (row.notKnown && cell === "ohms") return "not known";
  const own = window && value !== raw ? turned(window) : window;
  const within = withWindow && own ? windowBy({ ...own, value }, limits) : null;
  if (within && widerLimit(within) > 0) return figureWords(within, unit);
  return print(undusted(Number(value.toPrecision(4)), unit), unit);
}

/** The chart and the nodes to be taken elsewhere: base units, windows in columns of their own. */
export function chartTables(
  { network, chart }: Expected,
  rows: readonly ChartRow[],
  limits: Conventions["limits"],
): TableData[] {
  const by = (window: Window | undefined) => (window ? widerLimit(windowBy(window, limits)) : null);
  const window = (name: string, unit: Unit) => [
    { name, unit },
    { name: `${name} ±`, unit },
  ];
  const parts: TableData = {
    title: "Parts",
    columns: [
      { name: "Part" },
      ...window("V", "V"),
      ...window("I", "A"),
      { name: "R", unit: "ohm" },
      ...window("P", "W"),
    ],
    rows: rows.map(({ name, values, windows }) => [
      name,
      values.volts,
      by(windows.volts),
      values.amps,
      by(windows.amps),
      Number.isFinite(values.ohms) ? values.ohms : null,
      values.watts,
      by(windows.watts),
    ]),
  };
  if (!chart) return [parts];
  const nodes: TableData = {
    title: `Nodes against ${network.nodes[network.reference]}`,
    columns: [{ name: "Node" }, ...window("V", "V")],
    rows: network.nodes.flatMap((name, n) =>
      n === network.reference || name.endsWith(".tap") ? [] : [[name, chart.nodes[n].value, by(chart.nodes[n])]],
    ),
  };
  return [parts, nodes];
}
