import { type ReactNode, useState } from "react";

interface FoldProps {
  readonly summary: ReactNode;
  readonly summaryClass?: string;
  readonly isOpenAtFirst?: boolean;
  readonly onToggle?: (isOpen: boolean) => void;
  /** Made only while it is open: it may be dear. */
  readonly children: () => ReactNode;
}

/** Something folded away, worked out only once it is looked at. */
export function Fold({ summary, summaryClass, isOpenAtFirst = false, onToggle, children }: FoldProps) {
  const [isOpen, setOpen] = useState(isOpenAtFirst);
  return (
    <details
      open={isOpen}
      onToggle={(e) => {
        // A fold within tells this one too.
        if (e.target !== e.currentTarget || e.currentTarget.open === isOpen) return;
        setOpen(e.currentTarget.open);
        onToggle?.(e.currentTarget.open);
      }}
    >
      <summary className={summaryClass}>{summary}</summary>
      {isOpen && children()}
    </details>
  );
}
