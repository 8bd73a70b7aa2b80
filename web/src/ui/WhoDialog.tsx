import { Button, Dialog, DialogActions, DialogContent, DialogTitle, Stack, TextField, Typography } from "@mui/material";
import { useState } from "react";
import { Link } from "react-router";
import { writer } from "../api/writer";
import { UnitChoice } from "./UnitChoice";
import { chooseSystem, chosenSystem, systemByLocale } from "./unitSystem";
import { thisDevice } from "./thisDevice";

/** Asks for the name that stands beside everything noted on this device, and for the units that it speaks in. */
export function WhoDialog({ onClose }: { onClose: () => void }) {
  const [name, setName] = useState(writer.snapshot());
  const keep = () => {
    writer.set(name);
    chooseSystem(chosenSystem() ?? systemByLocale());
    onClose();
  };
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="xs" aria-labelledby="who-title">
      <form
        onSubmit={(e) => {
          e.preventDefault();
          if (name.trim()) keep();
        }}
      >
        <DialogTitle id="who-title" component="h2">
          Who uses this device?
        </DialogTitle>
        <DialogContent>
          <Stack sx={{ gap: 2, pt: 1 }}>
            <Typography>Your name stands beside everything that you note.</Typography>
            <TextField
              label="Name"
              value={name}
              onChange={(e) => setName(e.target.value)}
              autoFocus
              slotProps={{ htmlInput: { maxLength: 80 } }}
            />
            <Typography>Units, in every sentence, field and paper:</Typography>
            <UnitChoice />
            <Button component={Link} to="/device" onClick={onClose} sx={{ alignSelf: "flex-start", px: 0 }}>
              On {thisDevice()}: boats and what waits
            </Button>
          </Stack>
        </DialogContent>
        <DialogActions sx={{ p: 2 }}>
          <Button onClick={onClose}>Not now</Button>
          <Button variant="contained" type="submit" disabled={!name.trim()}>
            That is me
          </Button>
        </DialogActions>
      </form>
    </Dialog>
  );
}
