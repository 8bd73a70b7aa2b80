import { Alert, Box, Button, Stack, Typography } from "@mui/material";
import type { Schemas } from "../../api/client";
import { day } from "../../ui/words";

type Engine = Schemas["SharedEngine"];

/** An engine as its owner reads it: whether it is in the yard's hands, what is due, and what was done, job by job. */
export function SharedEngine({ engine: e }: { engine: Engine }) {
  return (
    <Stack component="article" aria-label={`${e.craft}, ${e.engine_name}`} sx={{ gap: 2.5 }}>
      <Stack direction="row" sx={{ alignItems: "center", gap: 1, flexWrap: "wrap" }}>
        <Box sx={{ mr: "auto" }}>
          <Typography variant="h1">
            {e.craft}, {e.engine_name}
          </Typography>
          <Typography sx={{ color: "text.secondary" }}>
            {[e.engine, e.hours, e.berth].filter(Boolean).join(". ")}
          </Typography>
        </Box>
        <Button variant="outlined" sx={notOnPaper} onClick={() => window.print()}>
          Print
        </Button>
      </Stack>
      {e.work_open && (
        <Alert severity="warning" variant="outlined">
          The yard is at work on this engine. Do not start or crank it before the yard says so.
        </Alert>
      )}
      <Due due={e.due} />
      <Past jobs={e.jobs} />
    </Stack>
  );
}

const notOnPaper = { borderColor: "text.primary", color: "text.primary", "@media print": { display: "none" } } as const;

function Due({ due }: { due: Engine["due"] }) {
  return (
    <Box component="section" aria-label="Due">
      <Typography variant="h2">Due</Typography>
      {due.length === 0 && <Typography>Nothing of which the yard knows a date.</Typography>}
      {due.map((d) => (
        <Box key={d.what} sx={{ ...line, display: "grid", gridTemplateColumns: { xs: "1fr", sm: "1fr 200px" } }}>
          <Box>
            <Typography sx={{ fontWeight: 650 }}>{d.what}</Typography>
            <Typography variant="body2" sx={{ color: "text.secondary" }}>
              {d.why}
            </Typography>
          </Box>
          <Typography sx={{ textAlign: { sm: "right" } }}>{d.when}</Typography>
        </Box>
      ))}
    </Box>
  );
}

const line = { borderTop: 1, borderColor: "divider", py: 0.75, breakInside: "avoid" } as const;

function Past({ jobs }: { jobs: Engine["jobs"] }) {
  return (
    <Box component="section" aria-label="What was done">
      <Typography variant="h2">What was done</Typography>
      {jobs.length === 0 && <Typography>No job is on record.</Typography>}
      {jobs.map((j) => (
        <Box key={j.opened + j.complaint} sx={line}>
          <Typography sx={{ fontWeight: 650 }}>
            {day(j.opened)}
            {j.complaint && `: ${j.complaint}`}
          </Typography>
          {j.lines.map((l) => (
            <Typography key={l} variant="body2">
              {l}
            </Typography>
          ))}
        </Box>
      ))}
    </Box>
  );
}
