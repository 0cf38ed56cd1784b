// Before anything is drawn: the look that was chosen here, else the system's.
const chosen = localStorage.getItem("hound:theme");
const dark = chosen ? chosen === "dark" : matchMedia("(prefers-color-scheme: dark)").matches;
document.documentElement.dataset.theme = dark ? "dark" : "light";
