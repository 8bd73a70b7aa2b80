import { Alert, Box, Button, Stack, Typography } from "@mui/material";
import { useSyncExternalStore, type ReactNode } from "react";
import type { Catalogue, JobPage } from "../../api/client";
import { link } from "../../api/link";
import { useMay, useOutbox, useReport, useSession } from "../../api/queries";
import { JobFrame } from "../../ui/job/JobFrame";
import { Loaded } from "../../ui/Loaded";
import { OfJob } from "../../ui/job/OfJob";
import { OwnerLinks } from "../../ui/OwnerLinks";
import { ReportSheet } from "./ReportSheet";
import { useSystem } from "../../ui/unitSystem";
import type { Units } from "../../ui/units";
import { when } from "../../ui/words";
import { thisDevice } from "../../ui/thisDevice";

/** What this device worked out alone is no word of the yard's yet: that goes on the paper too. */
function NotYet({ job }: { job: string }) {
  const behind = useSyncExternalStore(link.subscribe, link.behind);
  const waits = useOutbox().waiting.some((l) => l.path.includes(job));
  if (!behind && !waits) return null;
  return (
    <Alert severity="warning" role="status" aria-label="Not with the yard yet" sx={{ mb: 1.5 }}>
      Worked out on {thisDevice()}
      {waits && ", with what waits here"}: the yard has not seen it yet.
    </Alert>
  );
}

/** What leaves with the boat: the owner's report, and the job as files. */
export function ReportScreen() {
  return <OfJob>{(p) => <Report {...p} />}</OfJob>;
}

function Report({ catalogue, page, units }: { catalogue: Catalogue; page: JobPage; units: Units }) {
  const system = useSystem();
  const report = useReport(page.card.id, system);
  const hands = useMay("hand");
  const inYard = useSession()?.mode === "yard";
  return (
    <JobFrame page={page} catalogue={catalogue}>
      <Box
        sx={{
          maxWidth: 1240,
          display: "grid",
          gap: { xs: 2, xl: 4 },
          gridTemplateColumns: { xs: "minmax(0, 1fr)", xl: "minmax(0, 1fr) 320px" },
          alignItems: "start",
          "@media print": { display: "block", p: 0, maxWidth: "none" },
        }}
      >
        <Box
          sx={{
            display: { xs: "contents", xl: "grid" },
            gap: 2,
            order: { xl: 1 },
            position: { xl: "sticky" },
            top: 16,
            "@media print": { display: "none" },
          }}
        >
          <Stack sx={{ gap: 1.5, "@media print": { display: "none" } }}>
            <Typography variant="h1">Report</Typography>
            {hands && <Sheets job={page.card.id} system={system} />}
          </Stack>
          <Stack sx={{ gap: 1.5, order: { xs: 2, xl: 0 }, "@media print": { display: "none" } }}>
            {hands && <Files page={page} />}
            {hands && inYard && <OwnerLinks of={{ job: page.card.id }} />}
            {!hands && <Typography>A technician or the office hands the report out.</Typography>}
          </Stack>
        </Box>
        <Box sx={{ minWidth: 0 }}>
          <NotYet job={page.card.id} />
          <Loaded query={report}>{(r) => <ReportSheet report={r} units={units} system={system} />}</Loaded>
        </Box>
      </Box>
    </JobFrame>
  );
}

const ink = { borderColor: "text.primary", color: "text.primary", justifyContent: "flex-start" } as const;

function Sheets({ job, system }: { job: string; system: string }) {
  return (
    <Box sx={{ display: "grid", gap: 1, gridTemplateColumns: "repeat(2, minmax(0, 240px))" }}>
      <Button variant="contained" href={`/api/v1/jobs/${job}/report.pdf?units=${system}`} download>
        Report as PDF
      </Button>
      <Button variant="outlined" sx={{ ...ink, justifyContent: "center" }} onClick={() => window.print()}>
        Print the report
      </Button>
    </Box>
  );
}

function Files({ page }: { page: JobPage }) {
  const at = `/api/v1/jobs/${page.card.id}`;
  const going = page.proving.recordings.some((r) => r.open);
  return (
    <>
      <Part heading="For another program">
        <FileLink
          href={`${at}/readings.csv`}
          label="Readings, table"
          off={page.rounds.length === 0}
          why="no round yet"
        />
        <FileLink
          href={`${at}/parts.csv`}
          label="Parts, table"
          off={page.hands.used.length === 0}
          why="none used yet"
        />
        {page.proving.recordings
          .filter((r) => !r.open)
          .map((r) => (
            <FileLink
              key={r.id}
              href={`${at}/recordings/${r.id}/readings.csv`}
              label={`Recording of ${when(r.at)}, table`}
            />
          ))}
      </Part>
      <Part heading="For another Hevrin">
        <FileLink href={`${at}/bundle`} label="The whole job, one file" off={going} why="a recording goes on" />
        <Typography variant="body2" sx={{ color: "text.secondary" }}>
          With its photos, recordings and every entry. Another Hevrin takes it in on its yard&apos;s page, without a
          loss.
        </Typography>
      </Part>
    </>
  );
}

function Part({ heading, children }: { heading: string; children: ReactNode }) {
  return (
    <Box component="section" aria-label={heading}>
      <Typography variant="h2" sx={{ mb: 0.5 }}>
        {heading}
      </Typography>
      {children}
    </Box>
  );
}

function FileLink(p: { href: string; label: string; off?: boolean; why?: string }) {
  if (p.off)
    return (
      <Typography sx={{ color: "text.secondary", py: 1.25 }}>
        {p.label}: {p.why}
      </Typography>
    );
  return (
    <Button
      href={p.href}
      download
      sx={{
        color: "text.primary",
        textDecoration: "underline",
        textUnderlineOffset: 4,
        px: 0,
        display: "flex",
        justifyContent: "flex-start",
        textAlign: "left",
      }}
    >
      {p.label}
    </Button>
  );
}
