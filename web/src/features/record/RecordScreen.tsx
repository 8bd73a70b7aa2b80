import { Alert, Box, Button, Stack, Typography } from "@mui/material";
import { useQueryClient } from "@tanstack/react-query";
import { useState, type ReactNode } from "react";
import { checkRecord, makeBackup, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";
import { useRecordHealth } from "../../api/queries";
import { Loaded } from "../../ui/Loaded";
import { useNotice } from "../../ui/notices";
import { recordTold } from "../../ui/recordTold";
import { useTitle } from "../../ui/title";
import { BackupList } from "./BackupList";
import { moment } from "./moment";
import { ChoiceButton } from "../../ui/ChoiceButton";

/** How the place where the record lies stands: whether it is sound, its backups, its disk, its clock. */
export function RecordScreen() {
  useTitle("The record");
  const health = useRecordHealth();
  return (
    <Box component="main" sx={{ maxWidth: 900, mx: "auto", px: { xs: 1.5, md: 3 }, py: 2.5 }}>
      <Typography variant="h1" sx={{ mb: 1.5 }}>
        The record
      </Typography>
      <Loaded query={health}>
        {(h) => (h.record ? <Standing health={h} record={h.record} /> : <>Nothing is told.</>)}
      </Loaded>
    </Box>
  );
}

type Act = "backup" | "check";

const acts: Record<Act, [() => Promise<Schemas["Health"]>, string]> = {
  backup: [makeBackup, "Backed up, and verified"],
  check: [checkRecord, "Read whole"],
};

function Standing({ health, record }: { health: Schemas["Health"]; record: Schemas["RecordHealth"] }) {
  const cache = useQueryClient();
  const { kept, failed } = useNotice();
  const [busy, setBusy] = useState<Act>();
  const run = async (act: Act) => {
    setBusy(act);
    const [does, said] = acts[act];
    try {
      const now = await does();
      cache.setQueryData(keys.health(), now);
      void cache.invalidateQueries({ queryKey: keys.backups() });
      if (!now.record?.trouble) kept(said);
    } catch (e) {
      failed(e);
    }
    setBusy(undefined);
  };
  const { backup } = record;
  return (
    <Stack sx={{ gap: 2.5 }}>
      {recordTold(record).map((t) => (
        <Alert key={t} severity="error">
          {t}
        </Alert>
      ))}
      <Part title="Backups">
        <Line name="Last good one">
          {backup.last ? moment(backup.last) : "none yet"}
          {backup.old && <strong>: make one now</strong>}
        </Line>
        {record.second_copy && (
          <Line name="Second copy">
            {record.second_copy.folder}, {record.second_copy.last ? moment(record.second_copy.last) : "not yet"}
          </Line>
        )}
        <Line name="Where">{backup.folder || "this program makes none by itself"}</Line>
        <Typography variant="body2" sx={{ color: "text.secondary" }}>
          One a day by itself, each verified; of the last seven days, four weeks and twelve months the newest of each
          stays. On another disk they outlive this one: <code>hevrin serve --backups FOLDER</code>. One that lies
          elsewhere is gone back to with <code>hevrin restore FILE</code>, while Hevrin is stopped.
        </Typography>
        <Stack direction="row" sx={{ gap: 1, flexWrap: "wrap", mt: 1 }}>
          <Button variant="contained" disabled={!!busy || !backup.folder} onClick={() => void run("backup")}>
            {busy === "backup" ? "Being made" : "Back up now"}
          </Button>
          <Button href="/api/v1/backup" download variant="choice">
            Download a copy
          </Button>
        </Stack>
        <BackupList atStart={backup.at_start} />
      </Part>
      <Part title="Is it sound?">
        <Line name="As last read">
          {record.trouble ? "not as it should be" : "sound"}
          {record.checked && `, ${record.whole ? "the whole of it" : "its outline"}, ${moment(record.checked)}`}
        </Line>
        <Typography variant="body2" sx={{ color: "text.secondary" }}>
          Its outline is read at each start, the whole of it once a week. Every entry carries a hash of all before it:
          reading the whole follows them, and names any past entry that was changed, dropped, added or moved.
        </Typography>
        <ChoiceButton disabled={!!busy} onClick={() => void run("check")} sx={{ mt: 1 }}>
          {busy === "check" ? "Being read" : "Read the whole of it now"}
        </ChoiceButton>
      </Part>
      <Part title="Where it lies">
        <Line name="Folder">{record.folder}</Line>
        <Line name="Room on its disk">{record.free_mb < 0 ? "not known" : room(record.free_mb)}</Line>
        <Line name="Newest entry">{record.newest ? moment(record.newest) : "none yet"}</Line>
        <Line name="Waiting to be written">{record.waiting}</Line>
        <Line name="Version">
          Hevrin {health.version}, catalogue {health.catalogue}
        </Line>
      </Part>
    </Stack>
  );
}

const room = (mb: number) => (mb >= 10_000 ? `${Math.round(mb / 1000)} GB` : `${mb} MB`);

function Part({ title, children }: { title: string; children: ReactNode }) {
  return (
    <Box component="section" aria-label={title} sx={{ borderTop: 2, borderColor: "text.primary", pt: 1 }}>
      <Typography variant="h2" sx={{ mb: 0.5 }}>
        {title}
      </Typography>
      {children}
    </Box>
  );
}

function Line({ name, children }: { name: string; children: ReactNode }) {
  return (
    <Stack direction="row" sx={{ gap: 1.5, py: 0.25 }}>
      <Typography sx={{ width: 170, flex: "none", color: "text.secondary" }}>{name}</Typography>
      <Typography sx={{ overflowWrap: "anywhere", minWidth: 0 }}>{children}</Typography>
    </Stack>
  );
}
