import { isTypedInto } from "./typing.ts";

/** Where the focus was: the element, the row of a list or table it stood in, and the rows' parent, outermost last. */
interface Place {
  readonly element: HTMLElement;
  readonly label: string;
  readonly rows: readonly { readonly parent: Element; readonly index: number }[];
}

const ROW = "li, tr, [data-row]";
const FOCUSABLE =
  'a[href], button:not(:disabled), input:not(:disabled), select:not(:disabled), textarea:not(:disabled), [tabindex="0"], summary';
/** What floats over the page goes away again: the focus belongs back to where it was before. */
const FLOATING = '[role="dialog"], [role="menu"], [role="listbox"][data-radix-select-viewport]';
const FLOATS = '[role="dialog"][data-state="open"], [role="menu"][data-state="open"]';

let last: Place | null = null;
let beneath: HTMLElement | null = null;

/**
 * Keeps the focus in the page: when what had it goes away, it moves to the neighbour in its list, else to the opener, else
 * to the page's heading; never to nowhere.
 */
export function keepFocus() {
  document.addEventListener("focusin", ({ target }) => {
    if (!(target instanceof HTMLElement)) return;
    last = placeOf(target);
    if (!target.closest(FLOATING)) beneath = target;
  });
  new MutationObserver(() => {
    if (!last || last.element.isConnected || (document.activeElement !== document.body && document.activeElement))
      return;
    const lost = last;
    last = null;
    // Whoever took it away may give the focus to something else himself.
    requestAnimationFrame(() => {
      if ((document.activeElement === document.body || document.activeElement === null) && !isFloating()) restore(lost);
    });
  }).observe(document.body, { childList: true, subtree: true });
}

/** The element that had the focus before anything floated over the page; null where it is gone. */
export function openerNow(): HTMLElement | null {
  return beneath?.isConnected ? beneath : null;
}

/** Whether something floats over the page: it takes the focus, and goes where that is given to what lies beneath. */
const isFloating = () => document.querySelector(FLOATS) !== null;

/**
 * Of what floats over the page and goes: it gives the focus back a moment later. Who is in a field by then stays there, and
 * what was opened meanwhile stays open.
 * @param event that the focus would be given back by
 */
export function leaveHand(event: Event) {
  if (isTypedInto() || isFloating()) event.preventDefault();
}

/** Gives the focus to the heading of the page or stage. */
export function focusHeading() {
  document.querySelector<HTMLElement>("[data-heading]")?.focus();
}

function placeOf(element: HTMLElement): Place {
  const rows: { parent: Element; index: number }[] = [];
  for (let row = element.closest(ROW); row?.parentElement; row = row.parentElement.closest(ROW))
    rows.push({ parent: row.parentElement, index: [...row.parentElement.children].indexOf(row) });
  const label = (element.getAttribute("aria-label") ?? element.textContent ?? "").split(" ")[0];
  return { element, label, rows };
}

function restore({ label, rows }: Place) {
  for (const { parent, index } of rows) {
    if (!parent.isConnected) continue;
    const row = parent.children[Math.min(index, parent.children.length - 1)];
    const offered = [...(row?.querySelectorAll<HTMLElement>(FOCUSABLE) ?? [])].filter((e) => e.offsetParent !== null);
    const same = offered.find((e) => (e.getAttribute("aria-label") ?? e.textContent ?? "").split(" ")[0] === label);
    const next = same ?? offered[0];
    if (next) return next.focus();
  }
  const opener = openerNow();
  if (opener) opener.focus();
  else focusHeading();
}
