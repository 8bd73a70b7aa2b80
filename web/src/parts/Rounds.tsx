import { Box, Button, Stack, Typography } from "@mui/material";
import { Link } from "react-router";
import type { JobPage } from "../api/client";
import { useSums } from "../api/queries";
import { HealthWords } from "./HealthWords";
import { PathPicture } from "./PathPicture";
import { useSystem } from "./system";
import { shown, unitsOf } from "./units";
import { when, type Words } from "./words";

/** The rounds of readings taken in a job: the last one as a picture, and what all say together. */
export function Rounds({ page, words }: { page: JobPage; words: Words }) {
  const list = useSums().data?.units;
  const system = useSystem();
  const last = page.rounds[page.rounds.length - 1];
  return (
    <Box component="section" aria-label="Readings">
      <Stack direction="row" sx={{ alignItems: "center", mb: 0.5 }}>
        <Typography variant="h2" sx={{ flex: 1 }}>
          Readings
        </Typography>
        {!page.closed && (
          <Button component={Link} to={`/jobs/${page.card.id}/round`}>
            Take a round
          </Button>
        )}
      </Stack>
      {!last && (
        <Typography sx={{ color: "text.secondary" }}>
          None yet. A round at a steady speed tells flow, exchanger, thermostat and gauge apart.
        </Typography>
      )}
      {last && list && (
        <Stack sx={{ gap: 2 }}>
          <Typography>
            {last.round.operation.rpm} rev/min, sea {shown(unitsOf(list), system, last.round.operation.sea_c, "degC")}.{" "}
            {last.words && `${last.words}. `}
            {last.by}, {when(last.at)}
            {page.rounds.length > 1 && `; ${page.rounds.length} rounds in all`}
          </Typography>
          <PathPicture
            round={last.round}
            should={last.should ?? []}
            words={words}
            units={unitsOf(list)}
            system={system}
          />
          {page.health && <HealthWords health={page.health} />}
        </Stack>
      )}
    </Box>
  );
}
