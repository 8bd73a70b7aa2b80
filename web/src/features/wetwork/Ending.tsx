import { Box, Button, MenuItem, Stack, TextField, Typography } from "@mui/material";
import { useState } from "react";
import { numberOf, type OnWet, type WetworkItem } from "../../ui/job/wetwork";

const amounts = [
  ["drained", "Out, L"],
  ["filled", "In, L"],
  ["topped", "Topped up, L"],
] as const;

/** What came out and went in of a coolant change, and its strength. */
export function Litres({ onAct }: { onAct: OnWet }) {
  const [text, setText] = useState<Record<string, string>>({});
  const [percent, setPercent] = useState("");
  return (
    <Box component="section" aria-label="Litres">
      <Typography variant="h3" sx={{ mb: 0.75 }}>
        Litres out, litres in
      </Typography>
      {amounts.map(([verb, label]) => (
        <Stack key={verb} direction="row" sx={{ gap: 1, mb: 1 }}>
          <TextField
            label={label}
            value={text[verb] ?? ""}
            onChange={(e) => setText({ ...text, [verb]: e.target.value })}
            sx={{ flex: 1 }}
          />
          <Button
            disabled={numberOf(text[verb]) === undefined}
            aria-label={`Save: ${label}`}
            onClick={() => {
              onAct({ do: verb, litres: numberOf(text[verb]) ?? 0 }, label);
              setText({ ...text, [verb]: "" });
            }}
          >
            Save
          </Button>
        </Stack>
      ))}
      <Stack direction="row" sx={{ gap: 1 }}>
        <TextField
          label="Strength by the tester, %"
          value={percent}
          onChange={(e) => setPercent(e.target.value)}
          sx={{ flex: 1 }}
        />
        <Button
          disabled={numberOf(percent) === undefined}
          aria-label="Save: strength"
          onClick={() => {
            onAct({ do: "strength", percent: numberOf(percent) ?? 0 }, "Strength saved");
            setPercent("");
          }}
        >
          Save
        </Button>
      </Stack>
    </Box>
  );
}

const wastes = ["spent acid", "coolant", "rinse water", "scrapings"];

/** What closes a piece of work: the waste, the hours, a word. */
export function Ending({ onAct }: { onAct: OnWet }) {
  const [what, setWhat] = useState(wastes[0] ?? "");
  const [litres, setLitres] = useState("");
  const [where, setWhere] = useState("");
  const [words, setWords] = useState("");
  const [hours, setHours] = useState("");
  return (
    <Box component="section" aria-label="Waste and end">
      <Typography variant="h3" sx={{ mb: 0.75 }}>
        What went where
      </Typography>
      <Stack direction="row" sx={{ gap: 1, flexWrap: "wrap" }}>
        <TextField
          select
          label="Waste"
          value={what}
          onChange={(e) => setWhat(e.target.value)}
          sx={{ flex: "1 1 120px" }}
        >
          {wastes.map((w) => (
            <MenuItem key={w} value={w}>
              {w}
            </MenuItem>
          ))}
        </TextField>
        <TextField
          label="Litres"
          value={litres}
          onChange={(e) => setLitres(e.target.value)}
          sx={{ flex: "1 1 80px" }}
        />
        <TextField
          label="Where it went"
          value={where}
          onChange={(e) => setWhere(e.target.value)}
          sx={{ flex: "2 1 160px" }}
        />
        <Button
          disabled={where.trim() === "" || numberOf(litres) === undefined}
          aria-label="Save: waste"
          onClick={() => {
            onAct({ do: "waste", what, litres: numberOf(litres) ?? 0, words: where.trim() }, "Waste saved");
            setWhere("");
            setLitres("");
          }}
        >
          Save
        </Button>
      </Stack>
      <Stack direction="row" sx={{ gap: 1, mt: 1.5, flexWrap: "wrap" }}>
        <TextField
          label="Result, in a few words"
          value={words}
          onChange={(e) => setWords(e.target.value)}
          sx={{ flex: "2 1 160px" }}
        />
        <TextField
          label="Engine hours"
          value={hours}
          onChange={(e) => setHours(e.target.value)}
          sx={{ flex: "1 1 90px" }}
        />
        <Button
          variant="contained"
          onClick={() => {
            const h = numberOf(hours);
            onAct(
              { do: "end", ...(words.trim() && { words: words.trim() }), ...(h !== undefined && { hours: h }) },
              "Done",
            );
          }}
        >
          It is done
        </Button>
      </Stack>
    </Box>
  );
}

const percent = (v: number) => `${Math.round(100 * v)} %`;

/** The figures before and after. */
export function Gains({ work }: { work: WetworkItem }) {
  if (work.kind === "coolant") return null;
  return (
    <Box component="section" aria-label="Before and after">
      <Typography variant="h3">Before and after</Typography>
      {work.gains.length === 0 && (
        <Typography sx={{ color: "text.secondary" }}>
          {work.gain_missing.charAt(0).toUpperCase() + work.gain_missing.slice(1)}.
        </Typography>
      )}
      {work.gains.map((g) => (
        <Typography key={g.label}>
          <strong>
            {g.label.charAt(0).toUpperCase() + g.label.slice(1)} {percent(g.before)} → {percent(g.after)} of healthy
          </strong>
          {g.better && `: better by ${percent(g.change)}, give or take ${percent(g.change_error)}.`}
          {g.worse && `: worse by ${percent(-g.change)}, give or take ${percent(g.change_error)}.`}
          {!g.better && !g.worse && `: no gain that the readings can tell (give or take ${percent(g.change_error)}).`}
        </Typography>
      ))}
    </Box>
  );
}
