import { Button, Stack } from "@mui/material";
import { useState } from "react";
import { chooseSystem, chosenSystem, systemByLocale, systems } from "./unitSystem";

/** The units in which this device speaks, chosen at a touch. */
export function UnitChoice() {
  const [units, setUnits] = useState(chosenSystem() ?? systemByLocale());
  return (
    <Stack role="group" aria-label="Units" sx={{ gap: 0.75 }}>
      {systems.map((s) => (
        <Button
          key={s.id}
          variant="choice"
          aria-pressed={s.id === units}
          data-on={s.id === units}
          onClick={() => {
            setUnits(s.id);
            chooseSystem(s.id);
          }}
          sx={{ justifyContent: "flex-start" }}
        >
          {s.label}: {s.such}
        </Button>
      ))}
    </Stack>
  );
}
