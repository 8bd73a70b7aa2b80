import { useCallback, useState } from "react";
import { useSearchParams } from "react-router";

/**
 * The pane of a screen that is shown. It stands in the address: a reload shows it again, Back goes back one pane, a
 * link can lead to it. Where the address names none, the first that the screen chose stays.
 */
export function usePane<P extends string>(panes: readonly (readonly [P, string])[], first: P) {
  const [at, setAt] = useSearchParams();
  const [begun] = useState(first);
  const pane = panes.find(([p]) => p === at.get("pane"))?.[0] ?? begun;
  const setPane = useCallback(
    (to: P) =>
      setAt((was) => {
        const next = new URLSearchParams(was);
        next.set("pane", to);
        return next;
      }),
    [setAt],
  );
  return [pane, setPane] as const;
}
