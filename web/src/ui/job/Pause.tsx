import { Box, MenuItem, Stack, TextField, Typography } from "@mui/material";
import type { JobPage, Schemas } from "../../api/client";
import type { JobEntry } from "../../api/writes";
import { WhoDialog } from "../WhoDialog";
import { useTaps } from "../taps";
import { useUnkept } from "../unkept";
import { day } from "../words";
import { ChoiceButton } from "../ChoiceButton";

type For = Schemas["WaitingFor"]["for"];

const waits: [For, string][] = [
  ["part", "A part"],
  ["haul-out", "A haul-out"],
  ["owner", "The owner"],
  ["specialist", "A specialist"],
  ["other", "Something else"],
];

const forWords = (w: For) => waits.find(([id]) => id === w)?.[1].toLowerCase() ?? w;

/** What a job waits for, in a line. */
export const waitingWords = (w: Schemas["WaitingFor"]) => `Waiting for ${forWords(w.for)}: ${w.words}`;

/** On every screen of a job that is paused: what it waits for, and the way on. */
export function Paused({ page }: { page: JobPage }) {
  const { keep, asking, setAsking } = useTaps(page.card.id);
  const { waiting } = page.hands;
  if (!waiting || page.closed) return null;
  return (
    <Stack
      component="section"
      aria-label="The job is paused"
      direction="row"
      sx={{
        px: { xs: 1.5, md: 2.5 },
        py: 0.75,
        gap: 2,
        alignItems: "center",
        bgcolor: "background.paper",
        borderBottom: 2,
      }}
    >
      <Box sx={{ mr: { xs: "auto", md: 0 } }}>
        <Typography sx={{ fontWeight: 700, lineHeight: 1.25 }}>{waitingWords(waiting)}</Typography>
        <Typography variant="body2" sx={{ color: "text.secondary" }}>
          since {day(waiting.at)}, {waiting.by}
        </Typography>
      </Box>
      <ChoiceButton
        sx={{ flex: "none" }}
        onClick={() => keep({ kind: "strip", strip: { do: "go-on" } }, "The job goes on")}
      >
        It goes on
      </ChoiceButton>
      {asking && <WhoDialog onClose={() => setAsking(false)} />}
    </Stack>
  );
}

interface Props {
  page: JobPage;
  onKeep: (entry: JobEntry, label: string) => void;
}

/** Pauses a job, and says what for: in the yard's list, on the engine's page and on the DO NOT START sheet. */
export function PauseJob({ page, onKeep }: Props) {
  const [draft, setDraft, forget] = useUnkept<{ for: For; words: string }>(page.card.id, "What the job waits for", {
    for: "part",
    words: "",
  });
  if (page.hands.waiting || page.closed) return null;
  const pause = () => {
    onKeep(
      { kind: "strip", strip: { do: "wait", item: draft.for, words: draft.words.trim() } },
      `Waiting for ${forWords(draft.for)}`,
    );
    setDraft({ for: "part", words: "" });
    forget();
  };
  return (
    <Box component="section" aria-label="Pause the job">
      <Typography variant="h3" component="h2" sx={{ mb: 1 }}>
        Pause the job: it waits for
      </Typography>
      <Stack direction="row" sx={{ gap: 1, flexWrap: "wrap" }}>
        <TextField
          select
          label="For"
          value={draft.for}
          onChange={(e) => setDraft({ ...draft, for: e.target.value as For })}
          sx={{ ...paper, minWidth: 150 }}
        >
          {waits.map(([id, label]) => (
            <MenuItem key={id} value={id}>
              {label}
            </MenuItem>
          ))}
        </TextField>
        <TextField
          label="Which, and until when"
          value={draft.words}
          onChange={(e) => setDraft({ ...draft, words: e.target.value })}
          sx={{ ...paper, flex: 1, minWidth: 180 }}
        />
        <ChoiceButton disabled={draft.words.trim() === ""} onClick={pause} sx={{ minHeight: 56 }}>
          Pause
        </ChoiceButton>
      </Stack>
    </Box>
  );
}

const paper = { "& .MuiInputBase-root": { bgcolor: "background.paper" } };
