import { useEffect } from "react";
import { Outlet } from "react-router";
import { NewVersionBar } from "../app/NewVersionBar.tsx";
import { deviceStore } from "../app/stores.ts";
import { setDecimal } from "../words/print.ts";
import { useConventions } from "./conventions.ts";

/** Puts the workshop's conventions into force for all pages; a change of decimal sign draws them anew. */
export function InForce() {
  const { decimal, textSize, theme } = useConventions();
  setDecimal(decimal === "comma" ? "," : ".");
  useEffect(() => {
    document.documentElement.style.fontSize = textSize === "large" ? "118.75%" : "";
  }, [textSize]);
  useEffect(() => {
    if (deviceStore.get("hound:theme") !== null) return;
    const dark = matchMedia("(prefers-color-scheme: dark)");
    const follow = () => {
      const system = dark.matches ? "dark" : "light";
      document.documentElement.dataset.theme = theme === "system" ? system : theme;
    };
    follow();
    dark.addEventListener("change", follow);
    return () => dark.removeEventListener("change", follow);
  }, [theme]);
  return (
    <>
      <Outlet key={decimal} />
      <NewVersionBar />
    </>
  );
}
