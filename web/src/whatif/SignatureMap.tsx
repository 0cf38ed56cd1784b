import type { Network } from "@hound/core/circuit";
import type { RankInput, Ranking, RankProblem } from "@hound/core/rank";
import { type Signature, type Signatures, type Supposed, signaturesCsv, writeSupposed } from "@hound/core/whatif";
import { scaleSymlog } from "d3-scale";
import { useMemo, useState } from "react";
import { useNotice } from "../app/Notice.tsx";
import { saveFile } from "../app/saveFile.ts";
import { useLab } from "../lab/useLab.ts";
import { printFixed } from "../words/print.ts";
import { limitsWords, suspectOf } from "./FitTable.tsx";

interface SignatureMapProps {
  readonly input: RankInput;
  readonly network: Network;
  readonly ranking: Ranking | RankProblem | null;
  readonly onSuppose: (faults: readonly Supposed[]) => void;
}

/** A fault that readings leave with less than this fades. */
const RULED_OUT = 1e-3;

/** What every single fault does to every test point: faults down, points across, the change in limits in each cell. */
export function SignatureMap({ input, network, ranking, onSuppose }: SignatureMapProps) {
  const { circuit, meter, priors, habits, situation, standing } = input;
  const question = useMemo(
    () =>
      ({ kind: "signatures", input: { circuit, readings: [], meter, priors, habits, situation, standing } }) as const,
    [circuit, meter, priors, habits, situation, standing],
  );
  const { answer } = useLab(question);
  if (answer?.kind === "problem") return <p className="text-doubt">{answer.message}.</p>;
  if (answer?.kind !== "signatures") return <p className="text-faint">Working it out …</p>;
  const hasReadings = input.readings.length > 0;
  return (
    <MapTable
      found={answer}
      network={network}
      ranking={hasReadings && ranking?.kind === "ranking" ? ranking : null}
      onSuppose={onSuppose}
    />
  );
}

interface MapTableProps {
  readonly found: Signatures;
  readonly network: Network;
  readonly ranking: Ranking | null;
  readonly onSuppose: (faults: readonly Supposed[]) => void;
}

/** Rows of one group are folded into their likeliest. */
function MapTable({ found, network, ranking, onSuppose }: MapTableProps) {
  const [open, setOpen] = useState<ReadonlySet<number>>(new Set());
  const notice = useNotice();
  const columns = useMemo(
    () => found.points.map((point, at) => ({ ...point, at })).sort((a, b) => b.tells - a.tells),
    [found],
  );
  const groups = useMemo(() => groupsOf(found.rows), [found]);
  const toggle = (group: number) => {
    const next = new Set(open);
    if (!next.delete(group)) next.add(group);
    setOpen(next);
  };
  const save = () => {
    saveFile(signaturesCsv(found, network), "signatures.csv", "text/csv");
    notice({ text: "Saved the map as CSV" });
  };
  return (
    <div className="flex flex-col gap-2">
      <p className="text-sm text-faint">
        Each cell: how far the point moves, in limits; ▲ rises, ▼ falls, empty does not show. Points that tell most come
        first. {ranking && "What the readings rule out is faded. "}
        <button type="button" onClick={save} className="underline">
          Save as CSV
        </button>
      </p>
      <section
        aria-label="Map of faults and test points"
        tabIndex={0}
        className="max-h-[70vh] overflow-auto rounded-lg border border-rule bg-sheet"
      >
        <table className="border-collapse text-sm" aria-label="Signatures">
          <thead className="sticky top-0 z-10 bg-band">
            <tr>
              <th scope="col" className="sticky left-0 bg-band px-2 py-1.5 text-left">
                fault
              </th>
              {columns.map((c) => (
                <th
                  key={c.at}
                  scope="col"
                  title={`tells ${printFixed(c.tells, 1)} bits`}
                  className="min-w-12 px-1 py-1.5 text-center"
                >
                  {c.reading.quantity === "voltage" ? c.reading.from : ""}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {groups.flatMap((members, g) =>
              (open.has(g) ? members : members.slice(0, 1)).map((row, i) => (
                <Row
                  key={writeSupposed(row.fault, network)}
                  row={row}
                  columns={columns}
                  words={writeSupposed(row.fault, network)}
                  isFaded={ranking !== null && members.every((m) => isRuledOut(m, ranking))}
                  onSuppose={() => onSuppose([row.fault])}
                  more={
                    i === 0 && members.length > 1
                      ? { count: members.length - 1, isOpen: open.has(g), toggle: () => toggle(g) }
                      : null
                  }
                />
              )),
            )}
          </tbody>
        </table>
      </section>
    </div>
  );
}

interface RowProps {
  readonly row: Signature;
  readonly columns: readonly { readonly at: number }[];
  readonly words: string;
  readonly isFaded: boolean;
  readonly onSuppose: () => void;
  readonly more: { readonly count: number; readonly isOpen: boolean; readonly toggle: () => void } | null;
}

const shade = scaleSymlog<number>().domain([0, 50]).range([0.08, 0.34]).clamp(true);

function Row({ row, columns, words, isFaded, onSuppose, more }: RowProps) {
  return (
    <tr className={`border-t border-rule ${isFaded ? "text-faint grayscale" : ""}`}>
      <th scope="row" className="sticky left-0 bg-sheet px-2 py-0.5 text-left font-normal whitespace-nowrap">
        <button type="button" className="hover:underline" onClick={onSuppose}>
          {words}
        </button>
        {more && (
          <button
            type="button"
            aria-expanded={more.isOpen}
            onClick={more.toggle}
            className="ml-1.5 rounded border border-rule px-1 text-xs text-faint hover:bg-band"
          >
            {more.isOpen ? "fold" : `${more.count} alike`}
          </button>
        )}
      </th>
      {columns.map(({ at }) => {
        const limits = row.deviations[at];
        if (!(Math.abs(limits) >= 1)) return <td key={at} className="border-l border-rule" />;
        const colour = limits > 0 ? "var(--high)" : "var(--low)";
        return (
          <td
            key={at}
            className="border-l border-rule px-1 text-center whitespace-nowrap"
            style={{
              background: `color-mix(in srgb, ${colour} ${Math.round((isFaded ? 30 : 100) * shade(Math.abs(limits)))}%, var(--sheet))`,
            }}
          >
            {limits > 0 ? "▲" : "▼"}
            {limitsWords(limits).slice(1)}
          </td>
        );
      })}
    </tr>
  );
}

function groupsOf(rows: readonly Signature[]): Signature[][] {
  const groups: Signature[][] = [];
  for (const row of rows) {
    const own = groups[row.group];
    if (own) own.push(row);
    else groups[row.group] = [row];
  }
  return groups;
}

function isRuledOut({ fault }: Signature, ranking: Ranking): boolean {
  const found = suspectOf([fault], ranking);
  return found === null || found.suspect.probability < RULED_OUT;
}
