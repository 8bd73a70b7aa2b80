import { Box, Button, Stack, Typography } from "@mui/material";
import { useTheme } from "@mui/material/styles";
import { Link } from "react-router";
import type { JobPage } from "../../api/client";
import { runOf } from "../../ui/job/steps";
import { when } from "../../ui/words";
import { ChoiceButton } from "../../ui/ChoiceButton";

/** A signed run proved the cure: what is left is the report, and to close the job. */
export function Proved({ page, onClose, onLookOn }: { page: JobPage; onClose: () => void; onLookOn: () => void }) {
  const { water } = useTheme();
  const signed = runOf(page)?.signed;
  return (
    <Box
      role="status"
      aria-label="Proved"
      sx={{ border: 3, borderColor: water.clear, borderRadius: 1, bgcolor: "background.paper", p: 2 }}
    >
      <Typography variant="h2">
        {page.card.verdict === "tight" ? "Tight: nothing leaks" : "Cured, and proved"}
      </Typography>
      {signed && (
        <Typography>
          Signed by {signed.by}, {when(signed.at)}.
        </Typography>
      )}
      <Stack direction="row" sx={{ gap: 1, mt: 1.5, flexWrap: "wrap" }}>
        <Button variant="contained" component={Link} to={`/jobs/${page.card.id}/report`}>
          To the report
        </Button>
        <ChoiceButton onClick={onClose}>Close the job</ChoiceButton>
        <Button onClick={onLookOn}>Look on all the same</Button>
      </Stack>
    </Box>
  );
}
