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
        {there > 0 && `; ${there === 1 ? "1 row is" : `${there} rows are`} on record already and stay as they stand`}
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
      <Rows title="New on record" lines={fresh} say={(l) => l.does} />
      <Take wrong={wrong.length} fresh={fresh.length} words={countWords(look.counts)} busy={busy} onTake={onTake} />
    </Box>
  );
}

/** Takes the list in, once what is wrong in it is mended or left out. */
function Take(p: {
  wrong: number;
  fresh: number;
  words: string;
  busy: boolean;
  onTake: (leaveWrong: boolean) => void;
}) {
  const [leave, setLeave] = useState(false);
  return (
    <>
      {p.wrong > 0 && p.fresh > 0 && (
        <FormControlLabel
          control={<Checkbox checked={leave} onChange={(e) => setLeave(e.target.checked)} />}
          label={`Leave out ${p.wrong === 1 ? "the row" : `the ${p.wrong} rows`} that cannot be taken`}
        />
      )}
      <Box sx={{ position: "sticky", bottom: { xs: footHeight, md: 0 }, bgcolor: "background.default", py: 1 }}>
        <Button
          variant="contained"
          disabled={p.busy || p.fresh === 0 || (p.wrong > 0 && !leave)}
          onClick={() => p.onTake(leave)}
          sx={{ minHeight: 56, width: { xs: "100%", sm: "auto" } }}
        >
          {p.busy ? "Working" : p.fresh > 0 ? `Bring it in: ${p.words}` : "Nothing new to bring in"}
        </Button>
      </Box>
    </>
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
