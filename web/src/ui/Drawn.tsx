import { Box } from "@mui/material";
import { lazy, Suspense } from "react";
import type { Schemas } from "../api/client";

// beside whatever screen draws, not after it; where they cannot be had the screen stands without them
const fetched = import("../illustrations/Drawing").catch(() => ({ default: () => null }));
const Drawing = lazy<(typeof import("../illustrations/Drawing"))["default"]>(() => fetched);

interface Props {
  of?: Schemas["Drawing"];
  /** Words for those who do not see it; none where words stand beside it. */
  label?: string;
  width: number;
  small?: boolean;
}

/** A drawing in its place: the place is kept while the plates are fetched, so that nothing moves under a finger. */
export function Drawn({ of, label, width, small }: Props) {
  if (!of?.plate) return null;
  return (
    <Box component="span" sx={{ display: "block", width, maxWidth: "100%", aspectRatio: "4 / 3", flex: "none" }}>
      <Suspense fallback={null}>
        <Drawing of={of} label={label} small={small} width="100%" />
      </Suspense>
    </Box>
  );
}
