import { Box, Button, Stack, TextField, Typography } from "@mui/material";
import { useEffect, useRef, useState } from "react";
import type { Schemas } from "../../api/client";
import { useAwake, useBeep, useMuted } from "../../ui/alarm";
import { Cautions } from "../../ui/Cautions";
import { sizes } from "../../ui/job/PieceLedger";
import { Attention } from "../../ui/Attention";
import { useSystem } from "../../ui/unitSystem";
import { shown, type Units } from "../../ui/units";
import { useQuantity } from "../../ui/quantity";
import { useUnkept } from "../../ui/unkept";
import { lower, when, type Words } from "../../ui/words";
import { Ending, Gains, Litres } from "./Ending";
import { LoopDrawing } from "./LoopDrawing";
import { useSaid } from "../../ui/quantity";
import { actText, stageLabels } from "../../ui/wetworkWords";
import {
  clock,
  debrisLabels,
  kindLabels,
  named,
  numberOf,
  useElapsed,
  type OnWet,
  type WetworkItem,
} from "../../ui/job/wetwork";
import { ChoiceButton } from "../../ui/ChoiceButton";

/** A piece of wet work: its plan as steps, its clock, what is seen and put down, its end, and what it brought. */
export function WorkView({
  job,
  work,
  words,
  units,
  onAct,
}: {
  job: string;
  work: WetworkItem;
  words: Words;
  units: Units;
  onAct: OnWet;
}) {
  const begun = work.log.length > 0;
  return (
    <Stack
      component="section"
      aria-label={kindLabels[work.kind]}
      sx={{ gap: 2, bgcolor: "background.paper", borderRadius: 1, p: { xs: 1.5, md: 2 } }}
    >
      <Box>
        <Typography variant="h2">
          {kindLabels[work.kind]}
          {work.flush &&
            `, ${placesOf(work)
              .map((p) => lower(words.station(p)))
              .join(", ")}`}
        </Typography>
        <Typography variant="body2" sx={{ color: "text.secondary" }}>
          Planned {when(work.planned)}, {work.by}
          {work.ended && ". Done"}
        </Typography>
      </Box>
      {/* one place in the tree, so that what is typed stays while the first tap comes back */}
      <Box sx={{ order: begun ? 1 : 3 }}>
        <Doing {...{ job, work, words, onAct }} />
      </Box>
      <Stack sx={{ gap: 2, order: 2 }}>
        {!work.ended && (
          <Cautions ids={begun ? cautionsOf[work.kind] : (work.bath?.cautions ?? cautionsOf[work.kind])} />
        )}
        <Amounts work={work} units={units} />
        {work.descale && <LoopDrawing plan={work.descale} bath={work.bath} words={words} />}
        {!work.ended && <Steps work={work} words={words} />}
      </Stack>
      <Stack sx={{ gap: 2, order: 4 }}>
        {work.missing.length > 0 && <Stages work={work} onAct={onAct} />}
        {work.balance && <Typography sx={{ fontWeight: 700 }}>{sentence(work.balance)}</Typography>}
        {!work.ended && <Ending {...{ job, work, onAct }} />}
        <Gains work={work} />
        <Lines log={work.log} words={words} />
      </Stack>
    </Stack>
  );
}

function Lines({ log, words }: { log: WetworkItem["log"]; words: Words }) {
  const said = useSaid();
  return (
    <Box component="ol" sx={{ m: 0, pl: 2.5 }}>
      {log.map((l) => (
        <li key={l.entry_id}>
          {actText(l.act, said)}
          {(l.act.do === "begin" || l.act.do === "stop") &&
            l.act.station &&
            `, ${lower(words.station(l.act.station))}`}{" "}
          <Typography component="span" variant="body2" sx={{ color: "text.secondary" }}>
            {when(l.at)}, {l.by}
          </Typography>
        </li>
      ))}
    </Box>
  );
}

/** Where a flush is done, the first place first. */
const placesOf = (work: WetworkItem) => (work.flush ? [work.flush.station, ...(work.flush.also ?? [])] : []);

interface DoingProps {
  job: string;
  work: WetworkItem;
  words: Words;
  onAct: OnWet;
}

/** The clocks, what the last look means, and what to put down: first, once the work has begun. */
function Doing({ job, work, words, onAct }: DoingProps) {
  if (work.ended) return null;
  const others = work.clocks ?? [];
  const first = work.flush?.station;
  return (
    <Stack sx={{ gap: 2 }}>
      <Clock
        clock={work}
        looks={work.kind === "descale"}
        onAct={onAct}
        {...(others.length > 0 && first && { at: first, name: words.station(first) })}
      />
      {others.map((c) => (
        <Clock key={c.station} clock={c} onAct={onAct} at={c.station} name={words.station(c.station)} />
      ))}
      {work.advice.map((a) => (
        <Attention key={a}>{sentence(a)}</Attention>
      ))}
      {forms[work.kind]({ job, work, words, onAct })}
    </Stack>
  );
}

const cautionsOf = { flush: ["flooding", "waste"], descale: ["acid-bath"], coolant: ["scald", "glycol", "waste"] };

/** What is seen and put down while the work goes on. */
const forms: Record<Schemas["WetworkKind"], (p: DoingProps) => React.ReactNode> = {
  flush: (p) => <CameOut places={placesOf(p.work)} words={p.words} onAct={p.onAct} />,
  descale: ({ job, work, onAct }) => (work.descale?.product.caustic ? null : <Bath job={job} onAct={onAct} />),
  coolant: ({ job, onAct }) => <Litres job={job} onAct={onAct} />,
};

const sentence = (s: string) => `${s.charAt(0).toUpperCase()}${s.slice(1)}.`;

function Amounts({ work, units }: { work: WetworkItem; units: Units }) {
  const system = useSystem();
  const litres = (v: number) => shown(units, system, v, "L");
  const degrees = (v: number) => shown(units, system, v, "degC");
  const lines = [...bathLines(work.bath, litres, degrees), ...coolantLines(work, litres, degrees)];
  if (lines.length === 0) return null;
  return (
    <Box>
      <Box component="dl" sx={{ m: 0 }}>
        {lines.map(([label, value]) => (
          <Stack
            key={label}
            direction="row"
            sx={{ justifyContent: "space-between", gap: 2, borderTop: 1, borderColor: "divider", py: 0.5 }}
          >
            <Typography component="dt">{label}</Typography>
            <Typography component="dd" sx={{ m: 0, fontWeight: 700, textAlign: "right" }}>
              {value}
            </Typography>
          </Stack>
        ))}
      </Box>
      {work.bath?.warnings.map((w) => (
        <Attention key={w}>{sentence(w)}</Attention>
      ))}
    </Box>
  );
}

type Say = (v: number) => string;

function bathLines(b: WetworkItem["bath"], litres: Say, degrees: Say): [string, string][] {
  if (!b) return [];
  const stock = b.stock_l > 0 ? litres(b.stock_l) : `${(b.stock_kg ?? 0).toFixed(2)} kg, weighed`;
  const lines: [string, string][] = [
    ["Water first", litres(b.water_l)],
    ["Then the product", stock],
  ];
  if (b.capacity_g) lines.push(["Takes, of scale, before it is spent", `${Math.round(b.capacity_g / 10) * 10} g`]);
  if (b.share_low !== undefined && b.share_high !== undefined) {
    const [low, high] = [Math.round(b.share_low), Math.round(b.share_high)];
    lines.push(["Of the scale in there", low >= 100 ? "all of it" : `${low} to ${high} %`]);
  }
  if (b.fuse_a) lines.push(["Fuse for the pump", `${b.fuse_a} A`]);
  return [...lines, ["Never warmer than", degrees(b.most_c)]];
}

function coolantLines(w: WetworkItem, litres: Say, degrees: Say): [string, string][] {
  if (w.concentrate_l === undefined) return [];
  return [
    ["Concentrate", litres(w.concentrate_l)],
    ["Soft water", litres(w.water_l ?? 0)],
    ["The system holds", litres(w.system_l ?? 0)],
    ["Begins to freeze at", degrees(w.freeze_c ?? 0)],
    ["Out and in so far", `${litres(w.out_l)}, ${litres(w.in_l)}`],
    ["Next change", `in ${w.years ?? 0} years`],
  ];
}

function Steps({ work, words }: { work: WetworkItem; words: Words }) {
  return (
    <Box>
      <Typography variant="h3">In this order</Typography>
      <Box component="ol" sx={{ m: 0, pl: 2.75 }}>
        {work.steps.map((s, i) => (
          <li key={i}>
            {s.station && <strong>{words.station(s.station)}: </strong>}
            {s.station ? named(s.say, words) : sentence(named(s.say, words)).slice(0, -1)}
            {s.minutes ? ` (${Math.round(s.minutes)} min)` : ""}
          </li>
        ))}
      </Box>
    </Box>
  );
}

interface ClockProps {
  clock: Pick<WetworkItem, "running" | "elapsed_s" | "left_s">;
  /** It calls for a look at the bath as it goes on. */
  looks?: boolean;
  /** Of several places: which, and its name. */
  at?: string;
  name?: string;
  onAct: OnWet;
}

function Clock({ clock: c, looks = false, at, name, onAct }: ClockProps) {
  const elapsed = useElapsed(c);
  const left = c.left_s + c.elapsed_s - elapsed;
  const [muted, mute] = useMuted();
  useAwake(c.running);
  useSignals({ running: c.running, looks, elapsed, left }, useBeep(muted));
  const verb = c.running ? "Pause" : c.elapsed_s > 0 ? "Resume" : "Begin";
  return (
    <Box
      component="section"
      aria-label={name ? `Clock: ${name}` : "Clock"}
      sx={{ borderTop: 3, borderBottom: 3, borderColor: "text.primary", py: 1 }}
    >
      {name && <Typography variant="h3">{name}</Typography>}
      <Stack direction="row" sx={{ alignItems: "baseline", gap: 2 }}>
        <Typography role="timer" sx={{ fontSize: "2.4rem", fontWeight: 800, lineHeight: 1 }}>
          {clock(elapsed)}
        </Typography>
        <Typography
          sx={{ mr: "auto", color: left < 0 ? "error.main" : "text.secondary", fontWeight: left < 0 ? 700 : 450 }}
        >
          {left < 0 ? `${clock(left)} over its time` : `${clock(left)} to go`}
        </Typography>
        {c.running && (
          <Button size="small" onClick={mute} aria-pressed={muted}>
            {muted ? "Sound is off" : "Sound is on"}
          </Button>
        )}
      </Stack>
      <Button
        variant={c.running ? "outlined" : "contained"}
        fullWidth
        aria-label={name ? `${verb}: ${name}` : verb}
        onClick={() =>
          onAct({ do: c.running ? "stop" : "begin", ...(at && { station: at }) }, c.running ? "Stopped" : "Begun")
        }
        sx={{ mt: 1, minHeight: 56, ...(c.running && { borderColor: "text.primary", color: "text.primary" }) }}
      >
        {verb}
      </Button>
    </Box>
  );
}

/** A bath is looked at as often; common practice. In s. */
const lookEvery = 600;

interface Signals {
  running: boolean;
  looks: boolean;
  elapsed: number;
  left: number;
}

/** Calls by sound and touch when the time is up, and when a bath is to be looked at again. */
function useSignals(c: Signals, beep: (stop: boolean) => void) {
  const over = c.left < 0;
  const looks = c.looks ? Math.floor(c.elapsed / lookEvery) : 0;
  const last = useRef({ over, looks });
  useEffect(() => {
    const was = last.current;
    last.current = { over, looks };
    if (!c.running) return;
    if (over && !was.over) beep(true);
    else if (looks > was.looks) beep(false);
  }, [over, looks, c.running, beep]);
}

const fizzes = ["strong", "weak", "none"] as const;
const colours = ["clear", "brown", "green", "blue"];

interface BathDraft {
  ph: string;
  temp: string;
  fizz?: Schemas["Fizz"];
  colour?: string;
}

function Bath({ job, onAct }: { job: string; onAct: OnWet }) {
  const empty: BathDraft = { ph: "", temp: "" };
  const [draft, setDraft, forget] = useUnkept(job, "The bath", empty);
  const { ph, temp, fizz, colour } = draft;
  const degrees = useQuantity("degC");
  const set = (change: BathDraft | Partial<BathDraft>) => setDraft({ ...draft, ...change });
  const [p, t] = [numberOf(ph), degrees.read(temp)];
  const keep = () => {
    onAct(
      {
        do: "read",
        bath: {
          ...(p !== undefined && { ph: p }),
          ...(t !== undefined && { temp_c: t }),
          ...(fizz && { fizz }),
          ...(colour && { colour }),
        },
      },
      "Reading saved",
    );
    setDraft(empty);
    forget();
  };
  return (
    <Box component="section" aria-label="Read the bath">
      <Typography variant="h3">What do you see?</Typography>
      <Stack direction="row" role="group" aria-label="Fizz" sx={{ flexWrap: "wrap", gap: 0.75, my: 0.75 }}>
        {fizzes.map((f) => (
          <ChoiceButton key={f} aria-pressed={fizz === f} onClick={() => set({ fizz: f })} data-on={fizz === f}>
            {f === "none" ? "no fizz" : `${f} fizz`}
          </ChoiceButton>
        ))}
      </Stack>
      <Stack direction="row" role="group" aria-label="Colour" sx={{ flexWrap: "wrap", gap: 0.75, my: 0.75 }}>
        {colours.map((c) => (
          <ChoiceButton key={c} aria-pressed={colour === c} onClick={() => set({ colour: c })} data-on={colour === c}>
            {c}
          </ChoiceButton>
        ))}
      </Stack>
      <Stack direction="row" sx={{ gap: 1 }}>
        <TextField label="pH strip" value={ph} onChange={(e) => set({ ph: e.target.value })} sx={{ flex: 1 }} />
        <TextField
          label={`Bath, ${degrees.symbol}`}
          value={temp}
          onChange={(e) => set({ temp: e.target.value })}
          sx={{ flex: 1 }}
        />
        <Button variant="contained" disabled={p === undefined && t === undefined && !fizz && !colour} onClick={keep}>
          Save
        </Button>
      </Stack>
    </Box>
  );
}

function Stages({ work, onAct }: { work: WetworkItem; onAct: OnWet }) {
  return (
    <Box component="section" aria-label="After the bath">
      <Typography variant="h3">After the bath; the job stays open until it is done</Typography>
      <Stack direction="row" sx={{ flexWrap: "wrap", gap: 0.75, mt: 0.75 }}>
        {work.missing.map((s) => (
          <ChoiceButton key={s} onClick={() => onAct({ do: "stage", what: s }, stageLabels[s] ?? s)}>
            {stageLabels[s] ?? s}
          </ChoiceButton>
        ))}
      </Stack>
    </Box>
  );
}

function CameOut({ places, words: names, onAct }: { places: string[]; words: Words; onAct: OnWet }) {
  const [words, setWords] = useState("");
  const [at, setAt] = useState(places[0] ?? "");
  const station = places.includes(at) ? at : (places[0] ?? "");
  const [rubber, setRubber] = useState(false);
  const came = (what: Schemas["DebrisID"], share?: number) => {
    const said = words.trim();
    onAct(
      { do: "came-out", what, station, ...(share && { share }), ...(said && { words: said }) },
      `Came out: ${what}`,
    );
    setWords("");
    setRubber(false);
  };
  return (
    <Box component="section" aria-label="What came out">
      <Typography variant="h3">What came out?</Typography>
      {places.length > 1 && (
        <Stack direction="row" role="group" aria-label="Where" sx={{ flexWrap: "wrap", gap: 0.75, mt: 0.75 }}>
          {places.map((p) => (
            <ChoiceButton key={p} aria-pressed={p === station} data-on={p === station} onClick={() => setAt(p)}>
              {names.station(p)}
            </ChoiceButton>
          ))}
        </Stack>
      )}
      <TextField
        label="How much, which way"
        value={words}
        onChange={(e) => setWords(e.target.value)}
        fullWidth
        sx={{ my: 0.75 }}
      />
      <Stack direction="row" sx={{ flexWrap: "wrap", gap: 0.75 }}>
        {(Object.keys(debrisLabels) as Schemas["DebrisID"][]).map((d) => (
          <ChoiceButton
            key={d}
            onClick={() => (d === "rubber" ? setRubber(!rubber) : came(d))}
            data-on={d === "rubber" && rubber}
          >
            {debrisLabels[d]}
          </ChoiceButton>
        ))}
      </Stack>
      {rubber && (
        <Stack direction="row" role="group" aria-label="How large" sx={{ flexWrap: "wrap", gap: 0.75, mt: 0.75 }}>
          {sizes.map(([label, share]) => (
            <ChoiceButton key={label} onClick={() => came("rubber", share)}>
              {label}
            </ChoiceButton>
          ))}
        </Stack>
      )}
      <Typography variant="body2" sx={{ color: "text.secondary", mt: 0.5 }}>
        Rubber goes into the job&apos;s piece ledger by itself.
      </Typography>
    </Box>
  );
}
