import { Button, Dialog, DialogActions, DialogContent, DialogTitle, Stack, Typography } from "@mui/material";

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

/** The keys at the desk. */
export function Keys({ onClose }: { onClose: () => void }) {
  return (
    <Dialog open onClose={onClose} aria-labelledby="keys-title">
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
        <Button variant="contained" onClick={onClose}>
          Close
        </Button>
      </DialogActions>
    </Dialog>
  );
}
