import { Box, Button, Stack, TextField, Typography } from "@mui/material";
import { useEffect, useRef, useState } from "react";
import type { Schemas } from "../../api/client";
import { useAwake, useBeep, useMuted } from "../../ui/alarm";
import { Cautions } from "../../ui/Cautions";
import { sizes } from "../../ui/job/PieceLedger";
import { Attention } from "../../ui/Attention";
import { useSystem } from "../../ui/unitSystem";
import { shown, type Units } from "../../ui/units";
import { when, type Words } from "../../ui/words";
import { Ending, Gains, Litres } from "./Ending";
import { LoopDrawing } from "./LoopDrawing";
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

/** A piece of wet work: its plan as steps, its clock, what is seen and put down, its end, and what it brought. */
export function WorkView({
  work,
  words,
  units,
  onAct,
}: {
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
          {work.flush && `, ${words.station(work.flush.station).toLowerCase()}`}
        </Typography>
        <Typography variant="body2" sx={{ color: "text.secondary" }}>
          Planned {when(work.planned)}, {work.by}
          {work.ended && ". Done"}
        </Typography>
      </Box>
      {/* one place in the tree, so that what is typed stays while the first tap comes back */}
      <Box sx={{ order: begun ? 1 : 3 }}>
        <Doing work={work} onAct={onAct} />
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
        {!work.ended && <Ending onAct={onAct} />}
        <Gains work={work} />
        <Lines log={work.log} />
      </Stack>
    </Stack>
  );
}

function Lines({ log }: { log: WetworkItem["log"] }) {
  return (
    <Box component="ol" sx={{ m: 0, pl: 2.5 }}>
      {log.map((l) => (
        <li key={l.entry_id}>
          {actText(l.act)}{" "}
          <Typography component="span" variant="body2" sx={{ color: "text.secondary" }}>
            {when(l.at)}, {l.by}
          </Typography>
        </li>
      ))}
    </Box>
  );
}

/** The clock, what the last look means, and what to put down: first, once the work has begun. */
function Doing({ work, onAct }: { work: WetworkItem; onAct: OnWet }) {
  if (work.ended) return null;
  return (
    <Stack sx={{ gap: 2 }}>
      <Clock work={work} onAct={onAct} />
      {work.advice.map((a) => (
        <Attention key={a}>{sentence(a)}</Attention>
      ))}
      {forms[work.kind](work, onAct)}
    </Stack>
  );
}

const cautionsOf = { flush: ["flooding", "waste"], descale: ["acid-bath"], coolant: ["scald", "glycol", "waste"] };

/** What is seen and put down while the work goes on. */
const forms: Record<Schemas["WetworkKind"], (work: WetworkItem, onAct: OnWet) => React.ReactNode> = {
  flush: (work, onAct) => <CameOut station={work.flush?.station ?? ""} onAct={onAct} />,
  descale: (_, onAct) => <Bath onAct={onAct} />,
  coolant: (_, onAct) => <Litres onAct={onAct} />,
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

function Clock({ work, onAct }: { work: WetworkItem; onAct: OnWet }) {
  const elapsed = useElapsed(work);
  const left = work.left_s + work.elapsed_s - elapsed;
  const [muted, mute] = useMuted();
  useAwake(work.running);
  useSignals(work, elapsed, left, useBeep(muted));
  return (
    <Box
      component="section"
      aria-label="Clock"
      sx={{ borderTop: 3, borderBottom: 3, borderColor: "text.primary", py: 1 }}
    >
      <Stack direction="row" sx={{ alignItems: "baseline", gap: 2 }}>
        <Typography role="timer" sx={{ fontSize: "2.4rem", fontWeight: 800, lineHeight: 1 }}>
          {clock(elapsed)}
        </Typography>
        <Typography
          sx={{ mr: "auto", color: left < 0 ? "error.main" : "text.secondary", fontWeight: left < 0 ? 700 : 450 }}
        >
          {left < 0 ? `${clock(left)} over its time` : `${clock(left)} to go`}
        </Typography>
        {work.running && (
          <Button size="small" onClick={mute} aria-pressed={muted}>
            {muted ? "Sound is off" : "Sound is on"}
          </Button>
        )}
      </Stack>
      <Button
        variant={work.running ? "outlined" : "contained"}
        fullWidth
        onClick={() => onAct({ do: work.running ? "stop" : "begin" }, work.running ? "Stopped" : "Begun")}
        sx={{ mt: 1, minHeight: 56, ...(work.running && { borderColor: "text.primary", color: "text.primary" }) }}
      >
        {work.running ? "Pause" : work.elapsed_s > 0 ? "Resume" : "Begin"}
      </Button>
    </Box>
  );
}

/** A bath is looked at as often; common practice. In s. */
const lookEvery = 600;

/** Calls by sound and touch when the time is up, and when a bath is to be looked at again. */
function useSignals(work: WetworkItem, elapsed: number, left: number, beep: (stop: boolean) => void) {
  const over = left < 0;
  const looks = work.kind === "descale" ? Math.floor(elapsed / lookEvery) : 0;
  const last = useRef({ over, looks });
  useEffect(() => {
    const was = last.current;
    last.current = { over, looks };
    if (!work.running) return;
    if (over && !was.over) beep(true);
    else if (looks > was.looks) beep(false);
  }, [over, looks, work.running, beep]);
}

const fizzes = ["strong", "weak", "none"] as const;
const colours = ["clear", "brown", "green", "blue"];

function Bath({ onAct }: { onAct: OnWet }) {
  const [ph, setPh] = useState("");
  const [temp, setTemp] = useState("");
  const [fizz, setFizz] = useState<Schemas["Fizz"]>();
  const [colour, setColour] = useState<string>();
  const [p, t] = [numberOf(ph), numberOf(temp)];
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
    setPh("");
    setTemp("");
    setFizz(undefined);
    setColour(undefined);
  };
  return (
    <Box component="section" aria-label="Read the bath">
      <Typography variant="h3">What do you see?</Typography>
      <Stack direction="row" role="group" aria-label="Fizz" sx={{ flexWrap: "wrap", gap: 0.75, my: 0.75 }}>
        {fizzes.map((f) => (
          <Button key={f} aria-pressed={fizz === f} onClick={() => setFizz(f)} variant="choice" data-on={fizz === f}>
            {f === "none" ? "no fizz" : `${f} fizz`}
          </Button>
        ))}
      </Stack>
      <Stack direction="row" role="group" aria-label="Colour" sx={{ flexWrap: "wrap", gap: 0.75, my: 0.75 }}>
        {colours.map((c) => (
          <Button
            key={c}
            aria-pressed={colour === c}
            onClick={() => setColour(c)}
            variant="choice"
            data-on={colour === c}
          >
            {c}
          </Button>
        ))}
      </Stack>
      <Stack direction="row" sx={{ gap: 1 }}>
        <TextField label="pH strip" value={ph} onChange={(e) => setPh(e.target.value)} sx={{ flex: 1 }} />
        <TextField label="Bath, °C" value={temp} onChange={(e) => setTemp(e.target.value)} sx={{ flex: 1 }} />
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
          <Button key={s} onClick={() => onAct({ do: "stage", what: s }, stageLabels[s] ?? s)} variant="choice">
            {stageLabels[s] ?? s}
          </Button>
        ))}
      </Stack>
    </Box>
  );
}

function CameOut({ station, onAct }: { station: string; onAct: OnWet }) {
  const [words, setWords] = useState("");
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
      <TextField
        label="How much, which way"
        value={words}
        onChange={(e) => setWords(e.target.value)}
        fullWidth
        sx={{ my: 0.75 }}
      />
      <Stack direction="row" sx={{ flexWrap: "wrap", gap: 0.75 }}>
        {(Object.keys(debrisLabels) as Schemas["DebrisID"][]).map((d) => (
          <Button
            key={d}
            onClick={() => (d === "rubber" ? setRubber(!rubber) : came(d))}
            variant="choice"
            data-on={d === "rubber" && rubber}
          >
            {debrisLabels[d]}
          </Button>
        ))}
      </Stack>
      {rubber && (
        <Stack direction="row" role="group" aria-label="How large" sx={{ flexWrap: "wrap", gap: 0.75, mt: 0.75 }}>
          {sizes.map(([label, share]) => (
            <Button key={label} onClick={() => came("rubber", share)} variant="choice">
              {label}
            </Button>
          ))}
        </Stack>
      )}
      <Typography variant="body2" sx={{ color: "text.secondary", mt: 0.5 }}>
        Rubber goes into the job&apos;s piece ledger by itself.
      </Typography>
    </Box>
  );
}
