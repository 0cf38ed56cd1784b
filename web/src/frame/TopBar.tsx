import { NavLink } from "react-router";
import { Shortcuts } from "../app/Shortcuts.tsx";
import { ThemeButton } from "../app/ThemeButton.tsx";
import { useArrival, useTitle } from "../app/useTitle.ts";
import { Unsaved } from "./Unsaved.tsx";

const PLACES = [
  { to: "/jobs", name: "Jobs" },
  { to: "/library", name: "Library" },
  { to: "/practice", name: "Practice" },
  { to: "/sums", name: "Pocket sums" },
  { to: "/workshop", name: "Workshop" },
  { to: "/help", name: "Help" },
] as const;

/** What lies around the jobs. */
export function TopBar({ title }: { title: string }) {
  useTitle(title);
  useArrival();
  return (
    <>
      <header className="flex items-center gap-x-2 py-5 sm:gap-x-5">
        <img src="/mark.svg" alt="" className="size-9 shrink-0 sm:size-10" />
        <h1 className="sr-only" tabIndex={-1} data-heading>
          {title}
        </h1>
        <nav aria-label="Places" className="flex min-w-0 grow flex-wrap sm:gap-1">
          {PLACES.map(({ to, name }) => (
            <NavLink
              key={to}
              to={to}
              className={({ isActive }) =>
                `border-b-4 px-1.5 py-1 text-lg sm:px-3 sm:text-2xl ${isActive ? "border-copper font-bold" : "border-transparent text-faint hover:text-ink"}`
              }
            >
              {name}
            </NavLink>
          ))}
        </nav>
        <Shortcuts />
        <ThemeButton />
      </header>
      <Unsaved />
    </>
  );
}
