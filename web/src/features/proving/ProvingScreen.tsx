import { newID } from "../../api/ids";
import { Box, Button, Stack, Typography } from "@mui/material";
import { useState } from "react";
import { Link } from "react-router";
import type { Catalogue, JobPage, ProvingRun, Schemas } from "../../api/client";
import type { JobEntry } from "../../api/writes";
import { JobFrame } from "../../ui/job/JobFrame";
import { LivePane } from "./LivePane";
import { usualHow } from "../../ui/job/steps";
import { OfJob } from "../../ui/job/OfJob";
import { howWords, nextStage, outcomeWords, whereWords, type How, type OnRun, type StageID } from "./run";
import { RunSheet } from "./RunSheet";
import { StageView } from "./StageView";
import { Answer } from "./Answer";
import { Gains } from "./VerdictStage";
import { May } from "../../ui/May";
import { WhoDialog } from "../../ui/WhoDialog";
import { practice } from "../../api/practice";
import { RunSeen } from "../../ui/practice/RunSeen";
import { useTaps } from "../../ui/taps";
import type { Units } from "../../ui/units";
import { when, wordsOf, type Words } from "../../ui/words";
import { ChoiceButton } from "../../ui/ChoiceButton";

/** The proving run: stage after stage, with what is read beside it, to a verdict that somebody signs. */
export function ProvingScreen() {
  return <OfJob>{(p) => <Proving {...p} />}</OfJob>;
}

/** Which run and which stage are looked at: the open run and what is next in it, until another is touched. */
function useChosen(runs: ProvingRun[]) {
  const [chosenRun, setRun] = useState<string>();
  const [stage, setStage] = useState<StageID>();
  const run = runs.find((r) => r.id === chosenRun) ?? runs.find((r) => r.open) ?? runs[runs.length - 1];
  const next = run?.open ? nextStage(run) : "verdict";
  return {
    run,
    at: stage ?? next,
    away: stage !== undefined && stage !== next && run?.open === true,
    setRun,
    setStage,
  };
}

function Proving({ catalogue, page, units }: { catalogue: Catalogue; page: JobPage; units: Units }) {
  const words = wordsOf(catalogue);
  const { keep, asking, setAsking } = useTaps(page.card.id);
  const { runs } = page.proving;
  const { run, at, away, setRun, setStage } = useChosen(runs);
  const onRun =
    (id: string): OnRun =>
    (act, label) => {
      if (act.do === "sign" || act.do === "drop") setStage("verdict");
      keep({ kind: "proving", proving: { ...act, run: id } }, label);
    };
  const begin: OnBegin = (where, how) => {
    setRun(undefined);
    setStage(undefined);
    onRun(newID())({ do: "begin", where, ...(how !== "readings" && { how }) }, "Proving run begun");
  };
  return (
    <JobFrame page={page} catalogue={catalogue}>
      <Box sx={{ maxWidth: 1400 }}>
        <Head run={run} />
        {practice && <RunSeen {...{ page, words, units }} />}
        <First page={page} onBegin={begin} />
        {runs.length > 1 && <Runs runs={runs} chosen={run?.id} onChoose={setRun} />}
        <Box
          sx={{
            display: "grid",
            gap: { xs: 2, md: 3 },
            gridTemplateColumns: {
              xs: "minmax(0, 1fr)",
              md: "200px minmax(0, 1fr)",
              xl: "200px minmax(0, 1fr) minmax(0, 1.15fr)",
            },
            alignItems: "start",
          }}
        >
          {run && <RunSheet run={run} chosen={at} onChoose={setStage} />}
          {run && (
            <Stack sx={{ gap: 2, minWidth: 0 }}>
              <May right="work">
                <AtStage {...{ page, run, at, words, units }} onRun={onRun(run.id)} onKeep={keep} onStage={setStage} />
              </May>
              {away && (
                <Button onClick={() => setStage(undefined)} sx={{ alignSelf: "flex-start", px: 0 }}>
                  To what is next →
                </Button>
              )}
            </Stack>
          )}
          <Box sx={{ minWidth: 0, gridColumn: run ? { xs: "1", md: "2", xl: "3" } : "1 / -1" }}>
            <Live {...{ page, words, units, run }} onKeep={keep} />
          </Box>
        </Box>
        {!page.closed && run && !run.open && (
          <May right="work">
            <Again page={page} onBegin={begin} />
          </May>
        )}
      </Box>
      {asking && <WhoDialog onClose={() => setAsking(false)} />}
    </JobFrame>
  );
}

/** What is read beside the run, over time; a run by hand needs none of it, and is not kept from it. */
function Live(p: Pick<Parameters<typeof LivePane>[0], "page" | "words" | "units" | "onKeep"> & { run?: ProvingRun }) {
  if (p.run?.how)
    return (
      <Stack direction="row" sx={{ gap: 2, flexWrap: "wrap", borderTop: 1, borderColor: "divider" }}>
        <Button component={Link} to={`/jobs/${p.page.card.id}/datalog`} sx={{ px: 0 }}>
          Readings over time
        </Button>
        <Button component={Link} to={`/engines/${p.page.engine.id}/feed`} sx={{ px: 0 }}>
          Gateway
        </Button>
      </Stack>
    );
  return <LivePane {...p} running={!p.page.closed && p.run?.open !== false} />;
}

/** The stage that is looked at, with how the run ended where it did. */
function AtStage(p: {
  page: JobPage;
  run: ProvingRun;
  at: StageID;
  words: Words;
  units: Units;
  onRun: OnRun;
  onKeep: (entry: JobEntry, label: string, photo?: Blob) => void;
  onStage: (s: StageID) => void;
}) {
  const { page, run, words, units, onRun } = p;
  return (
    <>
      {!run.open && <Ended run={run} job={page.card.id} onRun={onRun} />}
      {run.stages
        .filter((s) => s.id === p.at)
        .map((s) => (
          <StageView
            key={s.id}
            {...{ page, run, words, units, onRun }}
            stage={s}
            onKeep={p.onKeep}
            onStage={p.onStage}
          />
        ))}
      {!run.open && <Gains run={run} />}
    </>
  );
}

function Head({ run }: { run?: ProvingRun }) {
  return (
    <Stack direction="row" sx={{ alignItems: "baseline", gap: 2, flexWrap: "wrap", mb: 1 }}>
      <Typography variant="h1">Proving run</Typography>
      {run && (
        <Typography sx={{ color: "text.secondary" }}>
          {howWords[run.how ?? "readings"].label}, {whereWords[run.where].label.toLowerCase()}, begun{" "}
          {when(run.begun_at)}, {run.begun_by}
        </Typography>
      )}
    </Stack>
  );
}

function Runs(p: { runs: ProvingRun[]; chosen?: string; onChoose: (id: string) => void }) {
  return (
    <Stack direction="row" sx={{ gap: 0.75, flexWrap: "wrap", mb: 1.5 }}>
      {p.runs.map((r, i) => (
        <ChoiceButton
          key={r.id}
          aria-pressed={r.id === p.chosen}
          onClick={() => p.onChoose(r.id)}
          data-on={r.id === p.chosen}
        >
          Run {i + 1}: {r.dropped ? "ended" : outcomeWords[r.outcome].toLowerCase()}
        </ChoiceButton>
      ))}
    </Stack>
  );
}

type OnBegin = (where: Schemas["RunWhere"], how: How) => void;

interface BeginProps {
  page: JobPage;
  onBegin: OnBegin;
}

/** Before the first run: how it proves and where it is made; or why none can be begun. */
function First(p: BeginProps) {
  if (p.page.closed) return <Typography sx={{ mb: 1 }}>The job is closed: open it again to go on.</Typography>;
  if (p.page.proving.runs.length > 0) return null;
  return (
    <May right="work">
      <Begin {...p} />
    </May>
  );
}

function Again(p: BeginProps) {
  const [asking, setAsking] = useState(false);
  if (asking) return <Begin {...p} />;
  return (
    <ChoiceButton onClick={() => setAsking(true)} sx={{ mt: 2 }}>
      Begin another run
    </ChoiceButton>
  );
}

function Begin({ page, onBegin }: BeginProps) {
  const [how, setHow] = useState<How>(usualHow(page) ?? "readings");
  return (
    <Box component="section" aria-label="Begin a run" sx={{ my: 2 }}>
      <Typography variant="h2" sx={{ mb: 0.75 }}>
        How does it prove?
      </Typography>
      <Stack role="group" aria-label="How it proves" direction="row" sx={{ gap: 0.75, flexWrap: "wrap" }}>
        {(Object.keys(howWords) as How[]).map((h) => (
          <ChoiceButton key={h} aria-pressed={h === how} data-on={h === how} onClick={() => setHow(h)}>
            {howWords[h].label}
          </ChoiceButton>
        ))}
      </Stack>
      <Typography sx={{ mt: 0.75 }}>{howWords[how].say}</Typography>
      <Typography variant="h2" sx={{ mt: 2, mb: 0.75 }}>
        Where is it made?
      </Typography>
      <Box sx={{ display: "grid", gap: 1, gridTemplateColumns: { xs: "1fr", md: "repeat(3, 1fr)" } }}>
        {(Object.keys(whereWords) as Schemas["RunWhere"][]).map((w) => (
          <Button
            key={w}
            variant="outlined"
            onClick={() => onBegin(w, how)}
            sx={{
              flexDirection: "column",
              alignItems: "flex-start",
              textAlign: "left",
              borderColor: "text.primary",
              color: "text.primary",
              bgcolor: "background.paper",
              py: 1,
            }}
          >
            <strong>{whereWords[w].label}</strong>
            <Typography component="span" variant="body2">
              {whereWords[w].say}
            </Typography>
          </Button>
        ))}
      </Box>
    </Box>
  );
}

/** How a run ended, with its paper; the day after somebody looks for drips. */
function Ended({ run, job, onRun }: { run: ProvingRun; job: string; onRun: OnRun }) {
  const end = run.signed ?? run.dropped;
  if (!end) return null;
  return (
    <Stack sx={{ gap: 1, bgcolor: "background.paper", borderRadius: 1, p: 2 }}>
      <Typography sx={{ fontSize: "1.8rem", fontWeight: 800, lineHeight: 1.1 }}>
        {run.signed ? outcomeWords[run.outcome] : "Ended without a verdict"}
      </Typography>
      <Typography>
        {run.signed ? "Signed" : "Ended"} {when(end.at)}, {end.by}. {end.words}
      </Typography>
      <Button variant="contained" component={Link} to={`/jobs/${job}/report`} sx={{ alignSelf: "flex-start" }}>
        The owner&apos;s report
      </Button>
      {run.signed && (
        <Answer
          label="Next-day leak check"
          yes="Dry"
          no="Drips"
          is={run.next_day_dry}
          onSay={(ok) => onRun({ do: "next-day", ok }, ok ? "Dry the day after" : "Drips the day after")}
        />
      )}
    </Stack>
  );
}
