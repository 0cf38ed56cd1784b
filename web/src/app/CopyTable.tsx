import { Copy } from "lucide-react";
import { commaSeparated, type TableData, tabbed } from "../words/tables.ts";
import { useNotice } from "./Notice.tsx";

interface CopyTableProps {
  readonly tables: () => readonly TableData[];
  readonly stamp: () => string;
  /** Where there is a format of its own for programs. */
  readonly csv?: () => string;
}

/** Takes tables to the clipboard: rounded for a spreadsheet, or as CSV with every digit. */
export function CopyTable({ tables, stamp, csv }: CopyTableProps) {
  const notice = useNotice();
  const put = async (text: string, words: string) => {
    try {
      await navigator.clipboard.writeText(text);
      notice({ text: `In the clipboard, ${words}` });
    } catch {
      notice({ text: "The browser does not let this page use the clipboard" });
    }
  };
  return (
    <span className="flex flex-wrap gap-2 print:hidden">
      <button
        type="button"
        onClick={() => put(tabbed(tables(), stamp()), "rounded, for a spreadsheet")}
        className="flex items-center gap-1.5 rounded-lg border border-rule px-3 py-1.5 hover:bg-band"
      >
        <Copy size={16} aria-hidden /> Copy for a spreadsheet
      </button>
      <button
        type="button"
        onClick={() => put(csv?.() ?? commaSeparated(tables(), stamp()), "as CSV with every digit")}
        className="flex items-center gap-1.5 rounded-lg border border-rule px-3 py-1.5 hover:bg-band"
      >
        <Copy size={16} aria-hidden /> Copy as CSV
      </button>
    </span>
  );
}
