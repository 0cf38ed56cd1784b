import { useEffect, useRef } from "react";
import { useLocation } from "react-router";
import { focusHeading } from "./focus.ts";

/** The window's title; every view has its own. */
export function useTitle(...words: readonly string[]) {
  const title = [...words, "Clever Hound"].join(" · ");
  useEffect(() => {
    document.title = title;
  }, [title]);
}

let isFirst = true;

/**
 * On coming to a page the focus goes to its heading, so that what is read next is the page; not on the first load.
 * @param isLed false where the page gives the focus to something of its own
 */
export function useArrival(isLed = true) {
  const { pathname } = useLocation();
  const before = useRef<string | null>(null);
  useEffect(() => {
    if (before.current === pathname) return;
    before.current = pathname;
    if (isFirst) isFirst = false;
    else if (isLed) focusHeading();
  }, [pathname, isLed]);
}
