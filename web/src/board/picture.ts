import fontAddress from "@fontsource-variable/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-wght-normal.woff2?url";
import greekAddress from "@fontsource-variable/noto-sans/files/noto-sans-greek-wght-normal.woff2?url";

/** What decides how a drawing looks; copied into the picture, so that it needs no style sheet. */
const LOOKS = [
  "fill",
  "stroke",
  "stroke-width",
  "stroke-dasharray",
  "stroke-linecap",
  "stroke-opacity",
  "paint-order",
  "font-size",
  "font-weight",
  "text-anchor",
  "opacity",
];
const MARGIN = 24;
const HEAD = 48;
const FOOT = 34;
/** Milliseconds that the fonts inside a picture are given to load. */
const FONT_PAUSE = 400;
const FAMILY = "'Bench', 'BenchGreek', sans-serif";

/**
 * The board as a picture of its own: light, with title and legend, its fonts inside. A PNG is drawn at twice the size.
 */
export async function pictureOf(
  svg: SVGSVGElement,
  title: string,
  stamp: string,
  format: "svg" | "png",
): Promise<Blob> {
  const { width, height } = svg.viewBox.baseVal;
  const total = { width: Math.max(width, 520) + 2 * MARGIN, height: height + HEAD + 2 * FOOT + 2 * MARGIN };
  const [latin, greek] = await fontsInside();
  const body = lightCopy(svg);
  const text = (x: number, y: number, size: number, weight: number, words: string) =>
    `<text x="${x}" y="${y}" font-size="${size}" font-weight="${weight}" fill="#1c2839">${escaped(words)}</text>`;
  const legend = `Bars are nodes, plus at the left. Grey: expected when healthy, limits two standard deviations. ${svg.dataset.legend || "Copper: read."}`;
  const markup = [
    `<svg xmlns="http://www.w3.org/2000/svg" width="${total.width}" height="${total.height}" viewBox="0 0 ${total.width} ${total.height}" font-family="${FAMILY}">`,
    `<style>@font-face{font-family:Bench;font-weight:200 800;src:url(${latin})}@font-face{font-family:BenchGreek;font-weight:100 900;src:url(${greek})}</style>`,
    `<rect width="100%" height="100%" fill="#fffef9"/>`,
    text(MARGIN, MARGIN + 26, 24, 700, title),
    `<g transform="translate(${MARGIN} ${MARGIN + HEAD})">${body}</g>`,
    text(MARGIN, total.height - MARGIN - 18, 13, 400, legend),
    text(MARGIN, total.height - MARGIN, 13, 400, stamp),
    "</svg>",
  ].join("\n");
  const picture = new Blob([markup], { type: "image/svg+xml" });
  return format === "svg" ? picture : rasterised(picture, total);
}

/** The drawing's markup with every look written out, as the light theme has it. */
function lightCopy(svg: SVGSVGElement): string {
  const root = document.documentElement;
  const theme = root.dataset.theme;
  root.dataset.theme = "light";
  try {
    const copy = svg.cloneNode(true) as SVGSVGElement;
    const originals = [...svg.querySelectorAll("*")];
    [...copy.querySelectorAll("*")].forEach((element, i) => {
      const style = getComputedStyle(originals[i]);
      for (const look of LOOKS) element.setAttribute(look, style.getPropertyValue(look));
      for (const name of ["class", "id", "role", "aria-label", "aria-selected", "style"]) element.removeAttribute(name);
    });
    const serializer = new XMLSerializer();
    return [...copy.children].map((child) => serializer.serializeToString(child)).join("");
  } finally {
    if (theme) root.dataset.theme = theme;
    else delete root.dataset.theme;
  }
}

/** The font of all text, and of the letters that it lacks, as data addresses. */
export const fontsInside = () => Promise.all([fontAddress, greekAddress].map(dataAddress));

export async function dataAddress(address: string): Promise<string> {
  return dataOf(await (await fetch(address)).blob());
}

/** A file as a data address. */
export function dataOf(blob: Blob): Promise<string> {
  return new Promise((done, fail) => {
    const reader = new FileReader();
    reader.onload = () => done(String(reader.result));
    reader.onerror = () => fail(new Error("a file could not be read"));
    reader.readAsDataURL(blob);
  });
}

async function rasterised(picture: Blob, { width, height }: { width: number; height: number }): Promise<Blob> {
  const image = new Image();
  image.src = await dataOf(picture);
  await image.decode();
  const canvas = document.createElement("canvas");
  canvas.width = width * 2;
  canvas.height = height * 2;
  const context = canvas.getContext("2d");
  if (!context) throw new Error("there is no canvas here");
  // The first drawing makes the picture load its fonts; texts whose font is still on its way are left blank in it.
  for (const wait of [FONT_PAUSE, 0]) {
    context.clearRect(0, 0, canvas.width, canvas.height);
    context.drawImage(image, 0, 0, canvas.width, canvas.height);
    await new Promise((done) => setTimeout(done, wait));
  }
  return new Promise((done, fail) => {
    canvas.toBlob((blob) => (blob ? done(blob) : fail(new Error("the picture is too large"))), "image/png");
  });
}

function escaped(text: string): string {
  return text.replaceAll("&", "&amp;").replaceAll("<", "&lt;").replaceAll(">", "&gt;");
}
