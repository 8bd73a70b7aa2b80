import { Box, Stack, Typography } from "@mui/material";
import { useState } from "react";
import type { Schemas } from "../../api/client";
import { Cautions } from "../../ui/Cautions";
import { when } from "../../ui/words";
import type { OnUpkeep } from "../../ui/maintenance/maintenance";
import { ChoiceButton } from "../../ui/ChoiceButton";

/** As the clock of a browser counts its months, from none; an engine is laid up from then to the year's end. */
const august = 7;

/** The lists of the seasons, in the order of the work, ticked one by one. */
export function Seasons({
  engine,
  seasons,
  onSay,
}: {
  engine: string;
  seasons: Schemas["SeasonView"][];
  onSay: OnUpkeep;
}) {
  const [chosen, setChosen] = useState(() => (new Date().getMonth() >= august ? "lay-up" : "spring"));
  const season = seasons.find((s) => s.id === chosen) ?? seasons[0];
  if (!season) return null;
  const done = season.steps.filter((s) => s.at).length;
  return (
    <Box component="section" aria-label={season.label}>
      <Stack direction="row" sx={{ gap: 0.75, flexWrap: "wrap", mb: 1.5 }}>
        {seasons.map((s) => (
          <ChoiceButton
            key={s.id}
            aria-pressed={s.id === season.id}
            onClick={() => setChosen(s.id)}
            data-on={s.id === season.id}
          >
            {s.label} {s.year}
          </ChoiceButton>
        ))}
      </Stack>
      <Typography role="status" sx={{ fontWeight: 700, mb: 1 }}>
        {done} of {season.steps.length} done
      </Typography>
      <Cautions ids={[...new Set(season.steps.filter((s) => !s.at && s.caution).map((s) => s.caution))]} />
      <Box component="ol" sx={{ listStyle: "none", m: 0, p: 0, mt: 1 }}>
        {season.steps.map((s, i) => (
          <Stack
            component="li"
            key={s.id}
            direction="row"
            sx={{ gap: 1.5, alignItems: "center", borderTop: 1, borderColor: "divider", py: 0.75 }}
          >
            <Typography sx={{ fontWeight: 750, width: 28, textAlign: "right", flex: "none" }}>{i + 1}</Typography>
            <Box sx={{ flex: 1, minWidth: 0 }}>
              <Typography sx={{ fontWeight: 650, lineHeight: 1.25 }}>{s.label}</Typography>
              <Typography variant="body2" sx={{ color: "text.secondary" }}>
                {s.at ? `${s.by ?? ""}, ${when(s.at)}` : s.why}
              </Typography>
            </Box>
            <ChoiceButton
              aria-pressed={Boolean(s.at)}
              aria-label={`${s.at ? "Done" : "Tick"}: ${s.label}`}
              onClick={() =>
                onSay(
                  engine,
                  { upkeep: { do: s.at ? "untick" : "tick", list: season.id, year: season.year, step: s.id } },
                  s.at ? "Not done after all" : s.label,
                )
              }
              data-on={Boolean(s.at)}
              sx={{ flex: "none", minWidth: 84 }}
            >
              {s.at ? "Done" : "Tick"}
            </ChoiceButton>
          </Stack>
        ))}
      </Box>
    </Box>
  );
}
