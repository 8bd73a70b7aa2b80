import { Button, Stack, TextField } from "@mui/material";
import { useState } from "react";

export function NotePad({ onKeep }: { onKeep: (words: string) => void }) {
  const [words, setWords] = useState("");
  return (
    <Stack
      component="form"
      direction="row"
      sx={{ gap: 1, alignItems: "flex-start" }}
      onSubmit={(e) => {
        e.preventDefault();
        if (!words.trim()) return;
        onKeep(words.trim());
        setWords("");
      }}
    >
      <TextField
        label="Note"
        multiline
        fullWidth
        value={words}
        onChange={(e) => setWords(e.target.value)}
        sx={{ bgcolor: "background.paper" }}
        slotProps={{ htmlInput: { maxLength: 4000 } }}
      />
      <Button type="submit" variant="contained" disabled={!words.trim()} sx={{ minHeight: 56 }}>
        Save
      </Button>
    </Stack>
  );
}
