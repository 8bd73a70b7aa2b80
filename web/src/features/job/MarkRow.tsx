import { Box, Stack, ToggleButton, ToggleButtonGroup, Typography } from "@mui/material";
import { memo } from "react";
import type { DrawnOf } from "../../ui/drawings";
import { AnswerFace } from "./AnswerFace";
import type { Mark } from "./outcome";

interface Props {
  id: string;
  label: string;
  /** What it would mean. */
  means?: string;
  mark?: Mark;
  onMark: (id: string, m: Mark | undefined) => void;
  answers?: [Mark, string][];
  /** What it looks like, where it can be drawn. */
  drawn?: DrawnOf["answer"];
}

/**
 * One thing with its answers side by side; tapping the chosen
 * one again takes it back. Drawn afresh only when it changes.
 */
export const MarkRow = memo(function MarkRow({ id, label, means, mark, onMark, answers = allAnswers, drawn }: Props) {
  return (
    <Stack direction="row" sx={row}>
      <Box sx={{ minWidth: 0 }}>
        <Typography id={`mark-${id}`} sx={{ lineHeight: 1.2 }}>
          {label}
        </Typography>
        {means && (
          <Typography variant="body2" sx={{ color: "text.secondary", lineHeight: 1.25 }}>
            {means}
          </Typography>
        )}
      </Box>
      <ToggleButtonGroup
        exclusive
        value={mark ?? null}
        onChange={(_, m: Mark | null) => onMark(id, m ?? undefined)}
        aria-labelledby={`mark-${id}`}
        sx={{ flex: "none" }}
      >
        {answers.map(([value, say]) => (
          <ToggleButton key={value} value={value} sx={button} aria-label={`${label}: ${say}`}>
            <AnswerFace of={value === "present" || value === "absent" ? drawn?.(id, value) : undefined} over width={72}>
              {say}
            </AnswerFace>
          </ToggleButton>
        ))}
      </ToggleButtonGroup>
    </Stack>
  );
});

const allAnswers: [Mark, string][] = [
  ["present", "Yes"],
  ["absent", "No"],
  ["unknown", "?"],
];

/** The answers of a look: who was not sure saw something, and no proof. */
export const lookAnswers: [Mark, string][] = [
  ["present", "Yes"],
  ["absent", "No"],
  ["unsure", "?"],
];

const row = { gap: 1, alignItems: "center", justifyContent: "space-between" };

const button = {
  minWidth: 52,
  minHeight: 48,
  textTransform: "none",
  fontSize: "1rem",
  color: "text.primary",
  borderColor: "text.secondary",
  "&.Mui-selected, &.Mui-selected:hover": { bgcolor: "text.primary", color: "background.paper", fontWeight: 750 },
} as const;
