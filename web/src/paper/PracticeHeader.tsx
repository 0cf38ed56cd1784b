import type { ReactNode } from "react";
import { Link } from "react-router";

/** What stands above a hunt or an exercise: the way back, what it is, and what can be done there. */
export function PracticeHeader({ title, children }: { title: string; children?: ReactNode }) {
  return (
    <header className="flex flex-wrap items-center gap-x-4 gap-y-1 bg-band px-3 py-2">
      <Link to="/practice" className="underline underline-offset-4">
        Practice
      </Link>
      <h1 dir="auto" tabIndex={-1} data-heading className="min-w-0 grow truncate text-xl font-bold">
        {title}
      </h1>
      {children}
    </header>
  );
}
