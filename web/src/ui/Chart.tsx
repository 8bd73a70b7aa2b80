import { Box, Typography } from "@mui/material";
import { useTheme, type Theme } from "@mui/material/styles";
import { useState, type KeyboardEvent } from "react";
import { ChartsContainer } from "@mui/x-charts/ChartsContainer";
import { ChartsGrid } from "@mui/x-charts/ChartsGrid";
import { ChartsXAxis } from "@mui/x-charts/ChartsXAxis";
import { ChartsYAxis } from "@mui/x-charts/ChartsYAxis";
import { useDrawingArea, useXScale, useYScale } from "@mui/x-charts/hooks";
import type { Picture, UnitSystem } from "../api/client";
import { extent, inUnits, label, minutesAlong, type Drawn } from "./picture";
import { apart, dashOf, readAt, valueAt } from "./readOut";
import { digits, type Units } from "./units";

type Role = Picture["lines"][number]["role"];

const colour = (t: Theme, role: Role) =>
  ({
    hot: t.water.coolant,
    cold: t.water.raw,
    plain: t.palette.text.primary,
    should: t.water.clear,
    warn: t.water.suspect,
    stop: t.water.found,
    here: t.palette.text.primary,
  })[role];

/** A limit's stroke, where colours cannot be told apart. */
const limitDash: Partial<Record<Role, string>> = { warn: "10 5", stop: "3 4", plain: "2 4" };

/** More lines than that are named by a number at their end, and in full below. */
const namedAtEnd = 3;
/** The longest name that stands at the end of a line. */
const shortName = 18;

interface Props {
  picture: Picture;
  units: Units;
  system: UnitSystem;
  /** Its lines are drawn up to here along x, as of something that is watched; left out: all of them. */
  until?: number;
}

/** The picture of an answer, in the person's own units. */
export function Chart({ picture, units, system, until }: Props) {
  if (picture.bars.length > 0) return <Bars picture={picture} units={units} system={system} />;
  return <Lines drawn={inUnits(picture, units, system)} until={until} />;
}

/** A line up to a place along x. */
const upTo = <T extends { x: number[]; y: number[] }>(line: T, until: number): T => {
  const n = line.x.filter((v) => v <= until).length;
  return { ...line, x: line.x.slice(0, n), y: line.y.slice(0, n) };
};

function Lines({ drawn, until }: { drawn: Drawn; until?: number }) {
  const theme = useTheme();
  const [x, y] = [extent(drawn, "x"), extent(drawn, "y")];
  const axis = { tickLabelStyle: { fontSize: 13, fill: theme.palette.text.secondary } };
  const [at, setAt] = useState<number>();
  const step = (e: KeyboardEvent) => {
    const by = { ArrowRight: 1, ArrowLeft: -1 }[e.key];
    if (e.key === "Escape") setAt(undefined);
    if (!by) return;
    e.preventDefault();
    const wide = x[1] - x[0];
    setAt((was) =>
      Math.min(x[1], Math.max(x[0], (was ?? (x[0] + x[1]) / 2) + (was === undefined ? 0 : (by * wide) / 40))),
    );
  };
  return (
    <Box component="figure" sx={{ m: 0 }}>
      <Typography variant="h3" component="figcaption" sx={{ mb: 0.5 }}>
        {drawn.title}
      </Typography>
      <Box role="img" aria-label={label(drawn)}>
        <Typography variant="body2" sx={{ color: "text.secondary" }}>
          {drawn.y.label}
        </Typography>
        <ChartsContainer
          height={270}
          margin={{ top: 8, right: 18, bottom: 4, left: 0 }}
          series={[]}
          skipAnimation
          disableKeyboardNavigation
          xAxis={[
            {
              id: "x",
              min: x[0],
              max: x[1],
              scaleType: "linear",
              height: 30,
              valueFormatter: drawn.x.tick,
              tickInterval: minutesAlong(x, drawn.x),
              ...axis,
            },
          ]}
          yAxis={[{ id: "y", min: y[0], max: y[1], scaleType: "linear", width: 46, ...axis }]}
        >
          <ChartsGrid horizontal />
          <Strokes
            drawn={until === undefined ? drawn : { ...drawn, lines: drawn.lines.map((l) => upTo(l, until)) }}
            at={at}
            onAt={setAt}
          />
          <ChartsXAxis axisId="x" />
          <ChartsYAxis axisId="y" />
        </ChartsContainer>
        <Typography variant="body2" sx={{ color: "text.secondary", textAlign: "right", mt: -0.5 }}>
          {drawn.x.label}
        </Typography>
      </Box>
      {drawn.lines.length > 0 && (
        <Box
          role="slider"
          tabIndex={0}
          aria-label={`Read the chart: ${drawn.title}`}
          aria-valuemin={x[0]}
          aria-valuemax={x[1]}
          aria-valuenow={at ?? x[0]}
          aria-valuetext={at === undefined ? "Arrow keys move along it" : readAt(drawn, at)}
          onKeyDown={step}
          sx={{
            borderTop: 1,
            borderColor: "divider",
            py: 0.5,
            minHeight: 28,
            fontSize: "0.92rem",
            "@media print": { display: "none" },
          }}
        >
          {at === undefined ? "Touch the chart, or the arrow keys here: what it says at each place" : readAt(drawn, at)}
        </Box>
      )}
      <Legend drawn={drawn} />
    </Box>
  );
}

/** Bands lie below, then limits, then lines, then what is marked. */
function Strokes({ drawn, at, onAt }: { drawn: Drawn; at?: number; onAt: (x: number) => void }) {
  const theme = useTheme();
  const [sx, sy] = [useXScale<"linear">("x"), useYScale<"linear">("y")];
  const area = useDrawingArea();
  const [x, y] = [(v: number) => sx(v) ?? 0, (v: number) => sy(v) ?? 0];
  return (
    <g fontFamily={theme.typography.fontFamily} fontSize={13}>
      {drawn.bands.map((b) => {
        const [from, to] = b.across === "x" ? [x(b.from), x(b.to)] : [y(b.to), y(b.from)];
        const box =
          b.across === "x"
            ? { x: from, width: to - from, y: area.top, height: area.height }
            : { x: area.left, width: area.width, y: from, height: to - from };
        return <rect key={b.label} {...box} fill={colour(theme, b.role)} opacity={0.16} />;
      })}
      {drawn.limits.map((l) => {
        const at = l.across === "x" ? x(l.at) : y(l.at);
        const ends =
          l.across === "x"
            ? { x1: at, x2: at, y1: area.top, y2: area.top + area.height }
            : { x1: area.left, x2: area.left + area.width, y1: at, y2: at };
        return (
          <line
            key={l.label}
            {...ends}
            stroke={colour(theme, l.role)}
            strokeWidth={2}
            strokeDasharray={limitDash[l.role]}
          />
        );
      })}
      {drawn.lines.map((l, n) => (
        <g key={l.label} stroke={colour(theme, l.role)} fill="none">
          <polyline
            points={l.x.map((v, i) => `${x(v)},${y(l.y[i] ?? 0)}`).join(" ")}
            strokeWidth={3}
            strokeDasharray={dashOf(n)}
            strokeLinejoin="round"
          />
          {l.dots &&
            l.x.map((v, i) => <circle key={i} cx={x(v)} cy={y(l.y[i] ?? 0)} r={4} fill={colour(theme, l.role)} />)}
        </g>
      ))}
      {drawn.marks.map((m, i) => (
        <g key={m.label}>
          <circle
            cx={x(m.x)}
            cy={y(m.y)}
            r={7}
            fill={theme.water.panel}
            stroke={theme.palette.text.primary}
            strokeWidth={3}
          />
          <Tag x={x(m.x)} y={y(m.y)} area={area} low={i === 0 && drawn.marks.length > 1}>
            {m.label}
          </Tag>
        </g>
      ))}
      <Ends drawn={drawn} x={x} y={y} area={area} />
      {at !== undefined && (
        <g stroke={theme.palette.text.primary}>
          <line x1={x(at)} x2={x(at)} y1={area.top} y2={area.top + area.height} strokeWidth={1.5} />
          {drawn.lines.map((l) => {
            const v = valueAt(l, at);
            return v === undefined ? null : (
              <circle key={l.label} cx={x(at)} cy={y(v)} r={5} fill={theme.water.panel} strokeWidth={2.5} />
            );
          })}
        </g>
      )}
      <rect
        x={area.left}
        y={area.top}
        width={area.width}
        height={area.height}
        fill="transparent"
        onPointerMove={(e) => onAt(placeOf(e.clientX, e.currentTarget, extent(drawn, "x")))}
        onPointerDown={(e) => onAt(placeOf(e.clientX, e.currentTarget, extent(drawn, "x")))}
      />
    </g>
  );
}

/** The place along an axis under a finger. */
function placeOf(clientX: number, over: Element, [from, to]: [number, number]) {
  const r = over.getBoundingClientRect();
  return from + Math.min(1, Math.max(0, (clientX - r.left) / (r.width || 1))) * (to - from);
}

/** Whether lines are named where they end, or by numbers. */
const byName = (d: Drawn) => d.lines.length <= namedAtEnd && d.lines.every((l) => l.label.length <= shortName);

interface EndsProps {
  drawn: Drawn;
  x: (v: number) => number;
  y: (v: number) => number;
  area: ReturnType<typeof useDrawingArea>;
}

/** Every line is named at its end, in words or by the number that the list below explains; one alone needs no name. */
function Ends({ drawn, x, y, area }: EndsProps) {
  const theme = useTheme();
  if (drawn.lines.length < 2) return null;
  const ends = drawn.lines.map((l) => {
    const last = l.x.reduce((best, v, i) => (v >= (l.x[best] ?? -Infinity) ? i : best), 0);
    return { x: x(l.x[last] ?? 0), y: y(l.y[last] ?? 0) };
  });
  const at = apart(
    ends.map((e) => e.y),
    16,
    area.top + 8,
    area.top + area.height - 4,
  );
  return drawn.lines.map((l, i) => (
    <text
      key={l.label}
      x={(ends[i]?.x ?? 0) - 4}
      y={(at[i] ?? 0) - (byName(drawn) ? 6 : -4)}
      textAnchor="end"
      fontWeight={700}
      fill={colour(theme, l.role)}
      stroke={theme.water.panel}
      strokeWidth={4}
      paintOrder="stroke"
    >
      {byName(drawn) ? l.label : i + 1}
    </text>
  ));
}

/** A word beside a mark, kept within the drawing. */
function Tag(p: { x: number; y: number; low: boolean; area: ReturnType<typeof useDrawingArea>; children: string }) {
  const theme = useTheme();
  const left = p.x > p.area.left + p.area.width * 0.75;
  const below = p.low || p.y < p.area.top + 26;
  return (
    <text
      x={p.x + (left ? -12 : 12)}
      y={p.y + (below ? 22 : -10)}
      textAnchor={left ? "end" : "start"}
      fontWeight={700}
      fill={theme.palette.text.primary}
      stroke={theme.water.panel}
      strokeWidth={4}
      paintOrder="stroke"
    >
      {p.children}
    </text>
  );
}

function Legend({ drawn }: { drawn: Drawn }) {
  const theme = useTheme();
  const limit = (across: "x" | "y", at: number) => `${drawn[across].text(at)}`;
  const items = [
    ...drawn.lines.map((l, i) => ({
      label: byName(drawn) || drawn.lines.length < 2 ? l.label : `${i + 1} ${l.label}`,
      role: l.role,
      kind: "line" as const,
      dash: dashOf(i),
    })),
    ...drawn.limits.map((l) => ({
      dash: limitDash[l.role],
      label: `${l.label}: ${limit(l.across, l.at)}`,
      role: l.role,
      kind: "limit" as const,
    })),
    ...drawn.bands.map((b) => ({
      label: `${b.label}: ${limit(b.across, b.from)} to ${limit(b.across, b.to)}`,
      role: b.role,
      dash: undefined,
      kind: "band" as const,
    })),
  ];
  return (
    <Box sx={{ display: "flex", flexWrap: "wrap", columnGap: 2.5, rowGap: 0.5, mt: 1 }}>
      {items.map((i) => (
        <Box key={i.label} sx={{ display: "flex", alignItems: "center", gap: 1 }}>
          <svg width="40" height="14" aria-hidden="true">
            {i.kind === "band" ? (
              <rect width="40" height="14" fill={colour(theme, i.role)} opacity={0.3} />
            ) : (
              <line
                x1="0"
                x2="40"
                y1="7"
                y2="7"
                stroke={colour(theme, i.role)}
                strokeWidth={i.kind === "line" ? 3 : 2}
                strokeDasharray={i.dash}
              />
            )}
          </svg>
          <Typography variant="body2">{i.label}</Typography>
        </Box>
      ))}
    </Box>
  );
}

function Bars({ picture, units, system }: { picture: Picture; units: Units; system: UnitSystem }) {
  const theme = useTheme();
  const most = Math.max(...picture.bars.map((b) => b.value), 1e-9);
  const unit = units.shownAs(picture.y.unit, system);
  return (
    <Box component="figure" sx={{ m: 0 }}>
      <Typography variant="h3" component="figcaption" sx={{ mb: 1 }}>
        {picture.title}, {picture.y.label}
      </Typography>
      {picture.bars.map((b) => (
        <Box key={b.label} sx={{ mb: 1.25 }}>
          <Typography sx={{ fontWeight: b.best ? 750 : 450, overflowWrap: "anywhere" }}>
            {b.label}
            {b.best && ", cheapest"}
          </Typography>
          <Box sx={{ display: "flex", alignItems: "center", gap: 1 }}>
            <Box
              sx={{
                width: `${(70 * b.value) / most}%`,
                minWidth: 3,
                height: 20,
                bgcolor: b.best ? theme.water.clear : theme.water.dry,
              }}
            />
            <Typography sx={{ fontWeight: 700 }}>{digits(b.value, unit)}</Typography>
          </Box>
        </Box>
      ))}
    </Box>
  );
}
