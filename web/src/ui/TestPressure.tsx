import { Typography } from "@mui/material";
import type { Schemas } from "../api/client";
import { useQuantity } from "./quantity";

/** What a part is tried at: the maker's figure, or else what is usual, roughly, in the reader's units. */
export function TestPressure({ check }: { check: Schemas["Check"] }) {
  const { shown, symbol } = useQuantity("kPa");
  const rough = (kPa: number) => Number(Number(shown(kPa)).toPrecision(2));
  const [from, to] = check.test_kpa ?? [];
  if (from === undefined || to === undefined) return null;
  return (
    <Typography sx={{ fontWeight: 650 }}>
      Test pressure: the maker&apos;s. Where none is told, {rough(from)} to {rough(to)}
      {"\u00a0"}
      {symbol} is usual.
    </Typography>
  );
}
