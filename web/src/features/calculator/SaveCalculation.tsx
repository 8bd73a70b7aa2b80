import { Button, Dialog, DialogActions, DialogContent, DialogTitle, Stack, TextField, Typography } from "@mui/material";
import { useState } from "react";
import type { Schemas, UnitSystem } from "../../api/client";
import { useYard } from "../../api/queries";
import { useSave } from "../../api/writes";
import { useNotice } from "../../ui/notices";
import { useWriter } from "../../ui/Shell";
import { WhoDialog } from "../../ui/WhoDialog";
import { ChoiceButton } from "../../ui/ChoiceButton";

interface Open {
  id: string;
  label: string;
  about: string;
}

const openJobs = (yard: Schemas["Yard"] | undefined): Open[] =>
  (yard?.craft ?? []).flatMap((c) =>
    c.engines.flatMap((e) =>
      e.jobs
        .filter((j) => !j.closed)
        .map((j) => ({ id: j.id, label: `${c.craft.name}, ${e.engine.name}`, about: j.words ?? "" })),
    ),
  );

/** Keeps a calculator, as it was given, in a job that is open. */
export function SaveCalculation(p: {
  name: string;
  given: Record<string, unknown>;
  units: UnitSystem;
  job?: string;
  onClose: () => void;
}) {
  const jobs = openJobs(useYard().data);
  const { noteInJob, undo } = useSave();
  const { kept, failed } = useNotice();
  const writer = useWriter();
  const [job, setJob] = useState(p.job ?? "");
  const [words, setWords] = useState("");
  if (!writer) return <WhoDialog onClose={p.onClose} />;
  const keep = () => {
    const entry = {
      kind: "sum" as const,
      sum: { name: p.name, given: p.given, units: p.units },
      words: words.trim() || undefined,
    };
    noteInJob(job, entry, "Calculation saved").then(
      (id) =>
        kept(
          `Kept with ${jobs.find((j) => j.id === job)?.label ?? "the job"}`,
          () => void undo(id).then(() => kept("Taken back"), failed),
        ),
      failed,
    );
    p.onClose();
  };
  return (
    <Dialog open onClose={p.onClose} fullWidth maxWidth="sm" aria-labelledby="keep-title">
      <DialogTitle id="keep-title" component="h2">
        Save it in which job?
      </DialogTitle>
      <DialogContent>
        {jobs.length === 0 && (
          <Typography>No job is open. Start one from the yard; what you typed here stays.</Typography>
        )}
        <Stack sx={{ gap: 1 }} role="group" aria-label="Open jobs">
          {jobs.map((j) => (
            <ChoiceButton
              key={j.id}
              aria-pressed={job === j.id}
              onClick={() => setJob(j.id)}
              data-on={job === j.id}
              sx={{ display: "block", textAlign: "left" }}
            >
              {j.label}
              <Typography component="span" variant="body2" sx={{ display: "block" }} noWrap>
                {j.about}
              </Typography>
            </ChoiceButton>
          ))}
          <TextField
            label="A word with it"
            placeholder="At 2400, warm"
            value={words}
            onChange={(e) => setWords(e.target.value)}
            sx={{ mt: 1 }}
            slotProps={{ htmlInput: { maxLength: 4000 } }}
          />
        </Stack>
      </DialogContent>
      <DialogActions sx={{ p: 2 }}>
        <Button onClick={p.onClose}>Not now</Button>
        <Button variant="contained" onClick={keep} disabled={!job}>
          Save it
        </Button>
      </DialogActions>
    </Dialog>
  );
}
