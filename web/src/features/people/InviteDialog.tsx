import { Alert, Button, Dialog, DialogActions, DialogContent, DialogTitle, Stack, TextField } from "@mui/material";
import { useState } from "react";
import type { Schemas } from "../../api/client";
import { useTry } from "../../ui/refusals";
import { RoleChoice } from "./RoleChoice";

interface Props {
  roles: Schemas["RoleDescription"][];
  onInvite: (body: Schemas["PersonInvited"]) => Promise<void>;
  onClose: () => void;
}

/** Puts somebody on the list: their name, and what they do. */
export function InviteDialog({ roles, onInvite, onClose }: Props) {
  const [name, setName] = useState("");
  const [role, setRole] = useState<Schemas["Role"]>();
  const { refused, busy, attempt } = useTry();
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm" aria-labelledby="invite-title">
      <form
        onSubmit={(e) => {
          e.preventDefault();
          if (role) void attempt(() => onInvite({ name: name.trim(), role }));
        }}
      >
        <DialogTitle id="invite-title" component="h2">
          Invite somebody
        </DialogTitle>
        <DialogContent>
          <Stack sx={{ gap: 2, pt: 1 }}>
            <TextField
              label="Name"
              value={name}
              onChange={(e) => setName(e.target.value)}
              required
              autoFocus
              helperText="As it stands beside what they note."
              slotProps={{ htmlInput: { maxLength: 80 } }}
            />
            <RoleChoice roles={roles} value={role} onChange={setRole} />
            {refused && <Alert severity="error">{refused}</Alert>}
          </Stack>
        </DialogContent>
        <DialogActions sx={{ p: 2 }}>
          <Button onClick={onClose}>Not now</Button>
          <Button variant="contained" type="submit" disabled={busy || !name.trim() || !role}>
            Make the invitation
          </Button>
        </DialogActions>
      </form>
    </Dialog>
  );
}
