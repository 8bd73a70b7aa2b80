import { Box, Typography } from "@mui/material";
import { useTheme, type Theme } from "@mui/material/styles";
import { memo, useEffect, useMemo, useRef, useState } from "react";
import type { AlarmLine, Schemas, Track } from "../../api/client";
import { minutesAlong } from "../../ui/picture";
import { useSystem } from "../../ui/unitSystem";
import { clockTime, convert, digits, shown, type Units } from "../../ui/units";
import type { Words } from "../../ui/words";
import { placeKey, placeWords, shortWords, stretches, unitOf } from "./live";

/** The lanes of the chart, one above the other on the same time. */
const lanes = [
  { unit: "degC", height: 230, least: 20 },
  { unit: "L/min", height: 64, least: 5 },
  { unit: "rpm", height: 64, least: 500 },
];

const left = 44;
const names = 132;

interface Shown {
  track: Track;
  name: string;
  colour: string;
  dash?: string;
}

/** What was read over time, a lane for each quantity: it draws itself while more comes. Gaps are gaps. */
export function Lanes(p: {
  tracks: Track[];
  limits: AlarmLine[];
  analysis?: Schemas["RunAnalysis"];
  /** Until when it is drawn; left out: until the last point. */
  until?: number;
  words: Words;
  units: Units;
}) {
  const { water, palette, typography } = useTheme();
  const [box, width] = useWidth();
  const inner = { from: left, to: Math.max(left + 60, width - names) };
  const list = useMemo(() => styled(p.tracks, p.words, { water, palette }), [p.tracks, p.words, water, palette]);
  const span = timeSpan(p.tracks, p.until);
  const x = (s: number) => inner.from + ((s - span[0]) / (span[1] - span[0])) * (inner.to - inner.from);
  const used = lanes.flatMap((lane) => {
    const own = list.filter((s) => unitOf(s.track.place) === lane.unit);
    return own.length > 0 ? [{ ...lane, own }] : [];
  });
  const tops = used.map((_, i) => used.slice(0, i).reduce((sum, l) => sum + l.height + 22, 16));
  const height = used.reduce((sum, l) => sum + l.height + 22, 16) + 10;
  const every = width < 460 ? 2 : 1; // on a phone there is room for every second time
  const ticks = minutesAlong(span, { label: "", time: true, tick: clockTime, text: clockTime }) ?? [];
  return (
    <Box ref={box} component="figure" sx={{ m: 0 }} role="img" aria-label={spoken(list, p.words)}>
      {used.length === 0 ? (
        <Typography sx={{ color: "text.secondary" }}>Nothing was read yet.</Typography>
      ) : (
        <svg
          width={width}
          height={height}
          fontFamily={typography.fontFamily}
          fontSize={13}
          style={{ display: "block" }}
        >
          <text x={2} y={height - 8} fill={palette.text.secondary}>
            min:s
          </text>
          {ticks.map((t, i) => (
            <g key={t}>
              <line x1={x(t)} x2={x(t)} y1={16} y2={height - 24} stroke={palette.divider} />
              <text x={x(t)} y={height - 8} textAnchor="middle" fill={palette.text.secondary}>
                {i % every === 0 && x(t) > left + 20 && clockTime(t - span[0])}
              </text>
            </g>
          ))}
          {used.map((lane, i) => (
            <Lane
              key={lane.unit}
              lane={lane}
              top={tops[i] ?? 0}
              {...{ x, inner, units: p.units }}
              limits={lane.unit === "degC" ? p.limits.filter((l) => list.some((s) => same(l, s.track))) : []}
              analysis={lane.unit === "degC" ? p.analysis : undefined}
            />
          ))}
        </svg>
      )}
    </Box>
  );
}

const same = (l: AlarmLine, t: Track) => placeKey(l.place) === placeKey(t.place);

function useWidth(): [React.RefObject<HTMLElement | null>, number] {
  const box = useRef<HTMLElement>(null);
  const [width, setWidth] = useState(360);
  useEffect(() => {
    if (!box.current || typeof ResizeObserver === "undefined") return;
    const watch = new ResizeObserver(([e]) => e && setWidth(Math.max(280, Math.floor(e.contentRect.width))));
    watch.observe(box.current);
    return () => watch.disconnect();
  }, []);
  return [box, width];
}

function timeSpan(tracks: Track[], until = 0): [number, number] {
  const first = Math.min(...tracks.flatMap((t) => t.seconds.slice(0, 1)), Infinity);
  const last = Math.max(...tracks.flatMap((t) => t.seconds.slice(-1)), until);
  return Number.isFinite(first) ? [first, Math.max(last, first + 60)] : [0, 60];
}

/** Coolant and raw water by colour, their places by the name at the end of the line; what has neither is dashed. */
function styled(tracks: Track[], words: Words, theme: Pick<Theme, "water" | "palette">): Shown[] {
  return tracks
    .filter((t) => t.seconds.length > 0)
    .map((track) => {
      const { side, station } = track.place;
      const wet = side === "raw" || station === "sea" || station === "flow";
      const kind = wet ? "raw" : side === "coolant" ? "coolant" : "plain";
      const colour = { raw: theme.water.raw, coolant: theme.water.coolant, plain: theme.palette.text.primary }[kind];
      return {
        track,
        name: shortWords(track.place, words),
        colour,
        dash: kind === "plain" && unitOf(track.place) === "degC" ? "9 5" : undefined,
      };
    });
}

const lastOf = (t: Track) => t.values[t.values.length - 1] ?? 0;

/** Round numbers along a lane, few of them. */
export function levels(low: number, high: number, count: number): number[] {
  const raw = (high - low) / count;
  const unit = 10 ** Math.floor(Math.log10(raw));
  const step = unit * ([1, 2, 5, 10].find((s) => s * unit >= raw) ?? 10);
  const first = Math.ceil(low / step) * step;
  return Array.from({ length: Math.floor((high - first) / step + 1e-9) + 1 }, (_, i) => first + i * step);
}

/** Names at the end of the lines, moved apart so that none lies on another. */
export function apart(at: number[], gap: number, low: number, high: number): number[] {
  const order = at.map((y, i) => ({ y, i })).sort((a, b) => a.y - b.y);
  const out = [...at];
  let last = low - gap;
  for (const o of order) last = out[o.i] = Math.max(o.y, last + gap);
  let room = high;
  for (const o of order.reverse()) {
    if ((out[o.i] ?? 0) > room) out[o.i] = room;
    room = (out[o.i] ?? 0) - gap;
  }
  return out;
}

function Lane(p: {
  lane: (typeof lanes)[number] & { own: Shown[] };
  top: number;
  x: (s: number) => number;
  inner: { from: number; to: number };
  limits: AlarmLine[];
  analysis?: Schemas["RunAnalysis"];
  units: Units;
}) {
  const { water, palette } = useTheme();
  const system = useSystem();
  const { own, unit, height, least } = p.lane;
  const [from, to] = [p.units.find(unit), p.units.shownAs(unit, system)];
  const turn = (v: number) => (from && to ? convert(v, from, to) : v);
  const values = [...own.flatMap((s) => s.track.values), ...p.limits.map((l) => l.at)];
  const [lowest, highest] = values.reduce(([a, b], v) => [Math.min(a, v), Math.max(b, v)], [Infinity, -Infinity]);
  const air = Math.max(0, least - (highest - lowest)) / 2 + (highest - lowest) * 0.05;
  const [low, high] = [unit === "degC" ? lowest - air : 0, highest + air];
  const y = (v: number) => p.top + height - ((v - low) / (high - low)) * height;
  const ends = apart(
    own.map((s) => y(lastOf(s.track))),
    15,
    p.top + 8,
    p.top + height - 2,
  );
  const marks = apart(
    p.limits.map((l) => y(l.at) - 4),
    14,
    p.top + 6,
    p.top + height,
  );
  const back = (v: number) => (from && to ? convert(v, to, from) : v);
  const a = p.analysis;
  return (
    <g>
      <text x={2} y={p.top - 3} fill={palette.text.secondary}>
        {to?.symbol ?? unit}
      </text>
      {levels(turn(low), turn(high), height > 100 ? 5 : 2).map((v) => (
        <g key={v}>
          <line x1={p.inner.from} x2={p.inner.to} y1={y(back(v))} y2={y(back(v))} stroke={palette.divider} />
          <text x={left - 6} y={y(back(v)) + 4} textAnchor="end" fill={palette.text.secondary}>
            {v}
          </text>
        </g>
      ))}
      {a?.plateau_from_s !== undefined && a.plateau_to_s !== undefined && a.plateau_c !== undefined && (
        <rect
          x={p.x(a.plateau_from_s)}
          width={Math.max(2, p.x(a.plateau_to_s) - p.x(a.plateau_from_s))}
          y={y(a.plateau_c) - 9}
          height={18}
          fill={water.clear}
          opacity={0.25}
        />
      )}
      {p.limits.map((l, i) => (
        <g key={placeKey(l.place) + l.label}>
          <line
            x1={p.inner.from}
            x2={p.inner.to}
            y1={y(l.at)}
            y2={y(l.at)}
            stroke={l.stop ? water.found : water.suspect}
            strokeWidth={2}
            strokeDasharray={l.stop ? "3 4" : "10 5"}
          />
          <text x={p.inner.from + 4} y={marks[i]} fill={l.stop ? water.found : water.suspect} {...halo(water)}>
            {l.label}
          </text>
        </g>
      ))}
      {own.map((s) => (
        <Strokes key={placeKey(s.track.place)} shown={s} {...{ x: p.x, y }} />
      ))}
      {a?.opened_at_s !== undefined && a.opened_c !== undefined && (
        <Opened x={p.x(a.opened_at_s)} y={y(a.opened_c)} words={shown(p.units, system, a.opened_c, "degC")} />
      )}
      {own.map((s, i) => (
        <g key={placeKey(s.track.place)}>
          <line
            x1={p.inner.to + 2}
            x2={p.inner.to + 10}
            y1={y(lastOf(s.track))}
            y2={(ends[i] ?? 0) - 4}
            stroke={s.colour}
            strokeWidth={1.5}
          />
          <text x={p.inner.to + 13} y={ends[i]} fill={palette.text.primary}>
            <tspan fontWeight={750}>{digits(turn(lastOf(s.track)), to)}</tspan> {s.name}
          </text>
        </g>
      ))}
    </g>
  );
}

/** Where the thermostat opened. */
function Opened({ x, y, words }: { x: number; y: number; words: string }) {
  const { water, palette } = useTheme();
  return (
    <g>
      <circle cx={x} cy={y} r={6} fill={water.panel} stroke={palette.text.primary} strokeWidth={2.5} />
      <text x={x + 10} y={y + 18} fontWeight={700} fill={palette.text.primary} {...halo(water)}>
        Opens at {words}
      </text>
    </g>
  );
}

const halo = (water: Theme["water"]) => ({ stroke: water.panel, strokeWidth: 3, paintOrder: "stroke" as const });

/** A line with its gaps; drawn anew only when its points or its scale have changed. */
const Strokes = memo(function Strokes(p: { shown: Shown; x: (s: number) => number; y: (v: number) => number }) {
  const { track, colour, dash } = p.shown;
  return (
    <g stroke={colour} fill="none" strokeWidth={2.5} strokeDasharray={dash} strokeLinejoin="round">
      {stretches(track).map((points) => (
        <path
          key={points[0]?.[0]}
          d={points.map(([s, v], i) => `${i ? "L" : "M"}${p.x(s).toFixed(1)} ${p.y(v).toFixed(1)}`).join("")}
        />
      ))}
    </g>
  );
});

const spoken = (list: Shown[], words: Words) =>
  list.length === 0
    ? "Nothing was read yet"
    : list
        .map(
          ({ track: t }) =>
            `${placeWords(t.place, words)}: from ${Math.round(t.values[0] ?? 0)} to ${Math.round(lastOf(t))}`,
        )
        .join(". ");
