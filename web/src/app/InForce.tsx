import { useEffect } from "react";
import { Outlet } from "react-router";
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
    if (localStorage.getItem("hound:theme") === null) document.documentElement.dataset.theme = theme;
  }, [theme]);
  return <Outlet key={decimal} />;
}
