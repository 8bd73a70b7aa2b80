import { Button, Dialog, DialogActions, DialogContent, DialogTitle, Stack, Typography } from "@mui/material";
import { outbox, type Letter } from "../api/outbox";

/** What waits and what stepped aside, each to be sent again or dropped. */
export function WaitingDialog({
  waiting,
  aside,
  onClose,
}: {
  waiting: Letter[];
  aside: Letter[];
  onClose: () => void;
}) {
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm" aria-labelledby="waiting-title">
      <DialogTitle id="waiting-title" component="h2">
        Not sent yet
      </DialogTitle>
      <DialogContent>
        {aside.map((l) => (
          <Stack key={l.id} role="group" aria-label={l.label} sx={{ py: 1, borderBottom: 1, borderColor: "divider" }}>
            <Typography sx={{ fontWeight: 650 }}>{l.label}</Typography>
            <Typography sx={{ color: "error.main" }}>{l.aside}</Typography>
            <Stack direction="row" sx={{ gap: 1, mt: 0.5 }}>
              <Button variant="choice" onClick={() => void outbox.again(l.id)}>
                Send again
              </Button>
              <Button variant="choice" onClick={() => void outbox.drop(l.id)}>
                Drop
              </Button>
            </Stack>
          </Stack>
        ))}
        {waiting.map((l) => (
          <Typography key={l.id} sx={{ py: 1, borderBottom: 1, borderColor: "divider" }}>
            {l.label}: waits
          </Typography>
        ))}
        {aside.length + waiting.length === 0 && <Typography>Everything is saved.</Typography>}
      </DialogContent>
      <DialogActions sx={{ p: 2 }}>
        <Button onClick={() => outbox.hurry()}>Try now</Button>
        <Button variant="contained" onClick={onClose}>
          Close
        </Button>
      </DialogActions>
    </Dialog>
  );
}
