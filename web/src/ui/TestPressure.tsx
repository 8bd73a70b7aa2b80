import { Typography } from "@mui/material";
import type { Schemas } from "../api/client";
import { useSaid } from "./quantity";

/** What a part is tried at: the maker's figure, or else what is usual, in the reader's units. */
export function TestPressure({ check }: { check: Schemas["Check"] }) {
  const said = useSaid();
  const [from, to] = check.test_kpa ?? [];
  if (from === undefined || to === undefined) return null;
  return (
    <Typography sx={{ fontWeight: 650 }}>
      Test pressure: the maker&apos;s. Where none is told, {said(from, "kPa")} to {said(to, "kPa")} is usual.
    </Typography>
  );
}
