import {
  Alert,
  Button,
  Dialog,
  DialogActions,
  DialogContent,
  DialogTitle,
  Stack,
  TextField,
  Typography,
} from "@mui/material";
import { useState } from "react";
import { Refused, type JobPage } from "../../api/client";
import { useSave } from "../../api/writes";
import { useNotice } from "../../ui/notices";
import { when } from "../../ui/words";
import { ChoiceButton } from "../../ui/ChoiceButton";

/** Makes rounds of a job, read in health, the engine's own standard; one that looks like a fault needs a reason. */
export function SaveBaseline({ page, onClose }: { page: JobPage; onClose: () => void }) {
  const { saveBaseline, undo } = useSave();
  const { kept, failed } = useNotice();
  const [chosen, setChosen] = useState(() => page.rounds.slice(-1).map((r) => r.entry_id));
  const [words, setWords] = useState("");
  const [refused, setRefused] = useState<string>();
  const toggle = (id: string) => setChosen((was) => (was.includes(id) ? was.filter((x) => x !== id) : [...was, id]));
  const keep = async () => {
    try {
      const entry = await saveBaseline(page.engine.id, page.card.id, chosen, words.trim());
      kept("Healthy baseline from now on", () => void undo(entry).then(() => kept("Taken back"), failed));
      onClose();
    } catch (e) {
      if (e instanceof Refused) setRefused(e.problem.errors?.[0]?.say ?? e.problem.detail);
      else failed(e);
    }
  };
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm" aria-labelledby="standard-title">
      <DialogTitle id="standard-title" component="h2">
        Healthy baseline
      </DialogTitle>
      <DialogContent>
        <Stack sx={{ gap: 1.5 }}>
          <Typography>
            Read in health, after a good run. From then on what it should read comes from itself, and smaller changes
            show. A round at idle and one near full speed tell most together.
          </Typography>
          {page.engine.baseline && (
            <Typography>This takes the place of the one of {when(page.engine.baseline.at)}.</Typography>
          )}
          {page.rounds.map((r) => (
            <ChoiceButton
              key={r.entry_id}
              aria-pressed={chosen.includes(r.entry_id)}
              onClick={() => toggle(r.entry_id)}
              data-on={chosen.includes(r.entry_id)}
              sx={{ justifyContent: "flex-start", textAlign: "left" }}
            >
              {r.round.operation.rpm} rev/min, {r.round.readings.length} readings, {when(r.at)}
            </ChoiceButton>
          ))}
          {refused && <Alert severity="warning">{refused}</Alert>}
          {refused && (
            <TextField label="Why it is well all the same" value={words} onChange={(e) => setWords(e.target.value)} />
          )}
        </Stack>
      </DialogContent>
      <DialogActions sx={{ p: 2 }}>
        <Button onClick={onClose}>Cancel</Button>
        <Button
          variant="contained"
          onClick={() => void keep()}
          disabled={chosen.length === 0 || (refused !== undefined && words.trim() === "")}
        >
          Save the baseline
        </Button>
      </DialogActions>
    </Dialog>
  );
}
