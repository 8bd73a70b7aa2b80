import { Box, Button, Dialog, DialogActions, DialogContent, DialogTitle, Stack, Typography } from "@mui/material";
import { useTheme } from "@mui/material/styles";
import { useEffect, useState } from "react";
import { Link } from "react-router";
import type { Schemas } from "../../api/client";
import { practiceNews } from "../../api/practice";
import { Stepper } from "../Stepper";
import { stuck } from "../stuck";
import { minutes } from "../words";
import { useDo, usePracticeNow } from "./usePractice";

const practiceLine = stuck("--practice-line");

/** The bar of every page of practice: that it is practice, what it has cost, a hint, a wait, and the end. */
export function PracticeBar() {
  const now = usePracticeNow();
  const { busy, failed, act } = useDo();
  const [open, setOpen] = useState<"hint" | "wait" | "end">();
  const { water } = useTheme();
  return (
    <Box
      ref={practiceLine}
      component="section"
      aria-label="Practice"
      sx={{
        bgcolor: water.next,
        color: water.nextInk,
        px: { xs: 1.5, md: 2.5 },
        py: 0.5,
        display: "flex",
        alignItems: "center",
        columnGap: { xs: 1, md: 2 },
        position: "sticky",
        top: 0,
        zIndex: 5,
        "@media print": { position: "static" },
      }}
    >
      <Typography sx={{ fontWeight: 850, letterSpacing: "0.08em" }}>PRACTICE</Typography>
      {now && (
        <Typography sx={{ mr: "auto" }} aria-live="polite">
          {minutes(now.minutes)}
          <Box component="span" sx={{ display: { xs: "none", sm: "inline" } }}>
            , {Math.round(now.cost)} in money
          </Box>
        </Typography>
      )}
      {now && !now.over && (
        <Stack direction="row" sx={{ "& button": { color: "inherit", px: 1, minWidth: 48 } }}>
          <Button disabled={busy} onClick={() => setOpen("hint")}>
            Hint
          </Button>
          <Button disabled={busy} onClick={() => setOpen("wait")}>
            Wait
          </Button>
          <Button disabled={busy} onClick={() => setOpen("end")}>
            End
          </Button>
        </Stack>
      )}
      {now?.over && (
        <Button component={Link} to="/review" sx={{ color: "inherit", textDecoration: "underline" }}>
          It is over: how it went
        </Button>
      )}
      {failed && <Typography role="alert">{failed}</Typography>}
      {open === "hint" && now && <HintDialog now={now} onClose={() => setOpen(undefined)} />}
      {open === "wait" && now && <WaitDialog now={now} onClose={() => setOpen(undefined)} />}
      {open === "end" && (
        <Ask
          title="End this practice?"
          words={
            "The owner takes the boat as it is. Then you see what it was, and how it went. " +
            "To go on another day, just leave it: it waits on the page of practice."
          }
          doing="End it"
          onDo={() => void act({ do: "end" })}
          onClose={() => setOpen(undefined)}
        />
      )}
      <Dangers />
    </Box>
  );
}

interface AskProps {
  title: string;
  words: string;
  doing: string;
  onDo: () => void;
  onClose: () => void;
}

function Ask({ title, words, doing, onDo, onClose }: AskProps) {
  return (
    <Dialog open onClose={onClose}>
      <DialogTitle>{title}</DialogTitle>
      <DialogContent>{words}</DialogContent>
      <DialogActions>
        <Button href="/practice">Leave it for now</Button>
        <Button onClick={onClose}>Go on with it</Button>
        <Button
          variant="contained"
          onClick={() => {
            onDo();
            onClose();
          }}
        >
          {doing}
        </Button>
      </DialogActions>
    </Dialog>
  );
}

/** Hints since the last look, the newest last: each tells more, and costs more. */
function HintDialog({ now, onClose }: { now: Schemas["Practice"]; onClose: () => void }) {
  const { busy, failed, act } = useDo();
  const since = now.steps.findLastIndex((s) => ["look", "repair", "proof"].includes(s.do));
  const hints = now.steps.slice(since + 1).filter((s) => s.do === "hint");
  const asks = ["Which side? 3 minutes", "Where? 5 minutes", "What, and why? 8 minutes"];
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm">
      <DialogTitle>A hint</DialogTitle>
      <DialogContent>
        {hints.length === 0 && (
          <Typography>Three hints, each telling more. They cost minutes, as a phone call does.</Typography>
        )}
        {hints.map((h) => (
          <Typography key={h.at} sx={{ mb: 1, fontSize: "1.1rem" }}>
            {h.words}
          </Typography>
        ))}
        {failed && <Typography role="alert">{failed}</Typography>}
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Close</Button>
        {hints.length < asks.length && hints.at(-1)?.minutes !== 0 && (
          <Button variant="contained" disabled={busy} onClick={() => void act({ do: "hint" })}>
            {asks[hints.length]}
          </Button>
        )}
      </DialogActions>
    </Dialog>
  );
}

function WaitDialog({ now, onClose }: { now: Schemas["Practice"]; onClose: () => void }) {
  const { act } = useDo();
  const [wait, setWait] = useState(Math.max(10, Math.ceil(now.cold_in)));
  return (
    <Dialog open onClose={onClose}>
      <DialogTitle>Let time pass</DialogTitle>
      <DialogContent>
        <Typography sx={{ mb: 1.5 }}>
          {now.cold_in > 0
            ? `It ran not long ago. A hand stays on it in about ${minutes(now.cold_in)}.`
            : "A hand stays on it: it is cold enough to open."}
        </Typography>
        <Stepper label="Wait" unit="min" value={wait} onChange={setWait} />
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Not now</Button>
        <Button
          variant="contained"
          onClick={() => {
            void act({ do: "wait", minutes: Math.min(1440, Math.max(1, wait)) });
            onClose();
          }}
        >
          Wait
        </Button>
      </DialogActions>
    </Dialog>
  );
}

/** What would have happened, told at once; one after the other. */
function Dangers() {
  const [list, setList] = useState<Schemas["PracticeDanger"][]>([]);
  const { water } = useTheme();
  useEffect(() => practiceNews.onDangers((more) => setList((was) => [...was, ...more])), []);
  const d = list[0];
  if (!d) return null;
  return (
    <Dialog
      open
      role="alertdialog"
      aria-labelledby="danger"
      slotProps={{ paper: { sx: { borderTop: 12, borderColor: water.found } } }}
    >
      <DialogTitle id="danger">{d.label}</DialogTitle>
      <DialogContent>
        <Typography sx={{ mb: 1.5 }}>{d.happened}</Typography>
        <Typography sx={{ fontWeight: 700 }}>Instead: {d.instead}</Typography>
        {d.ends && (
          <Typography sx={{ mt: 1.5 }}>
            A real job would have ended here. This one does too; nothing was hurt.
          </Typography>
        )}
      </DialogContent>
      <DialogActions>
        <Button variant="contained" onClick={() => setList((was) => was.slice(1))} autoFocus>
          I see
        </Button>
      </DialogActions>
    </Dialog>
  );
}
