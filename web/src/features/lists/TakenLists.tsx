import { Box, Button, Dialog, DialogActions, DialogContent, DialogTitle, Stack, Typography } from "@mui/material";
import { useState } from "react";
import { takeListBack, type Schemas } from "../../api/client";
import { newID } from "../../api/ids";
import { useFresh } from "../../api/queries";
import { useNotice } from "../../ui/notices";
import { useWriter } from "../../ui/Shell";
import { WhoDialog } from "../../ui/WhoDialog";
import { day } from "../../ui/words";
import { countWords } from "./counts";
import { ChoiceButton } from "../../ui/ChoiceButton";

type Taken = Schemas["ListTaken"];

/** The lists that were brought in, the newest first; each can be taken back as one. */
export function TakenLists({ lists }: { lists: Schemas["Lists"] }) {
  const [asked, setAsked] = useState<Taken>();
  const label = (t: Taken) => lists.kinds.find((k) => k.id === t.kind)?.label ?? t.kind;
  if (lists.taken.length === 0) return null;
  return (
    <Box component="section" aria-label="Brought in">
      <Typography variant="h2">Brought in</Typography>
      {lists.taken.map((t) => (
        <Stack
          key={t.id}
          direction="row"
          sx={{ gap: 1.5, borderTop: 1, borderColor: "divider", py: 0.75, alignItems: "center", flexWrap: "wrap" }}
        >
          <Box sx={{ flex: "1 1 240px", minWidth: 0 }}>
            <Typography sx={{ overflowWrap: "anywhere", textDecoration: t.undone ? "line-through" : "none" }}>
              {t.name}
            </Typography>
            <Typography variant="body2" sx={{ color: "text.secondary" }}>
              {label(t)}: {countWords(t.counts)}. {t.by}, {day(t.at)}
              {t.undone && ". Taken back"}
            </Typography>
          </Box>
          {!t.undone && <ChoiceButton onClick={() => setAsked(t)}>Take back</ChoiceButton>}
        </Stack>
      ))}
      {asked && <TakeBack list={asked} onClose={() => setAsked(undefined)} />}
    </Box>
  );
}

function TakeBack({ list, onClose }: { list: Taken; onClose: () => void }) {
  const [entry] = useState(newID);
  const [busy, setBusy] = useState(false);
  const by = useWriter();
  const fresh = useFresh();
  const { kept, failed } = useNotice();
  if (!by) return <WhoDialog onClose={onClose} />;
  const take = async () => {
    setBusy(true);
    try {
      await takeListBack(list.id, entry, { by, undoes: list.id });
      fresh();
      kept("Taken back");
    } catch (e) {
      failed(e);
    }
    onClose();
  };
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="xs" aria-labelledby="back-title">
      <DialogTitle id="back-title" component="h2">
        Take {list.name} back?
      </DialogTitle>
      <DialogContent>
        <Typography>
          What it brought goes off the lists: {countWords(list.counts)}. Where something was done with it since, it is
          refused and stays.
        </Typography>
      </DialogContent>
      <DialogActions sx={{ p: 2 }}>
        <Button onClick={onClose}>Not now</Button>
        <Button variant="contained" disabled={busy} onClick={() => void take()}>
          Take back
        </Button>
      </DialogActions>
    </Dialog>
  );
}
