import { designatorOf } from "@hound/core/circuit";
import { removePart } from "@hound/core/notation";
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
import { ArrowDown, ArrowUp, Trash2 } from "lucide-react";
import Papa from "papaparse";
import { type ClipboardEvent, type KeyboardEvent, useMemo, useRef, useState } from "react";
import { useDesk, useSelection } from "../desk/DeskContext.tsx";
import { nameOnBoard } from "./circuitEdits.ts";
import { NewPartRow } from "./NewPartRow.tsx";
import { COLUMN_WIDTHS, EDITABLE, type Editable, type PartRow, partRows, pastedCells, setCells } from "./partRows.ts";
import { TableCell } from "./TableCell.tsx";
import { saveTemplate } from "./template.ts";
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
const columnOrder = ["designator", "kind", "from", "to", "value", "tolerance", "rating", "note"] as const;

/** The parts as a table: each cell writes its word of the trail, the last row adds a part. */
export function PartsTable({ edits }: { edits: CircuitEdits }) {
  const { state, select, sendTable } = useDesk();
  const { selection } = useSelection();
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
  if (!trail.circuit && trail.text.trim() !== "")
    return <p className="p-4 text-faint">The table comes back when the mistakes in the trail are mended.</p>;
  const rows = table.getRowModel().rows.map((r) => r.original);
  const fieldAt = (row: number, column: string) =>
    body.current?.querySelector<HTMLInputElement>(`input[data-cell="${row} ${column}"]`);
  const fill = (row: number, column: Editable, toEnd: boolean) => {
    const source = toEnd ? rows[row] : rows[row - 1];
    const targets = toEnd ? rows.slice(row + 1) : [rows[row]];
    if (!source || targets.length === 0 || column === "designator") return;
    const changes = targets.map(({ designator }) => ({ designator, column, text: source[column] }));
    edits.make(setCells(trail, changes), `Filled ${changes.length} ${changes.length === 1 ? "cell" : "cells"}`);
  };
  const onKeyDown = (event: KeyboardEvent<HTMLInputElement>, row: number, column: Editable) => {
    const step = { ArrowDown: 1, ArrowUp: -1, Enter: 1 }[event.key];
    if (step !== undefined && !event.altKey) {
      event.preventDefault();
      event.currentTarget.blur();
      fieldAt(row + step, column)?.focus();
    } else if (event.key.toLowerCase() === "d" && (event.ctrlKey || event.metaKey) && !event.altKey) {
      event.preventDefault();
      fill(row, column, event.shiftKey);
    }
  };
  const onPaste = (event: ClipboardEvent, row: number, column: Editable) => {
    const text = event.clipboardData.getData("text/plain").replace(/\r?\n$/, "");
    if (!/[\t\n]/.test(text)) return;
    event.preventDefault();
    event.stopPropagation();
    const block = Papa.parse<string[]>(text, { delimiter: text.includes("\t") ? "\t" : "" }).data;
    // Whole parts are a table of their own, looked at first; anything else goes into the cells.
    if (column === "designator" && block[0].length > 1) return sendTable(text);
    const changes = pastedCells(block, rows, row, column);
    edits.make(setCells(trail, changes), `Pasted ${changes.length} cells`);
  };
  const remove = (designator: string) => {
    const isLast = rows.length === 1 && data.length === 1;
    const emptied = { kind: "edited" as const, text: "", nodes: new Map(), parts: new Map() };
    edits.make(isLast ? emptied : removePart(trail, designator, "open"), `Removed ${designator}`);
  };
  return (
    <div
      className="flex h-full min-h-64 flex-col gap-2"
      onPaste={(event) => {
        const text = event.clipboardData.getData("text/plain");
        if (!/[\t\n]/.test(text.trim())) return;
        event.preventDefault();
        sendTable(text);
      }}
    >
      <input
        type="search"
        aria-label="Filter parts"
        placeholder="Filter: part, kind, node, value …"
        value={search}
        onChange={(e) => setSearch(e.target.value)}
        className="rounded-lg border border-field bg-sheet px-3 py-2"
      />
      <section
        aria-label="Parts table"
        tabIndex={0}
        className="min-h-0 overflow-auto rounded-lg border border-rule bg-sheet"
      >
        <table className="w-full border-collapse text-sm" aria-label="Parts">
          <thead className="sticky top-0 z-10 bg-band">
            <tr>
              <th scope="col">
                <span className="sr-only">Add or remove</span>
              </th>
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
                      title="Sort"
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
                className={`border-t border-rule ${selection && designatorOf(selection.name) === row.designator ? "bg-copper-wash" : ""}`}
              >
                <td className="p-0">
                  <button
                    type="button"
                    aria-label={`Remove ${row.designator}`}
                    title={`Remove ${row.designator}`}
                    onClick={() => remove(row.designator)}
                    className="rounded p-1.5 text-faint hover:text-wrong"
                  >
                    <Trash2 size={18} aria-hidden />
                  </button>
                </td>
                {columnOrder.map((column) =>
                  isEditable(column) ? (
                    <td key={column} className="p-0">
                      <TableCell
                        label={`${row.designator} ${column}`}
                        value={row[column]}
                        row={r}
                        column={column}
                        width={COLUMN_WIDTHS[column]}
                        onFocus={() => select({ kind: "branch", name: nameOnBoard(trail.places, row.designator) })}
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
            {search === "" && <NewPartRow edits={edits} />}
          </tbody>
        </table>
        {rows.length === 0 && search !== "" && <p className="p-4 text-faint">No part matches.</p>}
      </section>
      {edits.refusal && selection === null && (
        <p id="edit-refused" role="alert" className="font-bold text-wrong">
          Not done: {edits.refusal}
        </p>
      )}
      <p className="text-sm text-faint">
        Paste a whole table or list: columns Part, From, To, Value, Tol, Rating, Note in any order, headed in ordinary
        words, or without a head. A potentiometer’s value is written 10k at=40% wiper=[W], a bridge rectifier’s plus=[P]
        minus=[M].{" "}
        <button type="button" className="underline" onClick={saveTemplate}>
          Template to fill in
        </button>
        . Ctrl+D copies the cell above, Ctrl+Shift+D fills all below.
      </p>
    </div>
  );
}

function isEditable(column: (typeof columnOrder)[number]): column is Editable {
  return (EDITABLE as readonly string[]).includes(column);
}
