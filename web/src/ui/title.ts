import { useEffect } from "react";
import { useLocation } from "react-router";
import { practice } from "../api/practice";

/** Names the page: the nearest thing first, as in "Strainer · Lissamar, Main · Hevrin". */
export function useTitle(...parts: string[]) {
  const title = [...(practice ? ["PRACTICE"] : []), ...parts.filter(Boolean), "Hevrin"].join(" · ");
  useEffect(() => {
    document.title = title;
  }, [title]);
}

let before: string | undefined;

/** After a move to another screen or pane what is read out, and where the keys go on, is its heading. */
export function useFocusOnHeading() {
  const { pathname, search } = useLocation();
  const pane = new URLSearchParams(search).get("pane") ?? "";
  useEffect(() => {
    const here = `${pathname}?${pane}`;
    const moved = before !== undefined && before !== here;
    before = here;
    if (!moved) return;
    const at = setTimeout(() => {
      if (document.activeElement?.closest("[role=dialog], input, textarea")) return;
      const heading = document.querySelector<HTMLElement>("main h1, main h2");
      heading?.setAttribute("tabindex", "-1");
      heading?.focus({ preventScroll: true });
    }, 150); // the screen may still be fetched
    return () => clearTimeout(at);
  }, [pathname, pane]);
}
