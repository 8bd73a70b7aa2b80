import { Button, Stack, TextField } from "@mui/material";
import { useUnkept } from "./unkept";

interface Props {
  job: string;
  /** What the words are about, under which they wait unsaved. */
  about: string;
  label: string;
  /** The touch that saves them. */
  touch: string;
  /** Words that stand there to begin with. */
  usual?: string;
  onSay: (words: string) => void;
}

/** A few words that are asked for; typed and not saved, they are there again. */
export function Why({ job, about, label, touch, usual = "", onSay }: Props) {
  const [{ words }, setDraft, forget] = useUnkept(job, about, { words: usual });
  return (
    <Stack direction="row" sx={{ gap: 1, mt: 1 }}>
      <TextField
        label={label}
        value={words}
        onChange={(e) => setDraft({ words: e.target.value })}
        sx={{ flex: 1, "& .MuiInputBase-root": { bgcolor: "background.paper" } }}
      />
      <Button
        disabled={words.trim() === ""}
        onClick={() => {
          onSay(words.trim());
          setDraft({ words: usual });
          forget();
        }}
      >
        {touch}
      </Button>
    </Stack>
  );
}
