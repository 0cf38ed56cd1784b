import { type ClipboardEvent, type KeyboardEvent, useState } from "react";
import { useDesk } from "../desk/DeskContext.tsx";
import { useKept } from "../desk/useKept.ts";

interface TableCellProps {
  readonly label: string;
  readonly value: string;
  readonly row: number;
  readonly column: string;
  readonly placeholder?: string;
  readonly width: string;
  readonly onFocus?: () => void;
  /** @returns false where it was refused: the cell keeps what was typed */
  readonly onCommit: (text: string) => boolean;
  readonly onKeyDown: (event: KeyboardEvent<HTMLInputElement>) => void;
  readonly onPaste: (event: ClipboardEvent) => void;
}

/** One cell of the parts table: written when it is left. */
export function TableCell(props: TableCellProps) {
  const { label, value, row, column, placeholder, width, onFocus, onCommit, onKeyDown, onPaste } = props;
  const { state } = useDesk();
  const { value: text, set: setText, forget } = useKept(`cell ${label} ${state.job.id}`, value);
  const [wrong, setWrong] = useState(false);
  const commit = () => {
    const isKept = text.trim() === value || onCommit(text.trim());
    setWrong(!isKept);
    if (isKept) forget();
  };
  return (
    <input
      aria-label={label}
      aria-invalid={wrong}
      aria-describedby={wrong ? "edit-refused" : undefined}
      data-cell={`${row} ${column}`}
      data-typed={text === value ? "no" : "yes"}
      value={text}
      placeholder={placeholder}
      autoComplete="off"
      spellCheck={false}
      onFocus={onFocus}
      onChange={(e) => setText(e.target.value)}
      onBlur={commit}
      onPaste={onPaste}
      onKeyDown={(e) => {
        if (e.nativeEvent.isComposing) return;
        if (e.key === "Escape") {
          forget();
          setWrong(false);
        }
        onKeyDown(e);
      }}
      className={`bg-transparent px-2 py-1.5 font-mono placeholder:text-faint ${width} ${wrong ? "outline-2 outline-wrong" : ""}`}
    />
  );
}
