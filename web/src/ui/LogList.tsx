import { Box, Button, Stack, Typography } from "@mui/material";
import type { LogLine } from "../api/client";
import { useSaid } from "./quantity";
import { useFigures } from "./StoredCalculations";
import { logWords, when, type Words } from "./words";

/** Everything that was noted, the newest first; what was taken back stays, struck through. */
export function LogList({ log, words, onUndo }: { log: LogLine[]; words: Words; onUndo: (entry: string) => void }) {
  const figures = useFigures();
  const said = useSaid();
  return (
    <Stack component="section" aria-label="Log">
      <Typography variant="h2" sx={{ mb: 1 }}>
        Log
      </Typography>
      {[...log].reverse().map((l) => (
        <Stack
          key={l.entry_id}
          direction="row"
          sx={{ gap: 1, alignItems: "center", borderTop: 1, borderColor: "divider", minHeight: 52, py: 0.5 }}
        >
          <Box sx={{ flex: 1, minWidth: 0 }}>
            <Typography
              sx={{ lineHeight: 1.25, textDecoration: l.undone ? "line-through" : "none", overflowWrap: "anywhere" }}
            >
              {logWords(l, words, said)} {l.figures && figures(l.figures)}
            </Typography>
            <Typography variant="body2" sx={{ color: "text.secondary" }}>
              {l.by}, {when(l.tapped_at ?? l.at)}
              {l.undone && ". Taken back."}
            </Typography>
          </Box>
          {!l.undone && (
            <Button onClick={() => onUndo(l.entry_id)} aria-label={`Take back: ${logWords(l, words, said)}`}>
              Take back
            </Button>
          )}
        </Stack>
      ))}
    </Stack>
  );
}
