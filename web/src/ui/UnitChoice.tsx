import { Stack } from "@mui/material";
import { useState } from "react";
import { chooseSystem, chosenSystem, systemByLocale, systems } from "./unitSystem";
import { ChoiceButton } from "./ChoiceButton";

/** The units in which this device speaks, chosen at a touch. */
export function UnitChoice() {
  const [units, setUnits] = useState(chosenSystem() ?? systemByLocale());
  return (
    <Stack role="group" aria-label="Units" sx={{ gap: 0.75 }}>
      {systems.map((s) => (
        <ChoiceButton
          key={s.id}
          aria-pressed={s.id === units}
          data-on={s.id === units}
          onClick={() => {
            setUnits(s.id);
            chooseSystem(s.id);
          }}
          sx={{ justifyContent: "flex-start" }}
        >
          {s.label}: {s.such}
        </ChoiceButton>
      ))}
    </Stack>
  );
}
