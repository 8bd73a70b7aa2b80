import { Box, Button, ButtonBase, Typography } from "@mui/material";
import { Link } from "react-router";
import type { JobPage, Schemas } from "../../api/client";
import { useEngineState, useJob } from "../../api/queries";
import { day, when } from "../words";
import { stuck } from "../stuck";
import { BehindSeacock } from "./BehindSeacock";
import { JobSteps } from "./JobSteps";
import { Others } from "./Others";
import { Paused, waitingWords } from "./Pause";
import { isolations } from "./teardown";

/** The steps and the state of a job that a screen was reached from. */
export function JobBanner({ job }: { job: string }) {
  const page = useJob(job);
  return page.data ? <Banner page={page.data} /> : null;
}

/** What is up: as the program has it, with taps that still wait for a link laid over it. */
function flagsOf({ state, hands }: JobPage): Schemas["StateFlag"][] {
  const shut = new Set(hands.isolated.map((i) => i.id));
  const known = new Set(state.flags.map((f) => f.id));
  const isolation = (id: string) => isolations.some((i) => i.id === id);
  return [
    ...hands.isolated
      .filter((i) => !known.has(i.id))
      .map((i) => ({ id: i.id, label: i.banner, since: { by: i.by, at: i.at } })),
    ...state.flags.filter((f) => !isolation(f.id) || shut.has(f.id) || f.label.endsWith("?")),
  ];
}

/**
 * On every screen of a job: its steps, and what of the engine is open, off, shut, drained, wrong or at large until it
 * is not. A tap leads to where each is settled.
 */
export const Banner = ({ page }: { page: JobPage }) => (
  <>
    <JobSteps page={page} />
    <Others job={page.card.id} />
    <Strip flags={flagsOf(page)} to={`/jobs/${page.card.id}/teardown?pane=start`} />
    <BehindSeacock page={page} />
    <Paused page={page} />
  </>
);

/** The same on the engine's own page: it outlives the job in which it came about. */
export function EngineBanner({ engine, job }: { engine: string; job?: string }) {
  const state = useEngineState(engine);
  if (!state.data || state.data.flags.length + state.data.waiting.length === 0) return null;
  return (
    <Box>
      {state.data.waiting.map((w) => (
        <Typography key={w.for + w.words} sx={{ fontWeight: 700, py: 0.5 }}>
          {waitingWords(w)} ({day(w.at)}, {w.by})
        </Typography>
      ))}
      <Strip flags={state.data.flags} {...(job && { to: `/jobs/${job}/teardown?pane=start` })} />
      <Button href={`/api/v1/engines/${engine}/do-not-start.pdf`} download sx={{ px: 0 }}>
        DO NOT START sheet, to hang at the key
      </Button>
    </Box>
  );
}

const stateLine = stuck("--state-line");

/** So many stand in the strip of a phone, the most dangerous first; the start list has them all. */
const atOnce = 2;

function Strip({ flags, to }: { flags: Schemas["StateFlag"][]; to?: string }) {
  const labels = flags.map((f) => f.label);
  const dated = flags.filter((f) => f.since.at);
  const first = dated.find((f) => f.id === "seacock" || f.id === "leg-hose") ?? dated[0];
  if (flags.length === 0) return null;
  const words = (
    <>
      <Typography sx={{ fontWeight: 800, fontSize: { xs: "1.05rem", md: "1.15rem" }, letterSpacing: "0.04em" }}>
        {labels.slice(0, atOnce).join(" · ")}
        {labels.length > atOnce && (
          <>
            <Box component="span" sx={{ display: { xs: "none", md: "inline" } }}>
              {` · ${labels.slice(atOnce).join(" · ")}`}
            </Box>
            <Box component="span" sx={{ display: { md: "none" } }}>
              {` · ${labels.length - atOnce} more`}
            </Box>
          </>
        )}
      </Typography>
      {first?.since.at && (
        <Typography variant="body2" sx={{ display: { xs: "none", sm: "block" } }}>
          since {when(first.since.at)}
          {first.since.by && `, ${first.since.by}`}
        </Typography>
      )}
    </>
  );
  return (
    <Box
      ref={stateLine}
      role="note"
      aria-label="State of the engine"
      sx={{
        position: { xs: "sticky", md: "static" }, // what is shut or off stays in sight at the engine
        top: "var(--link-line, 0px)",
        zIndex: 2,
        bgcolor: (t) => t.water.found,
        color: "background.paper",
        borderTop: { xs: "4px solid", sm: "6px solid" },
        borderBottom: { xs: "4px solid", sm: "6px solid" },
        borderColor: "background.paper",
        outline: (t) => `3px solid ${t.water.found}`,
        outlineOffset: -3,
      }}
    >
      {to ? (
        <ButtonBase component={Link} to={to} sx={{ ...row, width: "100%", justifyContent: "flex-start" }}>
          {words}
        </ButtonBase>
      ) : (
        <Box sx={row}>{words}</Box>
      )}
    </Box>
  );
}

const row = {
  px: { xs: 1.5, lg: 2.5 },
  py: { xs: 0.5, sm: 0.75 },
  minHeight: 48,
  display: "flex",
  flexWrap: "wrap",
  columnGap: 2,
  alignItems: "center",
  textAlign: "left",
} as const;
