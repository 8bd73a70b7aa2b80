import { Button, Stack, TextField, Typography } from "@mui/material";
import { useState } from "react";
import { Link } from "react-router";
import type { JobPage } from "../../api/client";
import { useSave } from "../../api/writes";
import { useNotice } from "../../ui/notices";
import { ChoiceButton } from "../../ui/ChoiceButton";

/** A hot engine was begun without a name: asked for here, when there is a hand free. */
export function NameIt({ page }: { page: JobPage }) {
  const { saveCraft } = useSave();
  const { kept, failed } = useNotice();
  const [open, setOpen] = useState(false);
  const [name, setName] = useState("");
  if (!open)
    return (
      <Stack direction="row" sx={{ gap: 1, flexWrap: "wrap", mt: 0.5 }}>
        <ChoiceButton onClick={() => setOpen(true)}>Name this craft</ChoiceButton>
        <Button component={Link} to={`/engines/${page.engine.id}`} sx={{ display: { xs: "none", sm: "inline-flex" } }}>
          Its engine&rsquo;s facts
        </Button>
      </Stack>
    );
  const { id, owner, berth, note } = page.craft;
  return (
    <Stack
      component="form"
      direction="row"
      sx={{ gap: 1, alignItems: "center", flexWrap: "wrap", mt: 1 }}
      onSubmit={(e) => {
        e.preventDefault();
        saveCraft(id, { name: name.trim(), owner, berth, note }).then(() => kept(`Named: ${name.trim()}`), failed);
      }}
    >
      <TextField
        label="Name of the craft"
        value={name}
        onChange={(e) => setName(e.target.value)}
        autoFocus
        slotProps={{ htmlInput: { maxLength: 80 } }}
        sx={{ bgcolor: "background.paper" }}
      />
      <Button variant="contained" type="submit" disabled={!name.trim()}>
        Save
      </Button>
      <Typography variant="body2">Owner, berth and the engine&rsquo;s facts can follow later.</Typography>
    </Stack>
  );
}
