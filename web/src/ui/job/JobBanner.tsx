import { Box, Button, Typography } from "@mui/material";
import { Link } from "react-router";
import type { JobPage, Schemas } from "../../api/client";
import { useEngineState, useJob } from "../../api/queries";
import { day, when } from "../words";
import { stuck } from "../stuck";
import { BehindSeacock } from "./BehindSeacock";
import { JobSteps } from "./JobSteps";
import { Others } from "./Others";
import { Paused, waitingWords } from "./Pause";
import css from "./JobBanner.module.css";
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
      <p className={css.flags}>
        {labels.slice(0, atOnce).join(" · ")}
        {labels.length > atOnce && (
          <>
            <span className={css.rest}>{` · ${labels.slice(atOnce).join(" · ")}`}</span>
            <span className={css.more}>{` · ${labels.length - atOnce} more`}</span>
          </>
        )}
      </p>
      {first?.since.at && (
        <p className={css.since}>
          since {when(first.since.at)}
          {first.since.by && `, ${first.since.by}`}
        </p>
      )}
    </>
  );
  return (
    <div ref={stateLine} role="note" aria-label="State of the engine" className={css.strip}>
      {to ? (
        <Link to={to} className={css.row}>
          {words}
        </Link>
      ) : (
        <div className={css.row}>{words}</div>
      )}
    </div>
  );
}
