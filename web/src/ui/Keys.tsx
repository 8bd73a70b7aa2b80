import { Button, Dialog, DialogActions, DialogContent, DialogTitle, Stack, Typography } from "@mui/material";
import { useEffect, useState } from "react";

/** Every key, and what it does. */
const keys: [string, string][] = [
  ["/", "Search"],
  ["?", "This list"],
  ["N", "In a job: the next check"],
  ["C", "In a job: its complaint"],
  ["L", "In a job: its log"],
  ["U", "In a job: take the last tap back"],
  ["Tab, Enter", "Go on to the next thing, and touch it"],
];

/** The keys at the desk, listed under "?". */
export function Keys() {
  const [open, setOpen] = useState(false);
  useEffect(() => {
    const pressed = (e: KeyboardEvent) => {
      if (e.key === "?" && !(e.target as HTMLElement).closest("input, textarea, [role=dialog]")) setOpen(true);
    };
    window.addEventListener("keydown", pressed);
    return () => window.removeEventListener("keydown", pressed);
  }, []);
  if (!open) return null;
  return (
    <Dialog open onClose={() => setOpen(false)} aria-labelledby="keys-title">
      <DialogTitle id="keys-title" component="h2">
        Keys
      </DialogTitle>
      <DialogContent>
        {keys.map(([key, does]) => (
          <Stack key={key} direction="row" sx={{ gap: 2, py: 0.5 }}>
            <Typography component="kbd" sx={{ width: 96, fontWeight: 750 }}>
              {key}
            </Typography>
            <Typography>{does}</Typography>
          </Stack>
        ))}
      </DialogContent>
      <DialogActions sx={{ p: 2 }}>
        <Button variant="contained" onClick={() => setOpen(false)}>
          Close
        </Button>
      </DialogActions>
    </Dialog>
  );
}
