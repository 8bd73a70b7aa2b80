import { Box, Button, Checkbox, FormControlLabel, Stack, Typography } from "@mui/material";
import { useState } from "react";
import type { Schemas } from "../../api/client";
import { footHeight } from "../../ui/Shell";
import { countWords } from "./counts";

interface Props {
  kind?: Schemas["ListKind"];
  look: Schemas["ListLook"];
  busy: boolean;
  onTake: (leaveWrong: boolean) => void;
}

/** How many rows stand open before more are asked for. */
const few = 12;

/** What bringing the list in comes to, row by row: what is wrong first. */
export function ListRows({ kind, look, busy, onTake }: Props) {
  const [leave, setLeave] = useState(false);
  const wrong = look.lines.filter((l) => l.slips.length > 0);
  const fresh = look.lines.filter((l) => l.slips.length === 0 && !l.there);
  const there = look.counts.there ?? 0;
  const labels = new Map(kind?.columns.map((c) => [c.id, c.label]));
  if (look.refused.length > 0) return null;
  return (
    <Box component="section" aria-label="What it comes to">
      <Typography variant="h2">What it comes to</Typography>
      <Typography role="status" sx={{ fontWeight: 700 }}>
        {countWords(look.counts) || "Nothing new"}
        {there > 0 && `; on record already and left as it stands: ${there === 1 ? "1 row" : `${there} rows`}`}
      </Typography>
      <Rows
        title={wrong.length === 1 ? "1 row that cannot be taken so" : `${wrong.length} rows that cannot be taken so`}
        lines={wrong}
        say={(l) =>
          l.slips.map((s) => {
            const given = s.given && !s.say.includes(s.given) ? ` (it says ${s.given})` : "";
            return `${labels.get(s.column) ?? "The row"}: ${s.say}${given}.`;
          })
        }
      />
      {wrong.length > 0 && fresh.length > 0 && (
        <FormControlLabel
          control={<Checkbox checked={leave} onChange={(e) => setLeave(e.target.checked)} />}
          label={`Leave out ${wrong.length === 1 ? "the row" : `the ${wrong.length} rows`} that cannot be taken`}
        />
      )}
      <Rows title="New on record" lines={fresh} say={(l) => l.does} />
      <Take
        words={fresh.length > 0 ? countWords(look.counts) : ""}
        ready={!busy && (wrong.length === 0 || leave)}
        onTake={() => onTake(leave)}
      />
    </Box>
  );
}

/** Takes the list in, once what is wrong in it is mended or left out. */
function Take(p: { words: string; ready: boolean; onTake: () => void }) {
  const on = p.ready && p.words !== "";
  return (
    <Box
      sx={{
        position: on ? "sticky" : "static",
        bottom: { xs: footHeight, md: 0 },
        bgcolor: "background.default",
        py: 1,
      }}
    >
      <Button
        variant="contained"
        disabled={!on}
        onClick={p.onTake}
        sx={{ minHeight: 56, width: { xs: "100%", sm: "auto" } }}
      >
        {p.words ? `Bring it in: ${p.words}` : "Nothing new to bring in"}
      </Button>
    </Box>
  );
}

function Rows(p: { title: string; lines: Schemas["ListLine"][]; say: (l: Schemas["ListLine"]) => string[] }) {
  const [all, setAll] = useState(false);
  if (p.lines.length === 0) return null;
  const shown = all ? p.lines : p.lines.slice(0, few);
  return (
    <Box sx={{ mt: 1.5 }}>
      <Typography variant="h3" sx={{ fontSize: "1.05rem" }}>
        {p.title}
      </Typography>
      {shown.map((l) => (
        <Stack
          key={l.row}
          direction="row"
          sx={{ gap: 1.5, borderTop: 1, borderColor: "divider", py: 0.5, alignItems: "baseline" }}
        >
          <Typography variant="body2" sx={{ color: "text.secondary", minWidth: 56, flexShrink: 0 }}>
            Row {l.row}
          </Typography>
          <Box sx={{ minWidth: 0, overflowWrap: "anywhere" }}>
            {p.say(l).map((s) => (
              <Typography key={s}>{s.charAt(0).toUpperCase() + s.slice(1)}</Typography>
            ))}
          </Box>
        </Stack>
      ))}
      {p.lines.length > few && !all && <Button onClick={() => setAll(true)}>All {p.lines.length} rows</Button>}
    </Box>
  );
}
