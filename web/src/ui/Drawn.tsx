import { lazy, Suspense, useDeferredValue } from "react";
import type { Schemas } from "../api/client";

// beside whatever screen draws, not after it; where they cannot be had the screen stands without them
const fetched = import("../illustrations/Drawing").catch(() => ({ default: () => null }));
const Drawing = lazy<(typeof import("../illustrations/Drawing"))["default"]>(() => fetched);

// plain styles: a card has a dozen of them, and each comes with a tap
const place = { display: "block", maxWidth: "100%", aspectRatio: "4 / 3", flex: "none" } as const;

interface Props {
  of?: Schemas["Drawing"];
  /** Words for those who do not see it; none where words stand beside it. */
  label?: string;
  width: number;
  small?: boolean;
}

/**
 * A drawing in its place: the place is kept while the plates are fetched, so that nothing moves under a finger. It is
 * drawn after the words beside it stand: no tap waits for a drawing.
 */
export function Drawn({ of, label, width, small }: Props) {
  const drawn = useDeferredValue(of, undefined);
  if (!of?.plate) return null;
  return (
    <span style={{ ...place, width }}>
      <Suspense fallback={null}>{drawn && <Drawing of={drawn} label={label} small={small} width="100%" />}</Suspense>
    </span>
  );
}
