import { Alert, Box, Button, Stack, Typography } from "@mui/material";
import { useState } from "react";
import { Refused, type UnitSystem } from "../../api/client";
import { useAnswer } from "../../api/queries";
import { Line } from "./RoundPlaces";
import { Stopwatch } from "../Stopwatch";
import { shown, shownError, type Units } from "../units";

/** The flow by bucket and watch, by the sum for it; taken into the round when it will do. */
export function BucketWatch(p: { units: Units; system: UnitSystem; onTake: (lMin: number, error: number) => void }) {
  const { units, system } = p;
  const [litres, setLitres] = useState("10");
  const [tries, setTries] = useState<number[]>([]);
  const [open, setOpen] = useState(false);
  if (!open)
    return (
      <Button onClick={() => setOpen(true)} sx={{ px: 0 }}>
        With bucket and stopwatch
      </Button>
    );
  return (
    <Box component="section" aria-label="Bucket and stopwatch" sx={{ pb: 1 }}>
      <Line label="The bucket holds" unit="L" text={litres} onGive={setLitres} />
      <Typography variant="body2" sx={{ color: "text.secondary", mt: 0.5 }}>
        Under the outlet: start, stop when it is full. Two or three tries tell how sure it is.
      </Typography>
      <Stopwatch onTime={(s) => setTries([...tries, Math.round(s * 10) / 10])} />
      {tries.length > 0 && (
        <Flow key={tries.length} {...{ litres, tries, units, system }} onTake={p.onTake} onAgain={() => setTries([])} />
      )}
    </Box>
  );
}

function Flow(p: {
  litres: string;
  tries: number[];
  units: Units;
  system: UnitSystem;
  onTake: (lMin: number, error: number) => void;
  onAgain: () => void;
}) {
  const answer = useAnswer("bucket-flow", { volume_l: p.litres, volume_error_l: 0.2, seconds: p.tries }, "metric");
  const flow = answer.data?.result.flow_l_min as number | undefined;
  const error = answer.data?.result.uncertainty_l_min as number | undefined;
  const wrong = answer.error instanceof Refused ? (answer.error.problem.errors?.[0]?.say ?? answer.error.message) : "";
  return (
    <Stack sx={{ gap: 0.75, mt: 1 }}>
      <Typography>{p.tries.map((t) => `${t.toFixed(1)} s`).join(", ")}</Typography>
      {wrong && <Alert severity="error">{wrong}</Alert>}
      {flow !== undefined && error !== undefined && !wrong && (
        <Stack direction="row" sx={{ gap: 1, alignItems: "center", flexWrap: "wrap" }}>
          <Typography sx={{ fontWeight: 750, fontSize: "1.2rem" }}>
            {shown(p.units, p.system, flow, "L/min")} ± {shownError(p.units, p.system, error, "L/min")}
          </Typography>
          <Button variant="contained" onClick={() => p.onTake(flow, error)}>
            Take it
          </Button>
          <Button onClick={p.onAgain}>Begin again</Button>
        </Stack>
      )}
    </Stack>
  );
}
