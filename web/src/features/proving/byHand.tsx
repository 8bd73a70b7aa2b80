import { Stack } from "@mui/material";
import { useState } from "react";
import { useQuantity } from "../../ui/quantity";
import { Attention } from "../../ui/Attention";
import { figure, NumberRow } from "./NumberRow";
import type { StageOf } from "./run";
import { Answer } from "./Answer";

/** Where the needle stood at cruising speed, after how long, and what a thermometer beside it read. */
export function Needle({ run, onRun }: StageOf) {
  const { symbol, read } = useQuantity("degC");
  const degrees = (key: string, label: string, optional = false) => ({
    key,
    label,
    unit: symbol,
    least: 0,
    most: 150,
    optional,
    read,
  });
  const again = run.needle !== undefined;
  return (
    <Stack sx={{ gap: 1.5 }}>
      <NumberRow
        title={again ? "Read it again" : "At cruising speed, once the needle stands"}
        asked={[
          figure("minutes", "After", "min", 1, 240),
          degrees("gauge_c", "Needle"),
          degrees("probe_c", "Thermometer", true),
        ]}
        save="Save"
        onSave={({ minutes, gauge_c, probe_c }) =>
          onRun({ do: "needle", minutes, gauge_c, ...(probe_c !== undefined && { probe_c }) }, "Needle noted")
        }
      />
      {run.needle && run.needle.probe_c === undefined && (
        <NumberRow
          title="Gauge beside a thermometer at the sender"
          asked={[degrees("gauge_c", "Gauge"), degrees("probe_c", "Thermometer")]}
          save="Save"
          onSave={({ gauge_c, probe_c }) => onRun({ do: "gauge", gauge_c, probe_c }, "Gauge compared")}
        />
      )}
    </Stack>
  );
}

/** Minutes at cruising speed and the highest speed reached, as they were read. */
export function CruiseTyped({ run, onRun }: StageOf) {
  const [held, setHeld] = useState(false);
  return (
    <Stack sx={{ gap: 1.5 }}>
      <Answer label="Full speed allowed here" yes="Yes" no="No" is={!held} onSay={(yes) => setHeld(!yes)} />
      <NumberRow
        title={run.load ? "Read it again" : "What was run"}
        asked={[
          figure("minutes", "At cruising speed", "min", 0, 1440),
          figure("top_rpm", "Highest speed", "rev/min", 0, 10000),
        ]}
        save="Save"
        onSave={({ minutes, top_rpm }) => onRun({ do: "load", minutes, top_rpm, ...(held && { held }) }, "Load noted")}
      />
    </Stack>
  );
}

/** Ten minutes at the berth: of a leak run. */
export function BerthTyped({ onRun }: StageOf) {
  return (
    <Stack sx={{ gap: 1.5 }}>
      <Attention>It proves that nothing leaks, and nothing else.</Attention>
      <NumberRow
        title="What was run"
        asked={[figure("minutes", "Running", "min", 0, 1440)]}
        save="Save"
        onSave={({ minutes }) => onRun({ do: "load", minutes }, "Minutes noted")}
      />
    </Stack>
  );
}
