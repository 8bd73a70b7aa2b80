import {
  Alert,
  Autocomplete,
  Button,
  Dialog,
  DialogActions,
  DialogContent,
  DialogTitle,
  Stack,
  TextField,
} from "@mui/material";
import { useState } from "react";
import type { Schemas } from "../../api/client";
import { useTry } from "../../ui/refusals";
import { RoleChoice } from "./RoleChoice";

interface Props {
  person: Schemas["Person"];
  roles: Schemas["RoleDescription"][];
  /** Names in the record that are nobody's yet. */
  names: string[];
  onSave: (to: Schemas["PersonChange"]) => Promise<void>;
  onClose: () => void;
}

/** Changes what somebody is called and does, which earlier names are theirs, and whether they work here. */
export function PersonDialog({ person, roles, names, onSave, onClose }: Props) {
  const [name, setName] = useState(person.name);
  const [role, setRole] = useState(person.role);
  const [was, setWas] = useState(person.was ?? []);
  const { refused, busy, attempt } = useTry();
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm" aria-labelledby="person-title">
      <DialogTitle id="person-title" component="h2">
        {person.name}
      </DialogTitle>
      <DialogContent>
        <Stack sx={{ gap: 2, pt: 1 }}>
          <TextField
            label="Name"
            value={name}
            onChange={(e) => setName(e.target.value)}
            slotProps={{ htmlInput: { maxLength: 80 } }}
          />
          <RoleChoice roles={roles} value={role} onChange={setRole} />
          <Autocomplete
            multiple
            options={names}
            value={was}
            onChange={(_, list) => setWas(list)}
            renderInput={(p) => (
              <TextField {...p} label="Earlier names" helperText="What stands under these in the record is theirs." />
            )}
          />
          {refused && <Alert severity="error">{refused}</Alert>}
        </Stack>
      </DialogContent>
      <DialogActions sx={{ p: 2 }}>
        <Button disabled={busy} onClick={() => void attempt(() => onSave({ off: !person.off }))} sx={{ mr: "auto" }}>
          {person.off ? "Switch on again" : "Switch off"}
        </Button>
        <Button onClick={onClose}>Not now</Button>
        <Button
          variant="contained"
          disabled={busy || !name.trim()}
          onClick={() => void attempt(() => onSave({ name: name.trim(), role, was }))}
        >
          Save
        </Button>
      </DialogActions>
    </Dialog>
  );
}
