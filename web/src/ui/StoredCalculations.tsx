import { Box, Button, Stack, Typography } from "@mui/material";
import { Link } from "react-router";
import type { Figure, Schemas } from "../api/client";
import { useCalculators } from "../api/queries";
import { useSystem } from "./unitSystem";
import { shown, shownError, unitsOf, type Units } from "./units";
import { when } from "./words";

const none: Units = unitsOf([]);

/** Main figures in the person's own units: "Raw water flow 45.8 L/min". */
export function useFigures(): (figures: Figure[]) => string {
  const units = useCalculators().data?.units;
  const system = useSystem();
  const known = units ? unitsOf(units) : none;
  return (figures) =>
    figures
      .map((f) => {
        if (f.value === undefined) return `${f.label}: ${f.words ?? ""}`;
        const spread = f.error ? ` (± ${shownError(known, system, f.error, f.unit ?? "1")})` : "";
        return `${f.label}: ${shown(known, system, f.value, f.unit ?? "1")}${spread}`;
      })
      .join("; ");
}

/** The calculators kept in a job, each to be opened again as it was given. */
export function StoredCalculations({ job, sums }: { job: string; sums: Schemas["StoredCalculation"][] }) {
  const figures = useFigures();
  return (
    <Box component="section" aria-label="Calculators">
      <Stack direction="row" sx={{ alignItems: "center", mb: 0.5 }}>
        <Typography variant="h2" sx={{ flex: 1 }}>
          Calculators
        </Typography>
        <Button component={Link} to={`/calculators?job=${job}`}>
          Work something out
        </Button>
      </Stack>
      {sums.length === 0 && (
        <Typography sx={{ color: "text.secondary" }}>
          None kept yet: heat carried, bucket flow, acid and the rest.
        </Typography>
      )}
      {[...sums].reverse().map((s) => (
        <Box
          key={s.entry_id}
          component={Link}
          to={`/calculators/${s.name}?job=${job}&entry=${s.entry_id}`}
          sx={{
            display: "block",
            py: 1,
            borderTop: 1,
            borderColor: "divider",
            color: "text.primary",
            textDecoration: "none",
          }}
        >
          <Typography sx={{ fontWeight: 700 }}>{s.asks}</Typography>
          <Typography>{figures(s.figures)}</Typography>
          <Typography variant="body2" sx={{ color: "text.secondary" }}>
            {s.words && `${s.words}. `}
            {s.by}, {when(s.at)}
          </Typography>
        </Box>
      ))}
    </Box>
  );
}
