import { Button, Stack, TextField } from "@mui/material";
import { useUnkept } from "../../ui/unkept";

export function NotePad({ job, onKeep }: { job: string; onKeep: (words: string) => void }) {
  const [{ words }, setDraft, forget] = useUnkept(job, "A note", { words: "" });
  return (
    <Stack
      component="form"
      direction="row"
      sx={{ gap: 1, alignItems: "flex-start" }}
      onSubmit={(e) => {
        e.preventDefault();
        if (!words.trim()) return;
        onKeep(words.trim());
        setDraft({ words: "" });
        forget();
      }}
    >
      <TextField
        label="Note"
        multiline
        fullWidth
        value={words}
        onChange={(e) => setDraft({ words: e.target.value })}
        sx={{ bgcolor: "background.paper" }}
        slotProps={{ htmlInput: { maxLength: 4000 } }}
      />
      <Button type="submit" variant="contained" disabled={!words.trim()} sx={{ minHeight: 56 }}>
        Save
      </Button>
    </Stack>
  );
}
