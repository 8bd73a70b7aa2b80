import { Box, Button, Stack, TextField, Typography } from "@mui/material";
import { useState } from "react";
import type { Schemas } from "../../api/client";
import { day } from "../../ui/words";
import { today, type OnUpkeep } from "../../ui/maintenance/maintenance";
import { ChoiceButton } from "../../ui/ChoiceButton";

const letters = ["J", "F", "M", "A", "M", "J", "J", "A", "S", "O", "N", "D"];

/** Its hours: what the meter showed, what it has now by its use, and how it is used through the year. */
export function Hours({ engine, hours, onSay }: { engine: string; hours: Schemas["HoursView"]; onSay: OnUpkeep }) {
  const [open, setOpen] = useState(false);
  return (
    <Box component="section" aria-label="Hours">
      <Typography variant="h2" sx={{ mb: 0.5 }}>
        Hours
      </Typography>
      {hours.known ? (
        <Typography>
          About <strong>{Math.round(hours.now)} h</strong>
          {hours.error > 1 && ` ± ${Math.round(hours.error)}`} today
          {hours.use_known && `, ${Math.round(hours.per_year)} a year`}. The meter showed {hours.last_hours} h on{" "}
          {hours.last_day && day(hours.last_day)}.
        </Typography>
      ) : (
        <Typography>Not known yet: put down what the meter shows.</Typography>
      )}
      {hours.use_known && <ByMonth use={hours.by_month} />}
      <ChoiceButton onClick={() => setOpen(!open)} aria-expanded={open} data-on={open} sx={{ mt: 1 }}>
        Read the meter
      </ChoiceButton>
      {open && (
        <Reading
          least={hours.last_hours}
          onSay={(meter) => {
            onSay(engine, { meter }, `Meter: ${meter.hours} h`);
            setOpen(false);
          }}
        />
      )}
    </Box>
  );
}

function ByMonth({ use }: { use: number[] }) {
  const most = Math.max(...use, 0.1);
  return (
    <Box
      role="img"
      aria-label={`Use by month, hours a day: ${use.map((u, i) => `${letters[i] ?? ""} ${u.toFixed(1)}`).join(", ")}`}
      sx={{
        display: "grid",
        gridTemplateColumns: "repeat(12, 1fr)",
        gap: 0.5,
        alignItems: "end",
        height: 74,
        mt: 1,
        maxWidth: 360,
      }}
    >
      {use.map((u, i) => (
        <Stack key={i} sx={{ alignItems: "center", justifyContent: "flex-end", height: "100%" }}>
          <Box sx={{ width: "100%", height: `${(52 * u) / most}px`, bgcolor: (t) => t.water.raw, minHeight: 2 }} />
          <Typography variant="body2" sx={{ lineHeight: 1.3 }}>
            {letters[i]}
          </Typography>
        </Stack>
      ))}
    </Box>
  );
}

const number = (t: string) => Number(t.trim().replace(",", "."));

function Reading({ least, onSay }: { least?: number; onSay: (m: Schemas["Meter"]) => void }) {
  const [on, setOn] = useState(today());
  const [shows, setShows] = useState("");
  const [changed, setChanged] = useState(false);
  const [old, setOld] = useState("");
  const ready = shows.trim() !== "" && !Number.isNaN(number(shows)) && (!changed || old.trim() !== "");
  return (
    <Stack sx={{ gap: 1, mt: 1, maxWidth: 420 }}>
      <Stack direction="row" sx={{ gap: 1 }}>
        <TextField
          type="date"
          label="On"
          value={on}
          onChange={(e) => setOn(e.target.value)}
          slotProps={{ inputLabel: { shrink: true }, htmlInput: { max: today() } }}
          sx={{ bgcolor: "background.paper" }}
        />
        <TextField
          label={changed ? "The new meter shows, h" : "The meter shows, h"}
          value={shows}
          onChange={(e) => setShows(e.target.value)}
          helperText={least !== undefined && !changed ? `Last: ${least} h` : undefined}
          slotProps={{ htmlInput: { inputMode: "decimal" } }}
          sx={{ bgcolor: "background.paper", flex: 1 }}
        />
      </Stack>
      <ChoiceButton
        aria-pressed={changed}
        onClick={() => setChanged(!changed)}
        data-on={changed}
        sx={{ alignSelf: "flex-start" }}
      >
        The meter was changed
      </ChoiceButton>
      {changed && (
        <TextField
          label="The old one showed at last, h"
          value={old}
          onChange={(e) => setOld(e.target.value)}
          slotProps={{ htmlInput: { inputMode: "decimal" } }}
          sx={{ bgcolor: "background.paper" }}
        />
      )}
      <Button
        variant="contained"
        disabled={!ready}
        onClick={() =>
          onSay({ day: on, hours: number(shows), ...(changed && { new_meter: true, old_hours: number(old) }) })
        }
      >
        Put it down
      </Button>
    </Stack>
  );
}
