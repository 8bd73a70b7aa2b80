import { Later } from "../../ui/chart/Later";
import { Box, Button, Stack, Typography } from "@mui/material";
import { lazy, useState } from "react";
import { Link } from "react-router";
import type { JobPage } from "../../api/client";
import { useCalculators } from "../../api/queries";
import { HealthWords } from "../../ui/readings/HealthWords";
import { SaveBaseline } from "./SaveBaseline";
import { useSystem } from "../../ui/unitSystem";
import { shown, unitsOf } from "../../ui/units";
import { when, type Words } from "../../ui/words";

const PathPicture = lazy(() => import("../../ui/readings/PathPicture").then((m) => ({ default: m.PathPicture })));

/** The what-if of this engine, at the speed and sea of the last round, with what was found. */
export function whatIf(page: JobPage): string {
  const last = page.rounds[page.rounds.length - 1]?.round.operation;
  const asked = new URLSearchParams({ job: page.card.id });
  if (last) {
    asked.set("rpm", String(last.rpm));
    asked.set("sea", String(last.sea_c));
  }
  for (const f of page.diagnosis.found) asked.append("fault", f);
  return `/engines/${page.engine.id}/what-if?${asked.toString()}`;
}

/** The rounds of readings taken in a job: the last one as a picture, and what all say together. */
export function Rounds({ page, words }: { page: JobPage; words: Words }) {
  const list = useCalculators().data?.units;
  const system = useSystem();
  const last = page.rounds[page.rounds.length - 1];
  const sea = last && list && shown(unitsOf(list), system, last.round.operation.sea_c, "degC");
  const [asking, setAsking] = useState(false);
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
            {last.round.operation.rpm} rev/min, sea {sea}. {last.words && `${last.words}. `}
            {last.by}, {when(last.at)}
            {page.rounds.length > 1 && `; ${page.rounds.length} rounds in all`}
          </Typography>
          <Later height={320}>
            <PathPicture
              round={last.round}
              should={last.should ?? []}
              baseline={last.baseline}
              twin={last.twin}
              words={words}
              units={unitsOf(list)}
              system={system}
            />
          </Later>
          {page.health && (
            <HealthWords
              health={page.health}
              standard={page.standard}
              rpm={last.round.operation.rpm}
              words={words}
              units={unitsOf(list)}
              system={system}
            />
          )}
          <Stack direction="row" sx={{ flexWrap: "wrap", gap: 1 }}>
            <Button component={Link} to={whatIf(page)} sx={{ px: 0 }}>
              What would overheat it?
            </Button>
            <Button onClick={() => setAsking(true)} sx={{ px: 0 }}>
              Save as healthy baseline
            </Button>
          </Stack>
          {asking && <SaveBaseline page={page} onClose={() => setAsking(false)} />}
        </Stack>
      )}
    </Box>
  );
}
