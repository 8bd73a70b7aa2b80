import { Alert, Box, Button, Stack, Typography } from "@mui/material";
import { useState } from "react";
import { getLiveRound, Refused, type PlantRound, type Schemas } from "../../api/client";
import { Attention } from "../../ui/Attention";
import { useSystem } from "../../ui/unitSystem";
import { shown, shownError, type Units } from "../../ui/units";
import type { Words } from "../../ui/words";
import { placeWords } from "./live";

/** A round of readings off the feed: shown first, kept when it will do. */
export function FeedRound(p: { engine: string; words: Words; units: Units; onKeep: (round: PlantRound) => void }) {
  const [taken, setTaken] = useState<Schemas["LiveRound"]>();
  const [refused, setRefused] = useState("");
  const system = useSystem();
  const take = () =>
    getLiveRound(p.engine).then(
      (r) => {
        setTaken(r);
        setRefused("");
      },
      (e: unknown) =>
        setRefused(e instanceof Refused ? (e.problem.errors?.[0]?.say ?? e.message) : "The program does not answer."),
    );
  const { operation } = taken?.round ?? {};
  const own = (v: number, station: string) => shown(p.units, system, v, station === "flow" ? "L/min" : "degC");
  return (
    <Box component="section" aria-label="A round off the feed">
      <Button
        variant={taken ? "outlined" : "contained"}
        onClick={() => void take()}
        sx={{ color: taken ? "text.primary" : undefined }}
      >
        {taken ? "Take it anew" : "Take a round off the feed"}
      </Button>
      {refused && (
        <Alert severity="error" sx={{ mt: 1 }}>
          {refused}
        </Alert>
      )}
      {taken && operation && (
        <Stack sx={{ gap: 1, mt: 1 }}>
          <Typography sx={{ fontWeight: 700 }}>
            {operation.rpm} rev/min, sea {own(operation.sea_c, "sea")}; means of the last minute
          </Typography>
          <Box component="dl" sx={{ m: 0, display: "grid", gridTemplateColumns: "minmax(0, 1fr) auto", columnGap: 2 }}>
            {taken.round.readings.flatMap((r) => [
              <Typography key={`${r.station}${r.side ?? ""}`} component="dt">
                {placeWords(
                  { station: r.station, ...(r.side === "raw" || r.side === "coolant" ? { side: r.side } : {}) },
                  p.words,
                )}
              </Typography>,
              <Typography key={`${r.station}${r.side ?? ""} is`} component="dd" sx={{ m: 0, fontWeight: 700 }}>
                {own(r.value, r.station)}
                {r.error !== undefined &&
                  ` ± ${shownError(p.units, system, r.error, r.station === "flow" ? "L/min" : "K")}`}
              </Typography>,
            ])}
          </Box>
          {taken.unquiet.length > 0 && <Attention>{`Not at rest yet: ${taken.unquiet.join("; ")}.`}</Attention>}
          <Button
            variant="contained"
            onClick={() => {
              p.onKeep(taken.round);
              setTaken(undefined);
            }}
          >
            Save this round
          </Button>
        </Stack>
      )}
    </Box>
  );
}
