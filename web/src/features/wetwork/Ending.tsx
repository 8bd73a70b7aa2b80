import { Box, Button, MenuItem, Stack, TextField, Typography } from "@mui/material";
import { useQuantity } from "../../ui/quantity";
import { useUnkept } from "../../ui/unkept";
import { kindLabels, numberOf, type OnWet, type WetworkItem } from "../../ui/job/wetwork";

const amounts = [
  ["drained", "Out"],
  ["filled", "In"],
  ["topped", "Topped up"],
] as const;

/** What came out and went in of a coolant change, and its strength. */
export function Litres({ job, onAct }: { job: string; onAct: OnWet }) {
  const [text, setText, forget] = useUnkept<Record<string, string>>(job, "Litres out and in", {});
  const volume = useQuantity("L");
  const percent = text.percent ?? "";
  const clear = (key: string) => {
    setText({ ...text, [key]: "" });
    if (Object.entries(text).every(([k, v]) => k === key || v === "")) forget();
  };
  return (
    <Box component="section" aria-label="Litres">
      <Typography variant="h3" sx={{ mb: 0.75 }}>
        Litres out, litres in
      </Typography>
      {amounts
        .map(([verb, name]) => [verb, `${name}, ${volume.symbol}`] as const)
        .map(([verb, label]) => (
          <Stack key={verb} direction="row" sx={{ gap: 1, mb: 1 }}>
            <TextField
              label={label}
              value={text[verb] ?? ""}
              onChange={(e) => setText({ ...text, [verb]: e.target.value })}
              sx={{ flex: 1 }}
            />
            <Button
              disabled={volume.read(text[verb]) === undefined}
              aria-label={`Save: ${label}`}
              onClick={() => {
                onAct({ do: verb, litres: volume.read(text[verb]) ?? 0 }, label);
                clear(verb);
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
          onChange={(e) => setText({ ...text, percent: e.target.value })}
          sx={{ flex: 1 }}
        />
        <Button
          disabled={numberOf(percent) === undefined}
          aria-label="Save: strength"
          onClick={() => {
            onAct({ do: "strength", percent: numberOf(percent) ?? 0 }, "Strength saved");
            clear("percent");
          }}
        >
          Save
        </Button>
      </Stack>
    </Box>
  );
}

const wastes = ["spent acid", "spent caustic cleaner", "coolant", "rinse water", "scrapings"];

/** What the waste of a work is, unless somebody says otherwise. */
function wasteOf(work: WetworkItem): string {
  if (work.kind === "coolant") return "coolant";
  if (work.kind === "flush" || work.stages.includes("rinsed")) return "rinse water";
  return work.descale?.product.caustic ? "spent caustic cleaner" : "spent acid";
}

/** What closes a piece of work: the waste, the hours, a word. */
export function Ending({ job, work, onAct }: { job: string; work: WetworkItem; onAct: OnWet }) {
  const empty = { what: "", litres: "", where: "", words: "", hours: "" };
  const [draft, setDraft, forget] = useUnkept(job, `${kindLabels[work.kind]}: waste and end`, empty);
  const { litres, where, words, hours } = draft;
  const what = draft.what || wasteOf(work);
  const volume = useQuantity("L");
  const set = (change: Partial<typeof empty>) => setDraft({ ...draft, ...change });
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
          onChange={(e) => set({ what: e.target.value })}
          sx={{ flex: "1 1 170px" }}
        >
          {wastes.map((w) => (
            <MenuItem key={w} value={w}>
              {w}
            </MenuItem>
          ))}
        </TextField>
        <TextField
          label={`Amount, ${volume.symbol}`}
          value={litres}
          onChange={(e) => set({ litres: e.target.value })}
          sx={{ flex: "1 1 110px" }}
        />
        <TextField
          label="Where it went"
          value={where}
          onChange={(e) => set({ where: e.target.value })}
          sx={{ flex: "2 1 160px" }}
        />
        <Button
          disabled={where.trim() === "" || volume.read(litres) === undefined}
          aria-label="Save: waste"
          onClick={() => {
            onAct({ do: "waste", what, litres: volume.read(litres) ?? 0, words: where.trim() }, "Waste saved");
            set({ where: "", litres: "", what: "" });
          }}
        >
          Save
        </Button>
      </Stack>
      <Stack direction="row" sx={{ gap: 1, mt: 1.5, flexWrap: "wrap" }}>
        <TextField
          label="Result, in a few words"
          value={words}
          onChange={(e) => set({ words: e.target.value })}
          sx={{ flex: "2 1 160px" }}
        />
        <TextField
          label="Engine hours"
          value={hours}
          onChange={(e) => set({ hours: e.target.value })}
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
            forget();
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
