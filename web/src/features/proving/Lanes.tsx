import { Box, Typography, useMediaQuery } from "@mui/material";
import { useTheme, type Theme } from "@mui/material/styles";
import { useMemo, useState } from "react";
import type { AlarmLine, Schemas, Track, Unit } from "../../api/client";
import { ChartFrame, type Scales } from "../../ui/chart/ChartFrame";
import { minutesAlong } from "../../ui/chart/picture";
import { ReadOut } from "../../ui/chart/ReadOut";
import { apart, valueAt } from "../../ui/chart/reading";
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
  const { water, palette } = useTheme();
  const system = useSystem();
  const narrow = useMediaQuery("(max-width: 520px)");
  const [at, setAt] = useState<number>();
  const list = useMemo(() => styled(p.tracks, p.words, { water, palette }), [p.tracks, p.words, water, palette]);
  const span = timeSpan(p.tracks, p.until);
  const used = lanes.flatMap((lane) => {
    const own = list.filter((s) => unitOf(s.track.place) === lane.unit);
    return own.length > 0 ? [{ ...lane, own }] : [];
  });
  const ticks = minutesAlong(span, { label: "", time: true, tick: clockTime, text: clockTime }) ?? [];
  const read = (s: number) => {
    const said = list.flatMap(({ track: t, name }) => {
      const v = valueAt({ x: t.seconds, y: t.values }, s);
      return v === undefined ? [] : [`${name} ${shown(p.units, system, v, unitOf(t.place))}`];
    });
    return `${clockTime(s - span[0])}: ${said.join("; ") || "nothing was read"}`;
  };
  if (used.length === 0) return <Typography sx={{ color: "text.secondary" }}>Nothing was read yet.</Typography>;
  return (
    <Box component="figure" sx={{ m: 0 }}>
      <Box role="img" aria-label={spoken(list, p.words)}>
        {used.map((lane, i) => (
          <Lane
            key={lane.unit}
            {...{ lane, at, span, onAt: setAt, units: p.units }}
            // on a phone there is room for every second time
            ticks={i < used.length - 1 ? [] : ticks.filter((_, n) => n % (narrow ? 2 : 1) === 0)}
            limits={lane.unit === "degC" ? p.limits.filter((l) => list.some((s) => same(l, s.track))) : []}
            analysis={lane.unit === "degC" ? p.analysis : undefined}
          />
        ))}
        <Typography variant="body2" sx={{ color: "text.secondary" }}>
          min:s
        </Typography>
      </Box>
      <ReadOut name="what was read over time" range={span} at={at} onAt={setAt} read={read} />
    </Box>
  );
}

const same = (l: AlarmLine, t: Track) => placeKey(l.place) === placeKey(t.place);

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

interface LaneProps {
  lane: (typeof lanes)[number] & { own: Shown[] };
  span: [number, number];
  ticks: number[];
  at?: number;
  onAt: (s: number) => void;
  limits: AlarmLine[];
  analysis?: Schemas["RunAnalysis"];
  units: Units;
}

/** One quantity over time, in the person's own unit. */
function Lane({ lane, span, ticks, at, onAt, limits, analysis, units }: LaneProps) {
  const system = useSystem();
  const { own, unit, height, least } = lane;
  const [from, to] = [units.find(unit), units.shownAs(unit, system)];
  const turn = (v: number) => (from && to ? convert(v, from, to) : v);
  const values = [...own.flatMap((s) => s.track.values), ...limits.map((l) => l.at)];
  const [lowest, highest] = values.reduce(([a, b], v) => [Math.min(a, v), Math.max(b, v)], [Infinity, -Infinity]);
  const air = Math.max(0, least - (highest - lowest)) / 2 + (highest - lowest) * 0.05;
  const range: [number, number] = [unit === "degC" ? turn(lowest - air) : 0, turn(highest + air)];
  return (
    <>
      <Typography variant="body2" sx={{ color: "text.secondary", lineHeight: 1.2 }}>
        {to?.symbol ?? unit}
      </Typography>
      <ChartFrame
        height={height + (ticks.length > 0 ? 30 : 0)}
        right={names}
        x={{ range: span, ticks, tick: (s) => clockTime(s - span[0]) }}
        y={{ range, ticks: levels(range[0], range[1], height > 100 ? 5 : 2), room: left }}
        onAt={onAt}
      >
        {({ x, y, area }) => (
          <LaneStrokes {...{ own, limits, analysis, units, to, turn, at, x, area }} y={(v: number) => y(turn(v))} />
        )}
      </ChartFrame>
    </>
  );
}

type StrokesProps = Pick<LaneProps, "at" | "limits" | "analysis" | "units"> &
  Scales & { own: Shown[]; to?: Unit; turn: (v: number) => number };

function LaneStrokes({ own, at, limits, analysis: a, units, to, turn, x, y, area }: StrokesProps) {
  const { water, palette } = useTheme();
  const system = useSystem();
  const [right, bottom] = [area.left + area.width, area.top + area.height];
  const ends = apart(
    own.map((s) => y(lastOf(s.track)) + 4),
    15,
    area.top + 8,
    bottom,
  );
  const marks = apart(
    limits.map((l) => y(l.at) - 4),
    14,
    area.top + 6,
    bottom,
  );
  return (
    <>
      {a?.plateau_from_s !== undefined && a.plateau_to_s !== undefined && a.plateau_c !== undefined && (
        <rect
          x={x(a.plateau_from_s)}
          width={Math.max(2, x(a.plateau_to_s) - x(a.plateau_from_s))}
          y={y(a.plateau_c) - 9}
          height={18}
          fill={water.clear}
          opacity={0.25}
        />
      )}
      {limits.map((l, i) => (
        <g key={placeKey(l.place) + l.label}>
          <line
            x1={area.left}
            x2={right}
            y1={y(l.at)}
            y2={y(l.at)}
            stroke={l.stop ? water.found : water.suspect}
            strokeWidth={2}
            strokeDasharray={l.stop ? "3 4" : "10 5"}
          />
          <text x={area.left + 4} y={marks[i]} fill={l.stop ? water.found : water.suspect} {...halo(water)}>
            {l.label}
          </text>
        </g>
      ))}
      {own.map((s) => (
        <Line key={placeKey(s.track.place)} shown={s} {...{ x, y }} />
      ))}
      {a?.opened_at_s !== undefined && a.opened_c !== undefined && (
        <Opened x={x(a.opened_at_s)} y={y(a.opened_c)} words={shown(units, system, a.opened_c, "degC")} />
      )}
      {own.map((s, i) => (
        <g key={placeKey(s.track.place)}>
          <line
            x1={right + 2}
            x2={right + 10}
            y1={y(lastOf(s.track))}
            y2={(ends[i] ?? 0) - 4}
            stroke={s.colour}
            strokeWidth={1.5}
          />
          <text x={right + 13} y={ends[i]} fill={palette.text.primary}>
            <tspan fontWeight={750}>{digits(turn(lastOf(s.track)), to)}</tspan> {s.name}
          </text>
        </g>
      ))}
      {at !== undefined && (
        <line x1={x(at)} x2={x(at)} y1={area.top} y2={bottom} stroke={palette.text.primary} strokeWidth={1.5} />
      )}
    </>
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

/** A line with its gaps. */
function Line(p: { shown: Shown; x: (s: number) => number; y: (v: number) => number }) {
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
}

const spoken = (list: Shown[], words: Words) =>
  list.length === 0
    ? "Nothing was read yet"
    : list
        .map(
          ({ track: t }) =>
            `${placeWords(t.place, words)}: from ${Math.round(t.values[0] ?? 0)} to ${Math.round(lastOf(t))}`,
        )
        .join(". ");
