import Papa from "papaparse";
import type { Network } from "../circuit/index.ts";
import type { Comparison, Pair } from "./comparison.ts";
import type { Signatures } from "./signatures.ts";
import { writeSupposed } from "./words.ts";

/** What floats or is open has no number. */
const finite = (value: number) => (Number.isFinite(value) ? value : null);

/** One line for every quantity: of what, which, healthy, supposed, and the change; base SI units. */
export function comparisonCsv({ nodes, parts }: Comparison): string {
  const row = (of: string, quantity: string, { healthy, whatif }: Pair) => ({
    of,
    quantity,
    healthy: finite(healthy),
    whatif: finite(whatif),
    change: finite(whatif - healthy),
  });
  return `${Papa.unparse([
    ...nodes.map(({ name, volts }) => row(name, "node_volts", volts)),
    ...parts.flatMap((p) => (["volts", "amps", "ohms", "watts"] as const).map((q) => row(p.name, q, p[q]))),
  ])}\n`;
}

/** Faults down, test points across, each cell the deviation from healthy in limits. */
export function signaturesCsv({ points, rows }: Signatures, network: Network): string {
  return `${Papa.unparse({
    fields: ["fault", "share", "group", ...points.map((p) => (p.reading.quantity === "voltage" ? p.reading.from : ""))],
    data: rows.map((r) => [writeSupposed(r.fault, network), r.share, r.group, ...[...r.deviations].map(finite)]),
  })}\n`;
}
