import { Box, Button, Stack, Typography } from "@mui/material";
import { useState } from "react";
import type { Schemas } from "../../api/client";
import { Stepper } from "../../ui/Stepper";
import { day, minutes } from "../../ui/words";

interface Props {
  figures: Schemas["YardFigures"];
  may: boolean;
  onWrite: (entry: Omit<Schemas["MethodEntry"], "by">, label: string) => void;
}

/** The longest that a comeback may cost, min. */
const longest = 600;

/** What it costs the yard when a fault that was left shows only in the proof: it decides what is looked at first. */
export function Comeback({ figures, may, onWrite }: Props) {
  // what was seen when it was first touched: others may choose meanwhile
  const [draft, setDraft] = useState<{ cost: number; seen?: string }>();
  const chosen = figures.chosen.find((c) => c.what === "comeback");
  const cost = draft?.cost ?? figures.comeback_minutes;
  const save = (comeback_minutes: number, shown = comeback_minutes) => {
    const seen = draft?.seen ?? figures.seen;
    onWrite({ kind: "figures", figures: { what: "comeback", comeback_minutes }, seen }, "What a comeback costs");
    setDraft({ cost: shown });
  };
  return (
    <Box component="section" aria-label="What a comeback costs">
      <Typography variant="h2">What a comeback costs</Typography>
      <Typography sx={{ color: "text.secondary", mb: 1 }}>
        A fault that was left, and shows only in the proof, costs another strip-down. Once something is found, a look
        that spares more than it takes is advised before you close up: the dearer a comeback, the more looks. As
        shipped: {minutes(figures.comeback_shipped)} beside opening up again.
      </Typography>
      <Stepper
        label="Cooling, draining, the proof again"
        value={cost}
        unit="min"
        step={15}
        most={longest}
        onChange={(to) => setDraft((was) => ({ cost: to, seen: was?.seen ?? figures.seen }))}
      />
      {chosen && (
        <Typography sx={{ fontWeight: 650 }}>
          The yard goes by {minutes(figures.comeback_minutes)}: {chosen.by} chose so on {day(chosen.at)}.
        </Typography>
      )}
      <Stack direction="row" sx={{ gap: 1, mt: 0.5, flexWrap: "wrap" }}>
        {cost !== figures.comeback_minutes && cost > 0 && (
          <Button variant="outlined" disabled={!may} onClick={() => save(cost)}>
            Go by {minutes(cost)}
          </Button>
        )}
        {chosen && (
          <Button disabled={!may} onClick={() => save(0, figures.comeback_shipped)}>
            As shipped
          </Button>
        )}
      </Stack>
    </Box>
  );
}
