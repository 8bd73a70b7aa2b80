import { Box, Button, Stack, TextField, Typography } from "@mui/material";
import { useState } from "react";

export interface NumberAsked {
  key: string;
  label: string;
  unit: string;
  /** It may be left empty. */
  optional?: boolean;
  least: number;
  most: number;
  /** What was typed as the program takes it; nothing where it is no number. */
  read: (text: string) => number | undefined;
}

const plain = (text: string) => {
  const v = Number(text.trim().replace(",", "."));
  return text.trim() === "" || !Number.isFinite(v) ? undefined : v;
};

/** A figure without a unit system: minutes, a speed. */
export const figure = (key: string, label: string, unit: string, least: number, most: number): NumberAsked => ({
  key,
  label,
  unit,
  least,
  most,
  read: plain,
});

interface Props {
  title: string;
  asked: NumberAsked[];
  save: string;
  onSave: (given: Record<string, number | undefined>) => void;
}

/** A few figures that were read, and one touch that keeps them. Nothing stands in a field that nobody read. */
export function NumberRow({ title, asked, save, onSave }: Props) {
  const [typed, setTyped] = useState<Record<string, string>>({});
  const given = Object.fromEntries(asked.map((a) => [a.key, a.read(typed[a.key] ?? "")]));
  const wrong = (a: NumberAsked) => {
    const text = (typed[a.key] ?? "").trim();
    const v = given[a.key];
    return text !== "" && (v === undefined || v < a.least || v > a.most);
  };
  const ready = asked.every((a) => !wrong(a) && (a.optional || given[a.key] !== undefined));
  return (
    <Box
      component="form"
      aria-label={title}
      onSubmit={(e) => {
        e.preventDefault();
        onSave(given);
        setTyped({});
      }}
    >
      <Typography variant="h3" sx={{ mb: 0.75 }}>
        {title}
      </Typography>
      <Stack direction="row" sx={{ gap: 1, flexWrap: "wrap", alignItems: "flex-start" }}>
        {asked.map((a) => (
          <TextField
            key={a.key}
            label={`${a.label}, ${a.unit}`}
            value={typed[a.key] ?? ""}
            onChange={(e) => setTyped({ ...typed, [a.key]: e.target.value })}
            error={wrong(a)}
            helperText={wrong(a) ? "Read it again" : a.optional ? "Where there is one" : undefined}
            slotProps={{ htmlInput: { inputMode: "decimal", enterKeyHint: "next" } }}
            sx={{ flex: "1 1 130px", minWidth: 0, bgcolor: "background.paper" }}
          />
        ))}
        <Button variant="contained" type="submit" disabled={!ready} sx={{ minHeight: 56, px: 3 }}>
          {save}
        </Button>
      </Stack>
    </Box>
  );
}
