import { Box, Button, Dialog, DialogActions, DialogContent, DialogTitle, Stack, Typography } from "@mui/material";
import { useState } from "react";
import type { LogLine } from "../api/client";
import { useMay } from "../api/queries";
import { useSaid } from "./quantity";
import { useWriter } from "./Shell";
import { asksFirst } from "./undoing";
import { useFigures } from "./StoredCalculations";
import { logWords, when, type Words } from "./words";

/** Everything that was noted, the newest first; what was taken back stays, struck through. */
export function LogList({ log, words, onUndo }: { log: LogLine[]; words: Words; onUndo: (entry: string) => void }) {
  const figures = useFigures();
  const said = useSaid();
  const writer = useWriter();
  const corrects = useMay("correct");
  const [asked, setAsked] = useState<LogLine>();
  const undo = (l: LogLine) => (asksFirst(l, log, writer) ? setAsked(l) : onUndo(l.entry_id));
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
          {!l.undone && (corrects || l.by === writer) && (
            <Button onClick={() => undo(l)} aria-label={`Take back: ${logWords(l, words, said)}`}>
              Take back
            </Button>
          )}
        </Stack>
      ))}
      {asked && (
        <Dialog open onClose={() => setAsked(undefined)} aria-labelledby="undo-title">
          <DialogTitle id="undo-title" component="h2">
            Take this back?
          </DialogTitle>
          <DialogContent>
            <Typography sx={{ fontWeight: 650 }}>{logWords(asked, words, said)}</Typography>
            <Typography>
              {asked.by}, {when(asked.tapped_at ?? asked.at)}. It stays in the log as taken back, and what follows from
              it is worked out anew.
            </Typography>
          </DialogContent>
          <DialogActions sx={{ p: 2 }}>
            <Button onClick={() => setAsked(undefined)}>Leave it</Button>
            <Button
              variant="contained"
              onClick={() => {
                onUndo(asked.entry_id);
                setAsked(undefined);
              }}
            >
              Take it back
            </Button>
          </DialogActions>
        </Dialog>
      )}
    </Stack>
  );
}
