import { Box, Button, Stack, Typography } from "@mui/material";
import { useTheme } from "@mui/material/styles";
import type { Catalogue, JobPage } from "../../api/client";
import type { JobEntry } from "../../api/writes";
import { FoundDrawn } from "../../ui/job/FoundDrawn";
import { PutRight } from "../../ui/job/PutRight";
import { StateShape } from "../../ui/StateShape";
import { wordsOf } from "../../ui/words";
import { ChoiceButton } from "../../ui/ChoiceButton";

interface Props {
  page: JobPage;
  catalogue: Catalogue;
  onKeep: (entry: JobEntry, label: string) => void;
  /** To what must be so before a start. */
  onStart: () => void;
}

/** What was found, which leads the repair: how it is put right, the touch that says so, what is still to be closed. */
export function ToPutRight({ page, catalogue, onKeep, onStart }: Props) {
  const { water } = useTheme();
  const words = wordsOf(catalogue);
  const all = [...new Set([...page.diagnosis.found, ...page.repaired.map((r) => r.fault)])];
  const done = (f: string) => page.repaired.some((r) => r.fault === f);
  if (all.length === 0 || page.closed) return null;
  return (
    <Box
      component="section"
      aria-label="To put right"
      sx={{
        border: 3,
        borderColor: all.every(done) ? "divider" : water.found,
        borderRadius: 1,
        bgcolor: "background.paper",
        p: 2,
      }}
    >
      {all.map((id) => (
        <Stack key={id} direction="row" sx={{ gap: 1.25, mb: 1 }}>
          <StateShape state={done(id) ? "clear" : "found"} size={26} />
          <Box sx={{ minWidth: 0, flex: 1 }}>
            {!done(id) && <FoundDrawn page={page} fault={id} words={words} />}
            <Typography variant="h2">{words.fault(id)}</Typography>
            {!done(id) && <Typography>{catalogue.faults.find((f) => f.id === id)?.remedy}</Typography>}
            <PutRight {...{ page, words, onKeep }} fault={id} />
          </Box>
        </Stack>
      ))}
      <Stack direction="row" sx={{ gap: 0.75, flexWrap: "wrap" }}>
        {page.state.open.map((o) => (
          <ChoiceButton
            key={o.id}
            onClick={() => onKeep({ kind: "access", access: o.id, open: false }, `${o.label}: closed up again`)}
          >
            {o.label}: closed up again
          </ChoiceButton>
        ))}
      </Stack>
      {all.every(done) && page.state.open.length === 0 ? (
        <Button variant="contained" sx={{ mt: 1 }} onClick={onStart}>
          To the start list
        </Button>
      ) : (
        <Typography variant="body2" sx={{ mt: 1 }}>
          Is more to come off for it? Begin its task: what comes off is counted.
        </Typography>
      )}
    </Box>
  );
}
