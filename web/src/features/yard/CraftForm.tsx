import { newID } from "../../api/ids";
import { Button, Dialog, DialogActions, DialogContent, DialogTitle, Stack, TextField } from "@mui/material";
import { useState } from "react";
import type { Schemas } from "../../api/client";
import { useSave } from "../../api/writes";
import { writer } from "../../api/writer";
import { useNotice } from "../../ui/notices";
import { useWriter } from "../../ui/Shell";

/** Adds a craft or changes it. */
export function CraftForm({ craft, onClose }: { craft?: Schemas["Craft"]; onClose: () => void }) {
  const { saveCraft } = useSave();
  const { kept, failed } = useNotice();
  const known = useWriter();
  const [who, setWho] = useState(known);
  const [facts, setFacts] = useState({
    name: craft?.name ?? "",
    owner: craft?.owner ?? "",
    berth: craft?.berth ?? "",
    note: craft?.note ?? "",
  });
  const keep = async (archived = craft?.archived ?? false) => {
    writer.set(who);
    onClose();
    try {
      await saveCraft(craft?.id ?? newID(), { ...facts, name: facts.name.trim(), ...(archived && { archived }) });
      kept(`Saved: ${facts.name}`);
    } catch (e) {
      failed(e);
    }
  };
  const field = (key: keyof typeof facts, label: string, most: number) => (
    <TextField
      label={label}
      value={facts[key]}
      onChange={(e) => setFacts({ ...facts, [key]: e.target.value })}
      multiline={key === "note"}
      required={key === "name"}
      autoFocus={key === "name"}
      slotProps={{ htmlInput: { maxLength: most } }}
    />
  );
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm" aria-labelledby="craft-title">
      <form
        onSubmit={(e) => {
          e.preventDefault();
          void keep();
        }}
      >
        <DialogTitle id="craft-title" component="h2">
          {craft ? craft.name : "A new craft"}
        </DialogTitle>
        <DialogContent>
          <Stack sx={{ gap: 2, pt: 1 }}>
            {known === "" && (
              <TextField
                label="Your name"
                value={who}
                onChange={(e) => setWho(e.target.value)}
                required
                helperText="Stands beside everything you note."
              />
            )}
            {field("name", "Name of the craft", 80)}
            {field("owner", "Owner", 80)}
            {field("berth", "Berth", 80)}
            {field("note", "Note", 4000)}
          </Stack>
        </DialogContent>
        <DialogActions sx={{ p: 2 }}>
          {craft && (
            <Button onClick={() => void keep(!craft.archived)} sx={{ mr: "auto" }}>
              {craft.archived ? "Out of the archive" : "Archive"}
            </Button>
          )}
          <Button onClick={onClose}>Cancel</Button>
          <Button variant="contained" type="submit" disabled={!facts.name.trim() || !who.trim()}>
            Save
          </Button>
        </DialogActions>
      </form>
    </Dialog>
  );
}
