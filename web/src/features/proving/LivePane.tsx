import { Later } from "../../ui/chart/Later";
import { newID } from "../../api/ids";
import { Alert, Box, Button, Stack, Typography } from "@mui/material";
import { useTheme } from "@mui/material/styles";
import { lazy, useState } from "react";
import { Link } from "react-router";
import type { JobPage, Schemas } from "../../api/client";
import { useRecording } from "../../api/queries";
import { type JobEntry } from "../../api/writes";
import { Attention } from "../../ui/Attention";
import { useSystem } from "../../ui/unitSystem";
import { convertError, shown, signed, type Units } from "../../ui/units";
import type { Words } from "../../ui/words";
import { feedWords, placeKey, placeWords, unitOf, useHeard, type Heard } from "./live";
import { ChoiceButton } from "../../ui/ChoiceButton";

const Lanes = lazy(() => import("./Lanes").then((m) => ({ default: m.Lanes })));

interface PaneOf {
  page: JobPage;
  words: Words;
  units: Units;
  /** A run is open, or may be begun: what is read now counts. */
  running: boolean;
  onKeep: (entry: JobEntry, label: string) => void;
}

/**
 * Which recording is looked at: the one that goes on, else
 * the newest, until another is touched; or the feed as it is.
 */
function useShown(recordings: Schemas["StoredRecording"][], feeding: boolean) {
  const [chosen, setChosen] = useState<string>();
  const open = recordings.find((r) => r.open);
  const at = chosen ?? open?.id ?? recordings[recordings.length - 1]?.id ?? "";
  const live = feeding && chosen === undefined && (open !== undefined || recordings.length === 0);
  return { open, at, live, setChosen };
}

/** What the feed tells now and what is recorded, drawn as it comes, with what it shows so far. */
export function LivePane(p: PaneOf) {
  const { page } = p;
  const { recordings } = page.proving;
  const feeding = page.proving.has_feed && p.running;
  const { open, at, live, setChosen } = useShown(recordings, feeding);
  const heard = useHeard(page.engine.id, feeding);
  const { data } = useRecording(page.card.id, at, at === open?.id);
  return (
    <Stack
      component="section"
      aria-label="Live readings"
      sx={{ gap: 1.5, bgcolor: "background.paper", borderRadius: 1, p: { xs: 1.5, md: 2 } }}
    >
      <Stack direction="row" sx={{ alignItems: "center", gap: 1, flexWrap: "wrap" }}>
        <Typography variant="h2" sx={{ mr: "auto" }}>
          {titleOf(live, data !== undefined)}
        </Typography>
        {feeding && <Recorder open={open} onKeep={p.onKeep} onChange={() => setChosen(undefined)} />}
      </Stack>
      {feeding && <FeedState heard={heard} engine={page.engine.id} />}
      {live && heard.status && <Now heard={heard} words={p.words} units={p.units} />}
      {data && <Recorded data={data} words={p.words} units={p.units} />}
      {!data && live && <Places tracks={heard.tracks} limits={heard.limits} words={p.words} units={p.units} />}
      {!feeding && recordings.length === 0 && (
        <Typography sx={{ color: "text.secondary" }}>
          Nothing is recorded yet. A gateway aboard, a logger's file, or readings typed one by one: each draws the
          warm-up and is judged.
        </Typography>
      )}
      {recordings.length > 1 && <Choice recordings={recordings} chosen={at} onChoose={setChosen} />}
      {!page.closed && <Sources page={page} />}
    </Stack>
  );
}

function titleOf(live: boolean, recorded: boolean): string {
  if (live) return "Live";
  return recorded ? "Recorded" : "Readings over time";
}

function Choice(p: { recordings: Schemas["StoredRecording"][]; chosen: string; onChoose: (id: string) => void }) {
  return (
    <Stack direction="row" sx={{ flexWrap: "wrap", gap: 1 }}>
      {p.recordings.map((r, i) => (
        <ChoiceButton
          key={r.id}
          aria-pressed={r.id === p.chosen}
          onClick={() => p.onChoose(r.id)}
          data-on={r.id === p.chosen}
        >
          {r.source === "file" ? r.name : `Recording ${i + 1}`}
        </ChoiceButton>
      ))}
    </Stack>
  );
}

function Sources({ page }: { page: JobPage }) {
  return (
    <Stack direction="row" sx={{ flexWrap: "wrap", columnGap: 2 }}>
      <Button component={Link} to={`/engines/${page.engine.id}/feed`} sx={{ px: 0 }}>
        {page.proving.has_feed ? "The gateway" : "Set up a gateway"}
      </Button>
      <Button component={Link} to={`/jobs/${page.card.id}/datalog`} sx={{ px: 0 }}>
        Take in a logger's file, or type readings
      </Button>
    </Stack>
  );
}

/** A recording with what it shows, its gaps, and what was left out of a file. */
function Recorded({ data, words, units }: { data: Schemas["RecordingPage"]; words: Words; units: Units }) {
  const gaps = data.gaps === 1 ? "One gap" : `${data.gaps} gaps`;
  return (
    <>
      <Places {...data} {...{ words, units }} until={data.seconds} />
      <Shows analysis={data.analysis} units={units} />
      {data.gaps > 0 && <Attention>{`${gaps} in what was read: shown as such.`}</Attention>}
      {data.kept.left_out.length > 0 && (
        <Typography variant="body2" sx={{ color: "text.secondary" }}>
          Left out of the file:{" "}
          {data.kept.left_out.map((l) => `${l.count} × ${l.why}, first in line ${l.line}`).join("; ")}
        </Typography>
      )}
    </>
  );
}

function Recorder(p: {
  open?: Schemas["StoredRecording"];
  onKeep: (entry: JobEntry, label: string) => void;
  onChange: () => void;
}) {
  const { open } = p;
  const send = (id: string, verb: "begin" | "end", label: string) => {
    p.onChange();
    p.onKeep({ kind: "recording", recording: { id, do: verb } }, label);
  };
  return open ? (
    <ChoiceButton onClick={() => send(open.id, "end", "Recording ended")}>
      <RecordMark on /> End the recording
    </ChoiceButton>
  ) : (
    <Button variant="contained" onClick={() => send(newID(), "begin", "Recording")}>
      Record the feed
    </Button>
  );
}

function RecordMark({ on }: { on: boolean }) {
  const { water } = useTheme();
  return (
    <svg width="16" height="16" aria-hidden="true" style={{ marginRight: 8 }}>
      <rect x="2" y="2" width="12" height="12" fill={on ? water.found : "none"} stroke="currentColor" strokeWidth="2" />
    </svg>
  );
}

function FeedState({ heard, engine }: { heard: Heard; engine: string }) {
  const said = feedWords(heard);
  if (said === "") return null;
  const calling = !heard.cut && (heard.status?.state ?? "connecting") === "connecting";
  return (
    <Alert
      severity={calling ? "info" : "error"}
      icon={false}
      role="status"
      action={
        <Button color="inherit" component={Link} to={`/engines/${engine}/feed`}>
          Look
        </Button>
      }
    >
      <strong>{said}</strong>
    </Alert>
  );
}

/** The newest value of every place, large enough to read from the outlet; dimmed once it is old. */
function Now({ heard, words, units }: { heard: Heard; words: Words; units: Units }) {
  const system = useSystem();
  const { water } = useTheme();
  const now = heard.status?.seconds ?? 0;
  return (
    <Box
      component="dl"
      sx={{ m: 0, display: "grid", gridTemplateColumns: "repeat(auto-fill, minmax(126px, 1fr))", gap: 1 }}
    >
      {heard.tracks.flatMap((t) => {
        const value = t.values[t.values.length - 1];
        if (value === undefined) return [];
        const ago = now - (t.seconds[t.seconds.length - 1] ?? now);
        const old = ago > Math.max(10, 2 * (t.gap_s ?? 5)) || heard.cut || heard.status?.state !== "connected";
        const over = heard.limits.find((l) => l.stop && placeKey(l.place) === placeKey(t.place) && value >= l.at);
        return [
          <Box
            key={placeKey(t.place)}
            sx={{ borderTop: 2, borderColor: over ? water.found : "divider", pt: 0.25, opacity: old ? 0.75 : 1 }}
          >
            <Typography component="dt" variant="body2" sx={{ lineHeight: 1.2 }}>
              {placeWords(t.place, words)}
            </Typography>
            <Typography
              component="dd"
              sx={{ m: 0, fontWeight: 750, fontSize: "1.2rem", color: over ? water.found : "text.primary" }}
            >
              {old ? "lost" : shown(units, system, value, unitOf(t.place))}
              {over && `: ${over.label.toLowerCase()}`}
            </Typography>
          </Box>,
        ];
      })}
    </Box>
  );
}

/** The lanes with a choice of places. */
function Places(p: React.ComponentProps<typeof Lanes>) {
  const [hidden, setHidden] = useState<string[]>(["space."]);
  const [choosing, setChoosing] = useState(false);
  const tracks = p.tracks.filter((t) => !hidden.includes(placeKey(t.place)));
  const turn = (key: string) => setHidden(hidden.includes(key) ? hidden.filter((k) => k !== key) : [...hidden, key]);
  return (
    <Box>
      <Later height={420}>
        <Lanes {...p} tracks={tracks} />
      </Later>
      {p.tracks.length > 1 && (
        <Button onClick={() => setChoosing(!choosing)} aria-expanded={choosing} sx={{ px: 0 }}>
          {choosing ? "Done" : `${tracks.length} of ${p.tracks.length} places shown`}
        </Button>
      )}
      {choosing && (
        <Stack direction="row" sx={{ flexWrap: "wrap", gap: 0.75 }}>
          {p.tracks.map((t) => {
            const key = placeKey(t.place);
            return (
              <ChoiceButton
                key={key}
                aria-pressed={!hidden.includes(key)}
                onClick={() => turn(key)}
                data-on={!hidden.includes(key)}
              >
                {placeWords(t.place, p.words)}
              </ChoiceButton>
            );
          })}
        </Stack>
      )}
    </Box>
  );
}

export const loadWords: Record<Schemas["RunLoad"], string> = {
  idle: "idling",
  cruise: "at cruising speed",
  full: "at full speed",
};

export const verdictWords: Record<Schemas["RunVerdict"], string> = {
  steady: "Steady where it should be",
  "still-rising": "Still rising",
  "below-rating": "Steady, too cool",
  "above-rating": "Steady, too hot",
  "too-short": "Too short to judge",
  unsteady: "Does not come to rest",
};

/** What a recording shows so far, in figures and a sentence. */
export function Shows({ analysis: a, units }: { analysis: Schemas["RunAnalysis"]; units: Units }) {
  const system = useSystem();
  const degrees = (v: number) => shown(units, system, v, "degC");
  const [kelvin, own] = [units.find("K"), units.shownAs("K", system)];
  const difference = (v: number) =>
    `${signed(kelvin && own ? convertError(v, kelvin, own) : v)}\u00a0${own?.symbol ?? "K"}`;
  const lines: [string, string | undefined][] = [
    [
      "Now",
      a.now_c === undefined
        ? undefined
        : `${degrees(a.now_c)}${a.slope_now_c_min === undefined ? "" : `, ${difference(a.slope_now_c_min)} a minute`}`,
    ],
    [
      "To the thermostat's rating",
      a.to_rating_min === undefined ? undefined : `about ${Math.max(1, Math.round(a.to_rating_min))} min`,
    ],
    ["Thermostat opens at", a.opened_c === undefined ? undefined : degrees(a.opened_c)],
    ["Plateau", a.plateau_c === undefined ? undefined : `${degrees(a.plateau_c)}, ${loadWords[a.load]}`],
    ["Overshoot", a.overshoot_c === undefined ? undefined : difference(a.overshoot_c)],
    ["Steady after", a.steady_after_s === undefined ? undefined : `${Math.round(a.steady_after_s / 60)} min`],
    ["Gauge less probe", a.gauge_off_c === undefined ? undefined : difference(a.gauge_off_c)],
    ["At cruising speed", a.cruise_minutes === undefined ? undefined : `${a.cruise_minutes.toFixed(0)} min`],
    ["Highest speed", a.top_rpm === undefined ? undefined : `${Math.round(a.top_rpm)} rev/min`],
  ];
  return (
    <Box aria-label="What it shows" component="section">
      <Typography sx={{ fontWeight: 750, fontSize: "1.15rem" }}>{verdictWords[a.verdict]}</Typography>
      {a.over_alarm && <Alert severity="error">Over the alarm: take the load off, and look at once.</Alert>}
      <Box component="dl" sx={{ m: 0, display: "grid", gridTemplateColumns: "minmax(0, 1fr) auto", columnGap: 2 }}>
        {lines.flatMap(([label, value]) =>
          value === undefined
            ? []
            : [
                <Typography key={label} component="dt">
                  {label}
                </Typography>,
                <Typography key={`${label} is`} component="dd" sx={{ m: 0, fontWeight: 700, textAlign: "right" }}>
                  {value}
                </Typography>,
              ],
        )}
      </Box>
      {a.reasons.map((r) => (
        <Typography key={r} variant="body2" sx={{ color: "text.secondary" }}>
          {r}
        </Typography>
      ))}
    </Box>
  );
}
