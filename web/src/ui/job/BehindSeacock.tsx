import { Button, Stack, Typography } from "@mui/material";
import type { JobPage } from "../../api/client";
import { WhoDialog } from "../Shell";
import { useTaps } from "../taps";

/** Does the shut seacock hold? Asked once the first joint below the waterline is open, until somebody says. */
export function BehindSeacock({ page }: { page: JobPage }) {
  const { keep, asking, setAsking } = useTaps(page.card.id);
  if (page.state.behind !== "ask" || page.closed) return null;
  const say = (item: "dry" | "passes", label: string) => keep({ kind: "strip", strip: { do: "holds", item } }, label);
  return (
    <Stack
      component="section"
      aria-label="Does the shut seacock hold?"
      direction={{ md: "row" }}
      sx={{
        px: { xs: 1.5, md: 2.5 },
        py: 1,
        columnGap: 3,
        rowGap: 0.75,
        alignItems: { md: "center" },
        bgcolor: "background.paper",
        borderBottom: 2,
      }}
    >
      <Typography>
        <strong>Does the shut seacock hold?</strong> Some water was to come: what stood in the pipe. Has it stopped?
      </Typography>
      <Stack direction="row" sx={{ gap: 1 }}>
        <Button variant="choice" onClick={() => say("dry", "The seacock holds")}>
          It has stopped
        </Button>
        <Button variant="choice" onClick={() => say("passes", "The seacock does not hold")}>
          Still coming
        </Button>
      </Stack>
      {asking && <WhoDialog onClose={() => setAsking(false)} />}
    </Stack>
  );
}
