import { Button, Dialog, DialogActions, DialogContent, DialogTitle, Typography } from "@mui/material";
import { Link } from "react-router";
import type { Letter } from "../api/letters";
import { outbox } from "../api/outbox";
import { LetterRow } from "./LetterRow";
import { thisDevice } from "./thisDevice";

/** What waits and what stepped aside, each to be sent again or dropped. */
export function WaitingDialog({
  waiting,
  aside,
  unkept,
  onClose,
}: {
  waiting: Letter[];
  aside: Letter[];
  unkept: string[];
  onClose: () => void;
}) {
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm" aria-labelledby="waiting-title">
      <DialogTitle id="waiting-title" component="h2">
        Not sent yet
      </DialogTitle>
      <DialogContent>
        {[...aside, ...waiting].map((l) => (
          <LetterRow key={l.id} letter={l} kept={!unkept.includes(l.id)} onOpen={onClose} />
        ))}
        {aside.length + waiting.length === 0 && <Typography>Everything is saved.</Typography>}
      </DialogContent>
      <DialogActions sx={{ p: 2 }}>
        <Button component={Link} to="/device" onClick={onClose} sx={{ mr: "auto" }}>
          On {thisDevice()}
        </Button>
        <Button onClick={() => outbox.hurry()}>Try now</Button>
        <Button variant="contained" onClick={onClose}>
          Close
        </Button>
      </DialogActions>
    </Dialog>
  );
}
