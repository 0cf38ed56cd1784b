import type { ReactNode } from "react";

/** What is wider or higher than its room: scrolled with keys too. */
export function Scroll({
  label,
  className = "",
  children,
}: {
  label: string;
  className?: string;
  children: ReactNode;
}) {
  return (
    <section
      aria-label={label}
      tabIndex={0}
      className={`overflow-auto rounded-lg border border-rule bg-sheet ${className}`}
    >
      {children}
    </section>
  );
}
