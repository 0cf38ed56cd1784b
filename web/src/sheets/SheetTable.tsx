import type { ReactNode } from "react";

interface SheetTableProps {
  readonly label: string;
  readonly columns: readonly string[];
  /** Cells of each row; null leaves a box to be filled in by hand. */
  readonly rows: readonly { readonly key: string; readonly cells: readonly (ReactNode | null)[] }[];
}

/** A table on paper: its head stands on every page, no row is cut, boxes are there to be written into. */
export function SheetTable({ label, columns, rows }: SheetTableProps) {
  return (
    <section aria-label={`Table: ${label}`} tabIndex={0} className="overflow-x-auto print:overflow-visible">
      <table aria-label={label} className="w-full border-collapse text-[10.5pt]">
        <thead className="table-header-group">
          <tr className="border-b-2 border-ink text-left">
            {columns.map((name) => (
              <th key={name} scope="col" className="px-2 py-1 first:pl-0">
                {name}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map(({ key, cells }) => (
            <tr key={key} className="break-inside-avoid border-b border-rule align-top">
              {cells.map((cell, i) => (
                <td key={columns[i]} dir="auto" className="px-2 py-1 whitespace-pre-line first:pl-0 first:font-bold">
                  {cell === null ? <span className="block h-5 w-24 border border-ink" aria-hidden /> : cell}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
