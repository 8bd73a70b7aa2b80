import { MenuItem, TextField } from "@mui/material";

/** A way in which a list can stand: what it is called, and which of two comes first. */
export type Way<T> = readonly [string, (a: T, b: T) => number];

/** The choice of an order, by its number. */
export function Order<T>(p: { ways: readonly Way<T>[]; chosen: number; onChoose: (n: number) => void }) {
  return (
    <TextField
      select
      size="small"
      label="Order"
      value={p.chosen}
      onChange={(e) => p.onChoose(Number(e.target.value))}
      sx={{ minWidth: 160 }}
    >
      {p.ways.map(([label], i) => (
        <MenuItem key={label} value={i}>
          {label}
        </MenuItem>
      ))}
    </TextField>
  );
}
