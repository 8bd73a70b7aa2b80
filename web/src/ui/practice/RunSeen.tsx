import { Box, Button, Stack, Typography } from "@mui/material";
import type { JobPage, Schemas } from "../../api/client";
import { useSystem } from "../unitSystem";
import { shown, type Units } from "../units";
import { minutes, type Words } from "../words";
import { RunWatched } from "./RunWatched";
import { useDo, usePracticeNow } from "./usePractice";

interface Props {
  page: JobPage;
  words: Words;
  units: Units;
}

/** What the engine does in a proving run, read with care: to be noted stage by stage, as with a real one. */
export function RunSeen({ page, words, units }: Props) {
  const now = usePracticeNow();
  const { busy, failed, act } = useDo();
  const run = now?.run;
  const runs = now?.steps.filter((s) => s.do === "proof").length ?? 0;
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
        <>
          <RunWatched key={runs} pictures={run.pictures} units={units} />
          <WhatWasRead {...{ run, page, words, units }} />
        </>
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

function WhatWasRead({ run, page, words, units }: Props & { run: Schemas["PracticeRun"] }) {
  const system = useSystem();
  const text = (c: number | undefined) => shown(units, system, c ?? 0, "degC");
  const back = run.taken_back_s === undefined ? undefined : minutes(run.taken_back_s / 60);
  return (
    <Box component="ul" sx={{ m: 0, mt: 0.5, pl: 2.5 }}>
      <li>
        {run.water_after_s
          ? `Water at the outlet after ${Math.round(run.water_after_s)} s.`
          : "No water at the outlet within 30 s: stopped at once."}
      </li>
      {run.gauge_c !== undefined && (
        <>
          <li>
            {back && run.full_c === undefined
              ? `At cruising speed it got too hot and was taken back after ${back}: the needle stands at `
              : "At cruising speed for ten minutes the needle stands at "}
            {text(run.gauge_c)}; a thermometer at the sender shows {text(run.probe_c)}.
          </li>
          {run.full_c !== undefined && (
            <li>
              At full speed the needle went up to {text(run.full_c)}
              {back ? `: too hot, it was taken back after ${back}` : ""}.
            </li>
          )}
          {run.idle_c !== undefined && <li>At idle afterwards it stands at {text(run.idle_c)}.</li>}
          <li>Top speed held: {Math.round(run.top_share * page.engine.rated_rpm)} rev/min.</li>
        </>
      )}
      <li>{run.smell_ok ? "Nothing smelt or heard." : "It smells of exhaust, and there is steam."}</li>
      <li>{run.dry ? "Every joint dry, the bilge dry." : "Something drips: the bilge is wet."}</li>
      {run.seen.length > 0 && <li>Also: {run.seen.map((s) => words.finding(s.finding).toLowerCase()).join(", ")}.</li>}
    </Box>
  );
}
