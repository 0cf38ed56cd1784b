import { Moon, Sun } from "lucide-react";
import { useState } from "react";
import { deviceStore } from "./stores.ts";

/** Light or dark; remembered on this device. @returns the other one, and what changes to it */
export function useTheme(): { readonly other: "light" | "dark"; readonly toggle: () => void } {
  const [theme, setTheme] = useState(() => document.documentElement.dataset.theme ?? "light");
  const other = theme === "dark" ? "light" : "dark";
  const toggle = () => {
    document.documentElement.dataset.theme = other;
    deviceStore.set("hound:theme", other);
    setTheme(other);
  };
  return { other, toggle };
}

/** A button for it. */
export function ThemeButton() {
  const { other, toggle } = useTheme();
  return (
    <button
      type="button"
      onClick={toggle}
      aria-label={`Use the ${other} look`}
      className="rounded-lg p-2 hover:bg-rule/50"
    >
      {other === "light" ? <Sun size={22} aria-hidden /> : <Moon size={22} aria-hidden />}
    </button>
  );
}
