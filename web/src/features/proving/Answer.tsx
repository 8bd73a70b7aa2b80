import { Stack, Typography } from "@mui/material";
import { ChoiceButton } from "../../ui/ChoiceButton";

/** A thing that is one of two, side by side. */
export function Answer(p: { label: string; yes: string; no: string; is?: boolean; onSay: (yes: boolean) => void }) {
  return (
    <Stack
      direction="row"
      role="group"
      aria-label={p.label}
      sx={{ gap: 0.75, alignItems: "center", borderTop: 1, borderColor: "divider", py: 0.5 }}
    >
      <Typography sx={{ mr: "auto", fontWeight: 600 }}>{p.label}</Typography>
      {[true, false].map((v) => (
        <ChoiceButton
          key={String(v)}
          aria-pressed={p.is === v}
          onClick={() => p.onSay(v)}
          data-on={p.is === v}
          sx={{ px: 1.5 }}
        >
          {v ? p.yes : p.no}
        </ChoiceButton>
      ))}
    </Stack>
  );
}
