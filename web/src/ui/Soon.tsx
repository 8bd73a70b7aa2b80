import { useDeferredValue, type ReactNode } from "react";

/** What is drawn once that which was tapped for stands: no tap waits for it. */
export function Soon({ children }: { children: ReactNode }) {
  const now = useDeferredValue(true, false);
  return now ? children : null;
}
