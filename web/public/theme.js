// Before anything is drawn: the look that was chosen here, else the system's. The store may be forbidden.
let chosen = null;
try {
  chosen = localStorage.getItem("hound:theme");
} catch {}
const dark = chosen ? chosen === "dark" : matchMedia("(prefers-color-scheme: dark)").matches;
document.documentElement.dataset.theme = dark ? "dark" : "light";
