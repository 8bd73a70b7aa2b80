import { Box, Button, Stack, Typography } from "@mui/material";
import type { JobPage } from "../../api/client";
import { useSystem } from "../unitSystem";
import { shown, type Units } from "../units";
import { useDo, usePracticeNow } from "./usePractice";
import type { Words } from "../words";

/** What the engine does in a proving run, read with care: to be noted stage by stage, as with a real one. */
export function RunSeen({ page, words, units }: { page: JobPage; words: Words; units: Units }) {
  const now = usePracticeNow();
  const { busy, failed, act } = useDo();
  const system = useSystem();
  const text = (c: number) => shown(units, system, c, "degC");
  const run = now?.run;
  return (
    <Box
      component="section"
      aria-label="What the engine does"
      sx={{ border: 2, borderColor: "text.primary", borderRadius: 1, p: 1.5, mb: 2, bgcolor: "background.paper" }}
    >
      <Typography variant="h3" component="h2">
        What the engine does
      </Typography>
      {run ? (
        <Box component="ul" sx={{ m: 0, mt: 0.5, pl: 2.5 }}>
          <li>
            {run.water_after_s
              ? `Water at the outlet after ${Math.round(run.water_after_s)} s.`
              : "No water at the outlet within 30 s: stopped."}
          </li>
          <li>
            At cruising speed for ten minutes the needle stands at {text(run.gauge_c)}; a thermometer at the sender
            shows {text(run.probe_c)}.
          </li>
          <li>Top speed: {Math.round(run.top_share * page.engine.rated_rpm)} rev/min.</li>
          <li>{run.smell_ok ? "Nothing smelt or heard." : "It smells of exhaust, and there is steam."}</li>
          <li>{run.dry ? "Every joint dry, the bilge dry." : "Something drips: the bilge is wet."}</li>
          {run.seen.length > 0 && (
            <li>Also: {run.seen.map((s) => words.finding(s.finding).toLowerCase()).join(", ")}.</li>
          )}
        </Box>
      ) : (
        <Typography sx={{ mt: 0.5 }}>
          Start it, watch the outlet, let it warm up, load it, and read. 25 minutes.
        </Typography>
      )}
      {failed && <Typography role="alert">{failed}</Typography>}
      <Stack direction="row" sx={{ mt: 1 }}>
        <Button
          variant={run ? "choice" : "contained"}
          disabled={busy || now?.over}
          onClick={() => void act({ do: "prove" })}
        >
          {run ? "Run it once more, 25 min" : "Run it, 25 min"}
        </Button>
      </Stack>
    </Box>
  );
}
