import {
  columnFilteringFeature,
  createColumnHelper,
  createFilteredRowModel,
  createSortedRowModel,
  filterFn_includesString,
  globalFilteringFeature,
  rowSortingFeature,
  sortFn_alphanumeric,
  tableFeatures,
  useTable,
} from "@tanstack/react-table";
import { ArrowDown, ArrowUp } from "lucide-react";
import Papa from "papaparse";
import { type ClipboardEvent, type KeyboardEvent, useMemo, useRef, useState } from "react";
import { useDesk } from "../DeskContext.tsx";
import { EDITABLE, type Editable, type PartRow, partRows, pastedCells, setCells } from "./partRows.ts";
import type { CircuitEdits } from "./useCircuitEdits.ts";

const features = tableFeatures({
  rowSortingFeature,
  columnFilteringFeature,
  globalFilteringFeature,
  sortedRowModel: createSortedRowModel(),
  filteredRowModel: createFilteredRowModel(),
  sortFns: { alphanumeric: sortFn_alphanumeric },
  filterFns: { includesString: filterFn_includesString },
});
const helper = createColumnHelper<typeof features, PartRow>();
const columns = helper.columns([
  helper.accessor("designator", { header: "Part", sortFn: "alphanumeric" }),
  helper.accessor("kind", { header: "Kind", sortFn: "alphanumeric" }),
  helper.accessor("from", { header: "From", sortFn: "alphanumeric" }),
  helper.accessor("to", { header: "To", sortFn: "alphanumeric" }),
  helper.accessor("value", { header: "Value", sortFn: (a, b) => a.original.size - b.original.size }),
  helper.accessor("tolerance", { header: "Tol.", sortFn: "alphanumeric" }),
  helper.accessor("rating", { header: "Rating", sortFn: "alphanumeric" }),
  helper.accessor("note", { header: "Note", sortFn: "alphanumeric" }),
]);

/** The parts as a table: each cell writes its word of the trail. */
export function PartsTable({ edits }: { edits: CircuitEdits }) {
  const { state, select, selection } = useDesk();
  const { trail } = state;
  const data = useMemo(() => partRows(trail), [trail]);
  const [search, setSearch] = useState("");
  const body = useRef<HTMLTableSectionElement>(null);
  const table = useTable({
    features,
    columns,
    data,
    globalFilterFn: "includesString",
    state: { globalFilter: search },
    onGlobalFilterChange: setSearch,
    getRowId: (row) => row.designator,
  });
  if (!trail.circuit)
    return <p className="p-4 text-faint">The table comes back when the mistakes in the trail are mended.</p>;
  const rows = table.getRowModel().rows.map((r) => r.original);
  const fieldAt = (row: number, column: Editable) =>
    body.current?.querySelector<HTMLInputElement>(`input[data-row="${row}"][data-column="${column}"]`);
  const fill = (row: number, column: Editable, toEnd: boolean) => {
    const source = toEnd ? rows[row] : rows[row - 1];
    const targets = toEnd ? rows.slice(row + 1) : [rows[row]];
    if (!source || targets.length === 0 || column === "designator") return;
    const changes = targets.map(({ designator }) => ({ designator, column, text: source[column] }));
    edits.make(setCells(trail, changes), `Filled ${changes.length} ${changes.length === 1 ? "cell" : "cells"}`);
  };
  const onKeyDown = (event: KeyboardEvent<HTMLInputElement>, row: number, column: Editable) => {
    const step = { ArrowDown: 1, ArrowUp: -1, Enter: 1 }[event.key];
    if (step !== undefined) {
      event.preventDefault();
      event.currentTarget.blur();
      fieldAt(row + step, column)?.focus();
    } else if (event.key.toLowerCase() === "d" && (event.ctrlKey || event.metaKey)) {
      event.preventDefault();
      fill(row, column, event.shiftKey);
    }
  };
  const onPaste = (event: ClipboardEvent, row: number, column: Editable) => {
    const text = event.clipboardData.getData("text/plain").replace(/\r?\n$/, "");
    if (!/[\t\n]/.test(text)) return;
    event.preventDefault();
    const block = Papa.parse<string[]>(text, { delimiter: text.includes("\t") ? "\t" : "" }).data;
    const changes = pastedCells(block, rows, row, column);
    edits.make(setCells(trail, changes), `Pasted ${changes.length} cells`);
  };
  return (
    <div className="flex h-full min-h-64 flex-col gap-2">
      <input
        type="search"
        aria-label="Filter parts"
        placeholder="Filter: part, kind, node, value …"
        value={search}
        onChange={(e) => setSearch(e.target.value)}
        className="rounded-lg border border-rule bg-sheet px-3 py-2"
      />
      <div className="min-h-0 overflow-auto rounded-lg border border-rule bg-sheet">
        <table className="w-full border-collapse text-sm" aria-label="Parts">
          <thead className="sticky top-0 z-10 bg-band">
            <tr>
              {table.getHeaderGroups()[0].headers.map((header) => {
                const sorted = header.column.getIsSorted();
                return (
                  <th
                    key={header.id}
                    scope="col"
                    aria-sort={sorted === "asc" ? "ascending" : sorted === "desc" ? "descending" : "none"}
                    className="text-left"
                  >
                    <button
                      type="button"
                      onClick={header.column.getToggleSortingHandler()}
                      className="flex w-full items-center gap-1 px-2 py-1.5 font-bold hover:bg-rule/50"
                    >
                      <table.FlexRender header={header} />
                      {sorted === "asc" && <ArrowUp size={14} aria-hidden />}
                      {sorted === "desc" && <ArrowDown size={14} aria-hidden />}
                    </button>
                  </th>
                );
              })}
            </tr>
          </thead>
          <tbody ref={body}>
            {rows.map((row, r) => (
              <tr
                key={row.designator}
                className={`border-t border-rule ${selection?.name.split(".")[0] === row.designator ? "bg-copper-wash" : ""}`}
              >
                {columnOrder.map((column) =>
                  isEditable(column) ? (
                    <td key={column} className="p-0">
                      <Cell
                        label={`${row.designator} ${column}`}
                        value={row[column]}
                        row={r}
                        column={column}
                        onFocus={() => select({ kind: "branch", name: nameOnBoard(row) })}
                        onCommit={(text) =>
                          edits.make(
                            setCells(trail, [{ designator: row.designator, column, text }]),
                            `${row.designator} ${column}: ${text || "none"}`,
                          )
                        }
                        onKeyDown={(e) => onKeyDown(e, r, column)}
                        onPaste={(e) => onPaste(e, r, column)}
                      />
                    </td>
                  ) : (
                    <td key={column} className="px-2 py-1 text-faint">
                      {row[column]}
                    </td>
                  ),
                )}
              </tr>
            ))}
          </tbody>
        </table>
        {rows.length === 0 && <p className="p-4 text-faint">No part matches.</p>}
      </div>
      <p className="text-sm text-faint">
        Paste a block from a spreadsheet into any cell. Ctrl+D copies the cell above, Ctrl+Shift+D fills all below.
      </p>
    </div>
  );
}

const columnOrder = ["designator", "kind", "from", "to", "value", "tolerance", "rating", "note"] as const;

function isEditable(column: (typeof columnOrder)[number]): column is Editable {
  return (EDITABLE as readonly string[]).includes(column);
}

function nameOnBoard({ designator, kind }: PartRow): string {
  return kind === "potentiometer" ? `${designator}.top` : designator;
}

interface CellProps {
  readonly label: string;
  readonly value: string;
  readonly row: number;
  readonly column: Editable;
  readonly onFocus: () => void;
  /** @returns false where it was refused: the cell keeps what was typed */
  readonly onCommit: (text: string) => boolean;
  readonly onKeyDown: (event: KeyboardEvent<HTMLInputElement>) => void;
  readonly onPaste: (event: ClipboardEvent) => void;
}

const WIDTHS: Readonly<Record<Editable, string>> = {
  designator: "w-14 font-bold",
  value: "w-20",
  tolerance: "w-12",
  rating: "w-24",
  note: "w-32",
};

function Cell({ label, value, row, column, onFocus, onCommit, onKeyDown, onPaste }: CellProps) {
  const [text, setText] = useState<string | null>(null);
  const [wrong, setWrong] = useState(false);
  const commit = () => {
    if (text === null) return;
    const isKept = text.trim() === value || onCommit(text.trim());
    setWrong(!isKept);
    if (isKept) setText(null);
  };
  return (
    <input
      aria-label={label}
      aria-invalid={wrong}
      data-row={row}
      data-column={column}
      value={text ?? value}
      onFocus={onFocus}
      onChange={(e) => setText(e.target.value)}
      onBlur={commit}
      onPaste={onPaste}
      onKeyDown={(e) => {
        if (e.key === "Escape") {
          setText(null);
          setWrong(false);
        }
        onKeyDown(e);
      }}
      className={`bg-transparent px-2 py-1.5 font-mono ${WIDTHS[column]} ${wrong ? "outline-2 outline-wrong" : ""}`}
    />
  );
}
