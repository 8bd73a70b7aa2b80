import {
  Alert,
  Box,
  Button,
  Dialog,
  DialogActions,
  DialogContent,
  DialogTitle,
  Stack,
  Typography,
} from "@mui/material";
import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { checkBackup, restoreAtStart, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";
import { useBackups } from "../../api/queries";
import { useNotice } from "../../ui/notices";
import { size } from "../../ui/words";
import { moment } from "./moment";
import { ChoiceButton } from "../../ui/ChoiceButton";

type Backup = Schemas["Backup"];

/** How many stand open before the rest is asked for. */
const few = 3;

/** The backups that the program made: each can be read whole, or gone back to at the next start. */
export function BackupList({ atStart }: { atStart?: string }) {
  const list = useBackups().data?.backups ?? [];
  const [all, setAll] = useState(false);
  const [asked, setAsked] = useState<Backup>();
  const { busy, verify, back } = useBackupActs();
  const chosen = list.find((b) => b.name === atStart);
  return (
    <Box role="group" aria-label="Backups that were made" sx={{ mt: 1.5 }}>
      {atStart && (
        <Alert severity="warning">
          At the next start the record goes back to {chosen ? moment(chosen.made) : atStart}. Stop Hevrin and start it
          again; what is on record now is kept beside.
          <br />
          <Button color="inherit" variant="outlined" onClick={() => void back()} sx={{ mt: 1 }}>
            Stay as it is
          </Button>
        </Alert>
      )}
      {list.slice(0, all ? undefined : few).map((b) => (
        <Stack
          key={b.name}
          direction="row"
          sx={{ gap: 1, borderTop: 1, borderColor: "divider", py: 0.75, alignItems: "center", flexWrap: "wrap" }}
        >
          <Box sx={{ flex: "1 1 220px", minWidth: 0 }}>
            <Typography>{moment(b.made)}</Typography>
            <Typography variant="body2" sx={{ color: "text.secondary" }}>
              {b.craft} craft, {b.engines} engines, {b.jobs} jobs, {b.entries} entries; {size(b.bytes)}
            </Typography>
          </Box>
          <Button disabled={busy !== ""} onClick={() => void verify(b)}>
            {busy === b.name ? "Being read" : "Verify"}
          </Button>
          <ChoiceButton disabled={busy !== "" || b.name === atStart} onClick={() => setAsked(b)}>
            Go back to it
          </ChoiceButton>
        </Stack>
      ))}
      {list.length > few && !all && <Button onClick={() => setAll(true)}>All {list.length} backups</Button>}
      {asked && (
        <GoBack
          backup={asked}
          onClose={() => setAsked(undefined)}
          onGo={() => {
            setAsked(undefined);
            void back(asked);
          }}
        />
      )}
    </Box>
  );
}

/** Reads a backup whole, and says to which one the record is to go back. */
function useBackupActs() {
  const cache = useQueryClient();
  const [busy, setBusy] = useState("");
  const { kept, failed } = useNotice();
  const ask = async (name: string, what: () => Promise<string>) => {
    setBusy(name);
    try {
      kept(await what());
    } catch (e) {
      failed(e);
    }
    setBusy("");
  };
  return {
    busy,
    verify: (b: Backup) =>
      ask(b.name, async () => {
        await checkBackup(b.name);
        return `Sound: ${moment(b.made)}`;
      }),
    /** Without a backup the record stays as it is. */
    back: (b?: Backup) =>
      ask(b?.name ?? "none", async () => {
        cache.setQueryData(keys.health(), await restoreAtStart(b?.name));
        return b ? "Verified: it takes its place at the next start" : "The record stays as it is";
      }),
  };
}

function GoBack(p: { backup: Backup; onClose: () => void; onGo: () => void }) {
  return (
    <Dialog open onClose={p.onClose} fullWidth maxWidth="xs" aria-labelledby="goback-title">
      <DialogTitle id="goback-title" component="h2">
        Go back to {moment(p.backup.made)}?
      </DialogTitle>
      <DialogContent>
        <Typography>
          It is verified now, and takes the record&apos;s place when Hevrin is started next. What was noted since is not
          in it; the record of now is kept in a folder beside, whole.
        </Typography>
      </DialogContent>
      <DialogActions sx={{ p: 2 }}>
        <Button onClick={p.onClose}>Not now</Button>
        <Button variant="contained" onClick={p.onGo}>
          Go back at the next start
        </Button>
      </DialogActions>
    </Dialog>
  );
}
