import { Box, Button, Stack, TextField, Typography } from "@mui/material";
import { useState } from "react";
import { Link, useNavigate } from "react-router";
import type { Schemas } from "../../api/client";
import { StartList } from "../../ui/job/StartList";
import { Attention } from "../../ui/Attention";
import { Answer } from "./Answer";
import { CruiseTyped } from "./byHand";
import { useSystem } from "../../ui/unitSystem";
import { typedNumber } from "../../ui/readings/rounds";
import { FeedRound } from "./FeedRound";
import { PrimeClock } from "./PrimeClock";
import { jointWords } from "./run";
import type { StageOf } from "./run";
import { ChoiceButton } from "../../ui/ChoiceButton";

/** The start list of the job: the run begins where the work ended. */
export function HandsOn({ page, stage, onKeep }: StageOf) {
  const go = useNavigate();
  if (stage.standing === "passed") return null;
  return <StartList page={page} onKeep={onKeep} onPane={() => void go(`/jobs/${page.card.id}/teardown`)} />;
}

export function Prime({ stage, onRun }: StageOf) {
  const [soap, setSoap] = useState(false);
  const [watching, setWatching] = useState(false);
  if (stage.standing === "passed") return null;
  return (
    <Stack sx={{ gap: 1.5 }}>
      <Stack direction="row" sx={{ gap: 0.75, alignItems: "center" }} role="group" aria-label="Soap in the pump">
        <Typography sx={{ mr: "auto" }}>Soap in the pump</Typography>
        {[false, true].map((s) => (
          <ChoiceButton key={String(s)} aria-pressed={soap === s} onClick={() => setSoap(s)} data-on={soap === s}>
            {s ? "Yes" : "No"}
          </ChoiceButton>
        ))}
      </Stack>
      <Button variant="contained" onClick={() => setWatching(true)} sx={{ minHeight: 72, fontSize: "1.2rem" }}>
        The priming clock
      </Button>
      {watching && (
        <PrimeClock
          soap={soap}
          onLeave={() => setWatching(false)}
          onDone={(p) => {
            setWatching(false);
            onRun({ do: "prime", ...p }, p.water ? `Water after ${p.seconds} s` : "No water, stopped");
          }}
        />
      )}
    </Stack>
  );
}

/** A leak round: every joint that was touched, the nose, and after the run the bilge. */
export function Leaks({ run, stage, onRun }: StageOf) {
  const hot = stage.id === "hot-leaks";
  const leaks = hot ? run.hot : run.cold;
  const at = (joint: string) => leaks.joints.find((j) => j.joint === joint);
  const look = (j: Schemas["Joint"], state: Schemas["JointState"]) =>
    onRun(
      { do: "look", stage: stage.id, joint: j.id, ...(j.station && { station: j.station }), state },
      `${j.label}: ${state}`,
    );
  const rest = run.joints.filter((j) => !at(j.id));
  return (
    <Box>
      {run.joints.map((j) => (
        <Stack
          key={j.id}
          direction="row"
          role="group"
          aria-label={j.label}
          sx={{ gap: 0.75, alignItems: "center", borderTop: 1, borderColor: "divider", py: 0.5, flexWrap: "wrap" }}
        >
          <Typography sx={{ mr: "auto", fontWeight: 600, minWidth: 130, flex: "1 1 130px" }}>{j.label}</Typography>
          {(["dry", "damp", "drips"] as const).map((s) => (
            <ChoiceButton
              key={s}
              aria-pressed={at(j.id)?.state === s}
              onClick={() => look(j, s)}
              data-on={at(j.id)?.state === s}
              sx={{ px: 1.5 }}
            >
              {jointWords[s]}
            </ChoiceButton>
          ))}
        </Stack>
      ))}
      {rest.length > 1 && (
        <ChoiceButton onClick={() => rest.forEach((j) => look(j, "dry"))} sx={{ my: 1 }}>
          {rest.length === run.joints.length ? "All of them are dry" : "All the others are dry"}
        </ChoiceButton>
      )}
      <Answer
        label="Smell and sound"
        yes="Nothing"
        no="Something"
        is={leaks.smelt === undefined ? undefined : !leaks.smelt}
        onSay={(ok) =>
          onRun({ do: "smell", stage: stage.id, ok }, ok ? "Nothing to smell or hear" : "Something to smell or hear")
        }
      />
      {hot && (
        <Answer
          label="The bilge"
          yes="Dry"
          no="Wet"
          is={leaks.bilge_dry}
          onSay={(ok) => onRun({ do: "bilge", ok }, ok ? "The bilge is dry" : "The bilge is wet")}
        />
      )}
    </Box>
  );
}

/** The warm-up is judged from a recording; the gauge beside a thermometer where no probe told it. */
export function WarmUp({ page, run, units, onRun }: StageOf) {
  const { recordings, has_feed: hasFeed } = page.proving;
  const latest = recordings[recordings.length - 1];
  return (
    <Stack sx={{ gap: 1.5 }}>
      {!latest && (
        <Attention>
          {hasFeed
            ? "Record the feed first: beside this, or below it on a phone."
            : "Nothing is recorded yet: take in a logger's file, type readings, or set up the gateway."}
        </Attention>
      )}
      {latest && (
        <Button
          variant="contained"
          onClick={() => onRun({ do: "warm-up", recording: latest.id }, "Warm-up judged")}
          sx={{ minHeight: 56 }}
        >
          {run.warmed ? "Judge it again as it stands now" : "Judge the warm-up as it stands now"}
        </Button>
      )}
      <GaugeBeside units={units} onRun={onRun} />
    </Stack>
  );
}

function GaugeBeside({ units, onRun }: Pick<StageOf, "units" | "onRun">) {
  const system = useSystem();
  const [gauge, setGauge] = useState("");
  const [probe, setProbe] = useState("");
  const [g, p] = [gauge, probe].map((t) => typedNumber(t, "degC", units, system));
  const symbol = units.shownAs("degC", system)?.symbol ?? "";
  return (
    <Box component="section" aria-label="Gauge beside a thermometer">
      <Typography variant="h3" sx={{ mb: 0.75 }}>
        Gauge beside a thermometer at the sender
      </Typography>
      <Stack direction="row" sx={{ gap: 1 }}>
        <TextField
          label={`Gauge, ${symbol}`}
          value={gauge}
          onChange={(e) => setGauge(e.target.value)}
          slotProps={{ htmlInput: { inputMode: "decimal" } }}
          sx={field}
        />
        <TextField
          label={`Thermometer, ${symbol}`}
          value={probe}
          onChange={(e) => setProbe(e.target.value)}
          slotProps={{ htmlInput: { inputMode: "decimal" } }}
          sx={field}
        />
        <Button
          disabled={g === undefined || p === undefined}
          onClick={() => {
            if (g !== undefined && p !== undefined) onRun({ do: "gauge", gauge_c: g, probe_c: p }, "Gauge compared");
            setGauge("");
            setProbe("");
          }}
        >
          Save
        </Button>
      </Stack>
    </Box>
  );
}

const field = { flex: 1, minWidth: 0, bgcolor: "background.paper" };

/** A round of readings, off the feed or typed. */
export function Idle(p: StageOf) {
  return <TakeRound {...p} say="At idle" />;
}

function TakeRound({ page, words, units, onKeep, say }: StageOf & { say: string }) {
  return (
    <Stack sx={{ gap: 1 }}>
      {page.proving.has_feed && (
        <FeedRound
          engine={page.engine.id}
          {...{ words, units }}
          onKeep={(round) => onKeep({ kind: "round", round, words: say }, "A round saved")}
        />
      )}
      <Button component={Link} to={`/jobs/${page.card.id}/round`} variant="choice" sx={{ alignSelf: "flex-start" }}>
        Take a round by hand
      </Button>
    </Stack>
  );
}

export function Load(p: StageOf) {
  const { page, onRun } = p;
  const open = page.proving.recordings.find((r) => r.open);
  return (
    <Stack sx={{ gap: 2 }}>
      {open && (
        <Button
          variant="contained"
          onClick={() => onRun({ do: "load" }, "Load, by the recording")}
          sx={{ minHeight: 56 }}
        >
          Take minutes and speed from the recording
        </Button>
      )}
      <CruiseTyped {...p} />
      <TakeRound {...p} say="Under load" />
    </Stack>
  );
}
