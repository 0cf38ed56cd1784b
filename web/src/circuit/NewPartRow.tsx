import { Plus } from "lucide-react";
import { type KeyboardEvent, useRef } from "react";
import { useDesk } from "../desk/DeskContext.tsx";
import { useKept } from "../desk/useKept.ts";
import { addRow, EMPTY_ROW, isWhole } from "./newRow.ts";
import { COLUMN_WIDTHS, EDITABLE, type Editable } from "./partRows.ts";
import type { CircuitEdits } from "./useCircuitEdits.ts";

const HINTS: Readonly<Record<Editable, string>> = {
  designator: "R1",
  from: "A",
  to: "B",
  value: "4k7",
  tolerance: "5%",
  rating: "",
  note: "",
};

/** The empty row at the table's end: a part as soon as its name and both nodes are there and Enter is pressed. */
export function NewPartRow({ edits }: { edits: CircuitEdits }) {
  const { state } = useDesk();
  const { value: row, set, forget } = useKept(`new part ${state.job.id}`, EMPTY_ROW);
  const first = useRef<HTMLInputElement>(null);
  const add = () => {
    if (!isWhole(row)) return;
    const added = addRow(state.trail, row);
    const asks = added.asks?.length ? `. ${added.asks.join("; ")}` : "";
    if (!edits.make(added, `Added ${row.designator.trim()}${asks}`)) return;
    forget();
    first.current?.focus();
  };
  const onKeyDown = (event: KeyboardEvent) => {
    if (event.key !== "Enter" || event.nativeEvent.isComposing) return;
    event.preventDefault();
    add();
  };
  const field = (column: Editable) => (
    <input
      ref={column === "designator" ? first : undefined}
      aria-label={`New part ${column}`}
      data-typed={row[column] === "" ? "no" : "yes"}
      value={row[column]}
      placeholder={HINTS[column]}
      autoComplete="off"
      spellCheck={false}
      onChange={(e) => set({ ...row, [column]: e.target.value })}
      onKeyDown={onKeyDown}
      className={`bg-transparent px-2 py-1.5 font-mono placeholder:text-faint/70 ${COLUMN_WIDTHS[column]}`}
    />
  );
  return (
    <tr className="border-t-2 border-rule">
      <td className="p-0">
        <button
          type="button"
          disabled={!isWhole(row)}
          onClick={add}
          className="rounded bg-copper p-1.5 text-sheet disabled:opacity-40"
        >
          <Plus size={18} aria-label="Add the part" />
        </button>
      </td>
      <td className="p-0">{field("designator")}</td>
      <td className="px-2 text-faint">new</td>
      {EDITABLE.slice(1).map((column) => (
        <td key={column} className="p-0">
          {field(column)}
        </td>
      ))}
    </tr>
  );
}
