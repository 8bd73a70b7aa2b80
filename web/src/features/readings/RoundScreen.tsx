import { Later } from "../../ui/chart/Later";
import { useDraft } from "../../ui/draft";
import { Box, Button, Stack, TextField } from "@mui/material";
import { lazy, useState } from "react";
import { useNavigate } from "react-router";
import type { Catalogue, JobPage, Schemas } from "../../api/client";
import { useSave } from "../../api/writes";
import { Cautions } from "../../ui/Cautions";
import { JobFrame } from "../../ui/job/JobFrame";
import { HealthWords } from "../../ui/readings/HealthWords";
import { RoundFigures } from "../../ui/readings/RoundFigures";
import { nothingTyped, useRound, type Typed } from "../../ui/readings/typed";
import { May } from "../../ui/May";
import { useNotice } from "../../ui/notices";
import { OfJob } from "../../ui/job/OfJob";
import { RoundSeen } from "../../ui/practice/RoundSeen";
import { useWriter } from "../../ui/Shell";
import { ScreenHead } from "../../ui/ScreenHead";
import { WhoDialog } from "../../ui/WhoDialog";
import { useSystem } from "../../ui/unitSystem";
import type { Units } from "../../ui/units";
import { wordsOf } from "../../ui/words";
import { belowLines } from "../../ui/stuck";

const PathPicture = lazy(() => import("../../ui/readings/PathPicture").then((m) => ({ default: m.PathPicture })));

/** A round of readings at a steady speed: place after place as the water runs, each beside what it should be. */
export function RoundScreen() {
  return <OfJob>{(p) => <Round {...p} />}</OfJob>;
}

/** An engine under load, hands on hot parts. */
const aboutRunning = ["under-load", "turning-parts", "hot-exhaust"];

function Round({ catalogue, page, units }: { catalogue: Catalogue; page: JobPage; units: Units }) {
  const words = wordsOf(catalogue);
  const system = useSystem();
  const [draft, setDraft, forget] = useDraft<Typed>(`hevrin.round.${page.card.id}`, nothingTyped);
  const set = (d: Partial<Typed>) => setDraft((was) => ({ ...was, ...d }));
  const asked = useRound(page, draft, units);
  const { state, round, health, operation } = asked;
  const read = round?.readings.length ?? 0;
  const taken = health?.rounds?.[0];
  return (
    <JobFrame page={page} catalogue={catalogue}>
      <ScreenHead title="A round of readings" drawing="round">
        Hold one speed until nothing moves any more, then go in flow order. Skip what you cannot reach.
      </ScreenHead>
      <Box sx={{ mt: 1.5 }}>
        <Cautions ids={aboutRunning} />
      </Box>
      <RoundSeen {...{ page, words, units }} />
      <Box
        sx={{
          display: "grid",
          gridTemplateColumns: { xs: "minmax(0, 1fr)", md: "minmax(0, 1.1fr) minmax(0, 1fr)" },
          gap: { xs: 2.5, md: 4 },
          mt: 1.5,
          alignItems: "start",
        }}
      >
        <Box sx={{ bgcolor: "background.paper", borderRadius: 1, px: { xs: 1.25, md: 2 }, py: 1 }}>
          <RoundFigures {...{ page, draft, set, units }} places={asked.places} refused={asked.refused} taken={taken}>
            {words.station}
          </RoundFigures>
        </Box>
        <Stack sx={{ gap: 2.5, position: { md: "sticky" }, top: belowLines }}>
          {read > 0 && taken && state && (
            <Later height={320}>
              <PathPicture
                round={taken}
                should={state.readings}
                baseline={page.standard.kind === "baseline" ? state.standard : undefined}
                twin={page.standard.kind === "twin" ? state.standard : undefined}
                {...{ words, units, system }}
              />
            </Later>
          )}
          {read > 0 && health && (
            <HealthWords health={health} standard={page.standard} rpm={operation?.rpm} {...{ words, units, system }} />
          )}
          {read > 0 && (
            <May right="work">
              <Keep page={page} round={round} draft={draft} onWords={(w) => set({ words: w })} onKept={forget} />
            </May>
          )}
        </Stack>
      </Box>
    </JobFrame>
  );
}

function Keep(p: {
  page: JobPage;
  round?: Schemas["PlantRound"];
  draft: Typed;
  onWords: (w: string) => void;
  onKept: () => void;
}) {
  const { noteInJob, undo } = useSave();
  const { kept, failed } = useNotice();
  const name = useWriter();
  const navigate = useNavigate();
  const [asking, setAsking] = useState(false);
  const keep = () => {
    if (!name) return setAsking(true);
    const entry = { kind: "round" as const, round: p.round, words: p.draft.words.trim() || undefined };
    noteInJob(p.page.card.id, entry, "Round saved").then((id) => {
      p.onKept();
      kept("Round saved", () => void undo(id).then(() => kept("Taken back"), failed));
    }, failed);
    void navigate(`/jobs/${p.page.card.id}`);
  };
  return (
    <Stack sx={{ gap: 1 }}>
      <TextField
        label="A word with it"
        placeholder="Off the quay, steady for ten minutes"
        value={p.draft.words}
        onChange={(e) => p.onWords(e.target.value)}
        sx={{ bgcolor: "background.paper" }}
        slotProps={{ htmlInput: { maxLength: 4000 } }}
      />
      <Button variant="contained" onClick={keep} sx={{ minHeight: 56 }}>
        Save the round
      </Button>
      {asking && <WhoDialog onClose={() => setAsking(false)} />}
    </Stack>
  );
}
