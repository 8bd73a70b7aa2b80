import { Box, Button, Dialog, DialogActions, DialogContent, DialogTitle, Typography } from "@mui/material";
import { Refused } from "../api/client";

/** Whether a save was refused since somebody else saved in between. */
export const isCrossed = (e: unknown): e is Refused => e instanceof Refused && e.problem.type === "/problems/crossed";

/** A fact as both have it. */
export interface Both {
  label: string;
  theirs: string;
  mine: string;
}

interface Props {
  /** What was said of it. */
  say: string;
  facts: Both[];
  onMine: () => void;
  onTheirs: () => void;
}

/** Two changed the same thing at once: both are shown side by side, and the second chooses. */
export function CrossedDialog({ say, facts, onMine, onTheirs }: Props) {
  const differ = facts.filter((f) => f.theirs !== f.mine);
  return (
    <Dialog open fullWidth maxWidth="sm" aria-labelledby="crossed-title">
      <DialogTitle id="crossed-title" component="h2">
        Changed by somebody else meanwhile
      </DialogTitle>
      <DialogContent>
        <Typography sx={{ mb: 1.5 }}>{say}.</Typography>
        <Box
          component="table"
          sx={{ width: "100%", borderCollapse: "collapse", "& td, & th": { textAlign: "left", p: 0.75, borderTop: 1 } }}
        >
          <thead>
            <tr>
              <th scope="col">Differs</th>
              <th scope="col">On record now</th>
              <th scope="col">Yours</th>
            </tr>
          </thead>
          <tbody>
            {differ.map((f) => (
              <tr key={f.label}>
                <th scope="row">{f.label}</th>
                <td>{f.theirs || "nothing"}</td>
                <td>{f.mine || "nothing"}</td>
              </tr>
            ))}
          </tbody>
        </Box>
        {differ.length === 0 && <Typography>Both are the same.</Typography>}
      </DialogContent>
      <DialogActions sx={{ p: 2 }}>
        <Button onClick={onTheirs}>Leave what is on record</Button>
        <Button variant="contained" onClick={onMine}>
          Save mine
        </Button>
      </DialogActions>
    </Dialog>
  );
}

/** What a save that was refused leaves to be chosen. */
export interface Crossing<T> {
  say: string;
  theirs: T;
}
