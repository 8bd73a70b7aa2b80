import { Box, Button, Stack, TextField, Typography } from "@mui/material";
import { useState } from "react";
import { Link } from "react-router";
import { Pictures, TakePicture } from "../../ui/TakePicture";
import { Cautions } from "../../ui/Cautions";
import { HandsOn, Idle, Leaks, Load, Prime, WarmUp } from "./stages";
import { StandingMark } from "./RunSheet";
import type { RunStage, Schemas } from "../../api/client";
import { BerthTyped, CruiseTyped, Needle } from "./byHand";
import { stageAfter, standingWords, type OnRun, type StageID, type StageOf } from "./run";
import { VerdictStage } from "./VerdictStage";

const bodies: Record<StageID, (p: StageOf) => React.ReactNode> = {
  ready: (p) => <HandsOn {...p} />,
  prime: (p) => <Prime {...p} />,
  "cold-leaks": (p) => <Leaks {...p} />,
  "warm-up": (p) => <WarmUp {...p} />,
  idle: (p) => <Idle {...p} />,
  load: (p) => <Load {...p} />,
  "hot-leaks": (p) => <Leaks {...p} />,
  verdict: (p) => <VerdictStage {...p} />,
};

/** What is put down otherwise in a run by hand, and in a leak run. */
const otherwise: Record<Schemas["RunHow"], Partial<typeof bodies>> = {
  "by-hand": { "warm-up": (p) => <Needle {...p} />, load: (p) => <CruiseTyped {...p} /> },
  "leak-run": { load: (p) => <BerthTyped {...p} /> },
};

function Body(p: StageOf) {
  const { stage, run } = p;
  const body = (run.how && otherwise[run.how][stage.id]) ?? bodies[stage.id];
  return body(p);
}

/** A stage: what it asks and how that stands, what to do, its cautions, and where it is put down. */
export function StageView(p: StageOf) {
  const { stage, run } = p;
  return (
    <Stack component="section" aria-label={stage.label} sx={{ gap: 1.75, minWidth: 0 }}>
      <Stack direction="row" sx={{ alignItems: "center", gap: 1.25 }}>
        <StandingMark standing={stage.standing} size={34} />
        <Typography variant="h2" sx={{ fontSize: "1.4rem" }}>
          {stage.label}: {standingWords[stage.standing]}
        </Typography>
      </Stack>
      {stage.why && <Typography>{stage.why}</Typography>}
      {run.open && <Cautions ids={stage.cautions} />}
      {run.open && stage.standing !== "passed" && (
        <Box component="ul" sx={{ m: 0, pl: 2.5, fontWeight: stage.standing === "failed" ? 700 : 450 }}>
          {stage.do.map((d) => (
            <li key={d}>{d}</li>
          ))}
        </Box>
      )}
      {stage.id !== "ready" && <Criteria stage={stage} />}
      {stage.standing === "failed" && <Onward {...p} />}
      {run.open && !p.page.closed && <Body {...p} />}
      <Pictures page={p.page} about={`run/${run.id}/${stage.id}`} />
      {run.open && !p.page.closed && (
        <Box>
          <TakePicture
            label="Take a picture"
            onTaken={(photo, said) =>
              p.onKeep(
                {
                  kind: "photo",
                  photo: { data: "", item: `run/${run.id}/${stage.id}` },
                  words: said ? `${stage.label}: ${said}` : stage.label,
                },
                "Picture saved",
                photo,
              )
            }
          />
        </Box>
      )}
      {run.open && !p.page.closed && <Otherwise stage={stage} onRun={p.onRun} />}
    </Stack>
  );
}

/** After a failure: into the trace, which knows of it; or on with the run all the same. */
function Onward({ page, run, stage, onStage }: StageOf) {
  const after = run.open ? stageAfter(run, stage.id) : undefined;
  return (
    <Stack direction="row" sx={{ gap: 1, flexWrap: "wrap" }}>
      <Button component={Link} to={`/jobs/${page.card.id}`} variant="choice">
        Back to the trace
      </Button>
      {after && <Button onClick={() => onStage(after.id)}>On to: {after.label.toLowerCase()}</Button>}
    </Stack>
  );
}

const listed = new Set<StageID>(["cold-leaks", "hot-leaks"]);

/** What is asked; of a leak round only what is no joint, for these have their own list. */
function Criteria({ stage }: { stage: RunStage }) {
  const list = listed.has(stage.id) ? stage.criteria.filter((c) => !c.id.startsWith("joint:")) : stage.criteria;
  return (
    <Box component="ul" sx={{ listStyle: "none", m: 0, p: 0 }}>
      {list.map((c) => (
        <Stack
          component="li"
          key={c.id}
          direction="row"
          sx={{ gap: 1.25, alignItems: "flex-start", borderTop: 1, borderColor: "divider", py: 0.75 }}
        >
          <StandingMark standing={c.standing} size={22} />
          <Box>
            <Typography sx={{ fontWeight: 650, lineHeight: 1.25 }}>{c.label}</Typography>
            {c.say && (
              <Typography variant="body2" sx={{ color: c.standing === "failed" ? "error.main" : "text.secondary" }}>
                {c.say}
              </Typography>
            )}
          </Box>
        </Stack>
      ))}
    </Box>
  );
}

const excusable = new Set<StageID>(["prime", "cold-leaks", "warm-up", "idle", "load", "hot-leaks"]);

/** Left out with a reason, or done afresh. */
function Otherwise({ stage, onRun }: { stage: RunStage; onRun: OnRun }) {
  const [asking, setAsking] = useState(false);
  const [words, setWords] = useState("");
  if (!excusable.has(stage.id)) return null;
  const begun = stage.standing !== "waiting" && stage.id !== "idle";
  return (
    <Stack
      direction="row"
      sx={{ gap: 1, flexWrap: "wrap", alignItems: "center", borderTop: 1, borderColor: "divider", pt: 1 }}
    >
      {begun && (
        <Button onClick={() => onRun({ do: "again", stage: stage.id }, `Afresh: ${stage.label}`)}>Do it afresh</Button>
      )}
      {stage.standing !== "passed" && !asking && (
        <Button onClick={() => setAsking(true)}>It cannot be done here</Button>
      )}
      {asking && (
        <>
          <TextField
            label="It is left out, because"
            value={words}
            onChange={(e) => setWords(e.target.value)}
            helperText="It stands in the owner's report."
            sx={{ flex: 1, minWidth: 200 }}
          />
          <Button
            disabled={!words.trim()}
            onClick={() => {
              onRun({ do: "excuse", stage: stage.id, words: words.trim() }, `Left out: ${stage.label}`);
              setAsking(false);
            }}
          >
            Leave it out
          </Button>
        </>
      )}
    </Stack>
  );
}
