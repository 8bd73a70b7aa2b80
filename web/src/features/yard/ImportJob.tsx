import { Alert, Button, Dialog, DialogActions, DialogContent, DialogTitle, Stack, Typography } from "@mui/material";
import { useState } from "react";
import { useNavigate } from "react-router";
import { Refused, importBundle, type Schemas } from "../../api/client";
import { useFresh } from "../../api/queries";
import { base64Of } from "../../api/outbox";
import { useNotice } from "../../ui/notices";
import { FileButton } from "../../ui/FileButton";
import { day } from "../../ui/words";

interface Looked {
  data: string;
  would: Schemas["BundleImported"];
}

/** A job's file is looked at first; only then is it taken in. */
export function ImportJob({ onClose }: { onClose: () => void }) {
  const [looked, setLooked] = useState<Looked>();
  const [refused, setRefused] = useState("");
  const [busy, setBusy] = useState(false);
  const { kept } = useNotice();
  const fresh = useFresh();
  const go = useNavigate();
  const ask = async (what: () => Promise<void>) => {
    setBusy(true);
    setRefused("");
    try {
      await what();
    } catch (e) {
      setRefused(e instanceof Refused ? e.message : "The program does not answer: try again.");
    }
    setBusy(false);
  };
  const look = (file: File) =>
    ask(async () => {
      setLooked(undefined);
      const data = await base64Of(file);
      setLooked({ data, would: await importBundle(data, true) });
    });
  const take = (l: Looked) =>
    ask(async () => {
      const taken = await importBundle(l.data, false);
      fresh();
      kept("Job taken in");
      onClose();
      void go(`/jobs/${taken.job_id}`);
    });
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm" aria-labelledby="take-title">
      <DialogTitle id="take-title" component="h2">
        Import a job
      </DialogTitle>
      <DialogContent>
        <Stack sx={{ gap: 2 }}>
          <Typography>
            From the file that another Hevrin wrote: its name ends in .hevrin.json. It is looked at first.
          </Typography>
          <FileButton
            name="Job's file"
            accept=".json,application/json"
            onFile={(file) => void look(file)}
            variant="outlined"
            sx={{ borderColor: "text.primary", color: "text.primary" }}
          >
            Choose the file
          </FileButton>
          {refused && (
            <Alert severity="error" icon={false}>
              {refused}
            </Alert>
          )}
          {looked && <Would would={looked.would} />}
        </Stack>
      </DialogContent>
      <DialogActions sx={{ p: 2 }}>
        <Button onClick={onClose}>Not now</Button>
        <Button variant="contained" disabled={!looked || busy} onClick={() => looked && void take(looked)}>
          {looked && nothingNew(looked.would) ? "Open it" : "Take it in"}
        </Button>
      </DialogActions>
    </Dialog>
  );
}

const nothingNew = (w: Schemas["BundleImported"]) => w.new_job + w.new_engine + w.new_craft === 0;

const count = (n: number, one: string, more = `${one}s`) => `${n} ${n === 1 ? one : more}`;

function Would({ would: w }: { would: Schemas["BundleImported"] }) {
  const news = [
    count(w.new_job, "entry of the job", "entries of the job"),
    w.photos > 0 && count(w.photos, "photo"),
    w.recordings > 0 && count(w.recordings, "recording"),
    w.new_craft > 0 && "and the craft",
    w.new_engine > 0 && "and the engine's record",
  ]
    .filter(Boolean)
    .join(", ");
  return (
    <Stack sx={{ gap: 0.5 }} role="status">
      <Typography variant="h2">
        {w.craft}, {w.engine}
      </Typography>
      <Typography>
        {w.words || "No words of complaint"}
        {w.opened && ` (${day(w.opened)})`}
      </Typography>
      <Typography sx={{ fontWeight: 700 }}>
        {nothingNew(w) ? "All of it is here already: nothing is added." : `New here: ${news}.`}
      </Typography>
      {w.kept.map((k) => (
        <Typography key={k}>{k.charAt(0).toUpperCase() + k.slice(1)}.</Typography>
      ))}
    </Stack>
  );
}
