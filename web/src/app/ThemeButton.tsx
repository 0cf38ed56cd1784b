import { Moon, Sun } from "lucide-react";
import { useState } from "react";

/** Light or dark; remembered on this device. */
export function ThemeButton() {
  const [theme, setTheme] = useState(() => document.documentElement.dataset.theme ?? "light");
  const other = theme === "dark" ? "light" : "dark";
  const toggle = () => {
    document.documentElement.dataset.theme = other;
    localStorage.setItem("hound:theme", other);
    setTheme(other);
  };
  return (
    <button
      type="button"
      onClick={toggle}
      aria-label={`Use the ${other} look`}
      className="rounded-lg p-2 hover:bg-rule/50"
    >
      {theme === "dark" ? <Sun size={22} aria-hidden /> : <Moon size={22} aria-hidden />}
    </button>
  );
}
