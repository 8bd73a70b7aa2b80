import { newID } from "../../api/ids";
import { Button, Dialog, DialogActions, DialogContent, DialogTitle, Stack, TextField } from "@mui/material";
import { useState } from "react";
import { getCraft, type Schemas } from "../../api/client";
import { useSave } from "../../api/writes";
import { writer } from "../../api/writer";
import { CrossedDialog, isCrossed, type Crossing } from "../../ui/Crossed";
import { useNotice } from "../../ui/notices";
import { useWriter } from "../../ui/Shell";

const fields = [
  ["name", "Name of the craft", 80],
  ["owner", "Owner", 80],
  ["berth", "Berth", 80],
  ["note", "Note", 4000],
] as const;

/** Adds a craft or changes it. */
export function CraftForm({ craft, onClose }: { craft?: Schemas["Craft"]; onClose: () => void }) {
  const known = useWriter();
  const [who, setWho] = useState(known);
  const [facts, setFacts] = useState(() => factsOf(craft));
  const { keep, crossed, busy } = useCraftSave(craft, facts, who, onClose);
  if (crossed) return crossed;
  const field = (key: keyof typeof facts, label: string, most: number) => (
    <TextField
      key={key}
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
            {fields.map(([key, label, most]) => field(key, label, most))}
          </Stack>
        </DialogContent>
        <DialogActions sx={{ p: 2 }}>
          {craft && (
            <Button onClick={() => void keep(!craft.archived)} disabled={busy} sx={{ mr: "auto" }}>
              {craft.archived ? "Out of the archive" : "Archive"}
            </Button>
          )}
          <Button onClick={onClose}>Cancel</Button>
          <Button variant="contained" type="submit" disabled={busy || !facts.name.trim() || !who.trim()}>
            Save
          </Button>
        </DialogActions>
      </form>
    </Dialog>
  );
}

const factsOf = (craft?: Schemas["Craft"]): CraftFacts => ({
  name: craft?.name ?? "",
  owner: craft?.owner ?? "",
  berth: craft?.berth ?? "",
  note: craft?.note ?? "",
});

type CraftFacts = Record<(typeof fields)[number][0], string>;

/** Saves a craft; where somebody else saved in between, both are shown. */
function useCraftSave(craft: Schemas["Craft"] | undefined, facts: CraftFacts, who: string, onClose: () => void) {
  const { saveCraft } = useSave();
  const { kept, failed } = useNotice();
  const [seen] = useState(craft?.saved); // as it was opened: it may change under the form
  const [crossing, setCrossing] = useState<Crossing<Schemas["Craft"]>>();
  const [busy, setBusy] = useState(false); // without a link it waits: a second touch must not save a second one
  const keep = async (archived = craft?.archived ?? false, instead = seen) => {
    writer.set(who);
    setBusy(true);
    const mine = {
      ...facts,
      name: facts.name.trim(),
      ...(archived && { archived }),
      ...(instead && { seen: instead }),
    };
    try {
      await saveCraft(craft?.id ?? newID(), mine);
      kept(`Saved: ${facts.name}`);
      onClose();
    } catch (e) {
      if (craft && isCrossed(e)) setCrossing({ say: e.message, theirs: (await getCraft(craft.id)).craft });
      else failed(e);
    }
    setBusy(false);
  };
  const crossed = crossing && (
    <CrossedDialog
      say={crossing.say}
      facts={fields.map(([key, label]) => ({ label, theirs: crossing.theirs[key], mine: facts[key] }))}
      onMine={() => void keep(craft?.archived, crossing.theirs.saved)}
      onTheirs={onClose}
    />
  );
  return { keep, crossed, busy };
}
