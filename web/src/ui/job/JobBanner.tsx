import { Box, Typography } from "@mui/material";
import type { JobPage } from "../../api/client";
import { useJob } from "../../api/queries";
import { when } from "../words";

/** The banner of a job that a screen was reached from. */
export function JobBanner({ job }: { job: string }) {
  const page = useJob(job);
  return page.data ? <Banner page={page.data} /> : null;
}

/** What stands shut, on every screen of the job until it is open again. */
export function Banner({ page }: { page: JobPage }) {
  const list = page.hands.isolated;
  if (list.length === 0) return null;
  const first = list.find((i) => i.id === "seacock" || i.id === "leg-hose") ?? list[0];
  return (
    <Box
      role="note"
      aria-label="Isolated"
      sx={{
        bgcolor: (t) => t.water.found,
        color: "background.paper",
        px: { xs: 1.5, lg: 2.5 },
        py: 0.75,
        display: "flex",
        flexWrap: "wrap",
        columnGap: 2,
        alignItems: "baseline",
        borderTop: "6px solid",
        borderBottom: "6px solid",
        borderColor: "background.paper",
        outline: (t) => `3px solid ${t.water.found}`,
        outlineOffset: -3,
      }}
    >
      <Typography sx={{ fontWeight: 800, fontSize: "1.15rem", letterSpacing: "0.04em" }}>
        {list.map((i) => i.banner).join(" · ")}
      </Typography>
      {first && (
        <Typography variant="body2">
          since {when(first.at)}
          {first.by && `, ${first.by}`}
        </Typography>
      )}
    </Box>
  );
}
