import { Box } from "@mui/material";
import { Suspense, type ReactNode } from "react";

/** Keeps the room of a chart whose drawing is loaded only now: what stands below it does not jump. */
export function Later({ height, children }: { height: number; children: ReactNode }) {
  return <Suspense fallback={<Box aria-busy sx={{ minHeight: height }} />}>{children}</Suspense>;
}
