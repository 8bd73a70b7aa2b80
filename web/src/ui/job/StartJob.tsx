import { Button, Dialog, DialogActions, DialogContent, DialogTitle, Stack, TextField, Typography } from "@mui/material";
import { useState } from "react";
import { useNavigate } from "react-router";
import type { Schemas } from "../../api/client";
import { useSave } from "../../api/writes";
import { writer } from "../../api/writer";
import { useNotice } from "../notices";
import { useWriter } from "../Shell";

/** Starts a job: the complaint as it was told, in a line or two; the taps come on the job's own screen. */
export function StartJob({
  engine,
  craft,
  onClose,
}: {
  engine: Schemas["Engine"];
  craft: string;
  onClose: () => void;
}) {
  const { startJob } = useSave();
  const { failed } = useNotice();
  const navigate = useNavigate();
  const known = useWriter();
  const [name, setName] = useState(known);
  const [told, setTold] = useState("");
  const [busy, setBusy] = useState(false);
  const start = async () => {
    setBusy(true);
    writer.set(name);
    try {
      await navigate(`/jobs/${await startJob(engine.id, told.trim())}`);
    } catch (e) {
      failed(e);
      setBusy(false);
    }
  };
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm" aria-labelledby="start-title">
      <form
        onSubmit={(e) => {
          e.preventDefault();
          void start();
        }}
      >
        <DialogTitle id="start-title" component="h2">
          {craft}, {engine.name}
        </DialogTitle>
        <DialogContent>
          <Stack sx={{ gap: 2, pt: 1 }}>
            {known === "" && (
              <TextField
                label="Your name"
                value={name}
                onChange={(e) => setName(e.target.value)}
                required
                helperText="Stands beside everything you note."
              />
            )}
            <TextField
              label="Owner's complaint"
              multiline
              minRows={2}
              value={told}
              onChange={(e) => setTold(e.target.value)}
              autoFocus
              slotProps={{ htmlInput: { maxLength: 4000 } }}
            />
            <Typography variant="body2">In their own words, or nothing. What is seen is tapped next.</Typography>
          </Stack>
        </DialogContent>
        <DialogActions sx={{ p: 2 }}>
          <Button onClick={onClose}>Not now</Button>
          <Button variant="contained" type="submit" disabled={busy || !name.trim()}>
            {busy ? "Starting, waiting for the link" : "Start the job"}
          </Button>
        </DialogActions>
      </form>
    </Dialog>
  );
}
