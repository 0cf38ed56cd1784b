/** A title as the name of a file. */
export function fileName(title: string, ending: string): string {
  return `${title.replace(/[^A-Za-z0-9]+/g, "-").toLowerCase() || "job"}${ending}`;
}

/** Gives something to the browser to be saved as a file. */
export function saveFile(contents: string | Blob, name: string, type = "") {
  const link = document.createElement("a");
  link.href = URL.createObjectURL(contents instanceof Blob ? contents : new Blob([contents], { type }));
  link.download = name;
  link.click();
  setTimeout(() => URL.revokeObjectURL(link.href), 5000);
}
