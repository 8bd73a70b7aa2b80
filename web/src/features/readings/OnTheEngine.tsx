import { Box, Typography } from "@mui/material";
import { useCallback, useMemo } from "react";
import { useNavigate } from "react-router";
import type { Catalogue, Schemas } from "../../api/client";
import { Spine } from "../../ui/job/Spine";
import { spineOf, type Spine as Facts, type SpineStation } from "../../ui/stations";

interface Props {
  catalogue: Catalogue;
  engine: Pick<Schemas["Engine"], "family" | "circuit">;
  limits: Pick<Schemas["PlantLimits"], "is" | "healthy">;
  /** The faults that are put on. */
  faults: string[];
}

/** What the model says on the engine's own drawing: each place beside what it reads in health, the pipe as wide as the
 * flow that is left. */
export function OnTheEngine({ catalogue, engine, limits, faults }: Props) {
  const go = useNavigate();
  const choose = useCallback((station: string) => void go(`/handbook?station=${station}`), [go]);
  const spine = useMemo(() => factsOf(catalogue, engine, limits, faults), [catalogue, engine, limits, faults]);
  return (
    <Box component="section" aria-label="On the engine" sx={{ bgcolor: "background.paper", borderRadius: 1, p: 2 }}>
      <Typography variant="h2">On the engine</Typography>
      <Typography variant="body2" sx={{ color: "text.secondary" }}>
        What each place would read, and should; the pipe is as wide as the flow that is left.
      </Typography>
      <Spine spine={spine} circuit={engine.circuit} onChoose={choose} />
    </Box>
  );
}

/** The drawing's facts from a state of the model beside health. */
export function factsOf(
  catalogue: Catalogue,
  engine: Props["engine"],
  { is, healthy }: Props["limits"],
  faults: string[],
): Facts {
  const facts = spineOf(catalogue, {
    engine,
    findings: [],
    open_access: [],
    diagnosis: { suspects: [], found: faults },
    rounds: [
      {
        round: { readings: is.readings.map((r) => ({ station: r.station, side: r.side, value: r.temp_c })) },
        should: healthy.readings,
      } as Schemas["RoundMade"],
    ],
  });
  const said = (s: SpineStation): SpineStation =>
    s.state === "found" ? { ...s, words: "fault put on" } : { ...s, state: "untouched", words: "" };
  return {
    ...facts,
    raw: facts.raw.map(said),
    loop: facts.loop.map(said),
    beside: [],
    flow: healthy.raw_l_min > 0 ? is.raw_l_min / healthy.raw_l_min : undefined,
  };
}
