import { Button, Stack, Typography } from "@mui/material";

/** A number changed by big buttons, for wet hands. */
export function Stepper(p: {
  label: string;
  value: number;
  unit: string;
  step?: number;
  most?: number;
  onChange: (v: number) => void;
}) {
  const step = p.step ?? 1;
  const set = (v: number) => p.onChange(Math.min(p.most ?? 1440, Math.max(0, v)));
  return (
    <Stack direction="row" sx={{ alignItems: "center", gap: 1 }} role="group" aria-label={p.label}>
      <Typography sx={{ mr: "auto" }}>{p.label}</Typography>
      <Button variant="outlined" sx={stepButton} onClick={() => set(p.value - step)} aria-label={`${p.label}: less`}>
        −
      </Button>
      <Typography sx={{ minWidth: 76, textAlign: "center", fontWeight: 750, fontSize: "1.15rem" }} aria-live="polite">
        {p.value}&thinsp;{p.unit}
      </Typography>
      <Button variant="outlined" sx={stepButton} onClick={() => set(p.value + step)} aria-label={`${p.label}: more`}>
        +
      </Button>
    </Stack>
  );
}

const stepButton = { minWidth: 48, fontSize: "1.4rem", px: 0, borderColor: "text.primary", color: "text.primary" };
