import { NavLink } from "react-router";
import { Shortcuts } from "./Shortcuts.tsx";
import { ThemeButton } from "./ThemeButton.tsx";

const PLACES = [
  { to: "/jobs", name: "Jobs" },
  { to: "/library", name: "Library" },
  { to: "/sums", name: "Pocket sums" },
  { to: "/workshop", name: "Workshop" },
] as const;

/** What lies around the jobs. */
export function TopBar({ title }: { title: string }) {
  return (
    <header className="flex flex-wrap items-center gap-x-5 gap-y-1 py-5">
      <img src="/mark.svg" alt="" className="size-10" />
      <h1 className="sr-only">{title}</h1>
      <nav aria-label="Places" className="flex grow gap-1">
        {PLACES.map(({ to, name }) => (
          <NavLink
            key={to}
            to={to}
            className={({ isActive }) =>
              `border-b-4 px-3 py-1 text-2xl ${isActive ? "border-copper font-bold" : "border-transparent text-faint hover:text-ink"}`
            }
          >
            {name}
          </NavLink>
        ))}
      </nav>
      <Shortcuts />
      <ThemeButton />
    </header>
  );
}
