import { Box, Typography } from "@mui/material";
import { useTheme, type Theme } from "@mui/material/styles";
import { useState } from "react";
import type { Picture, UnitSystem } from "../../api/client";
import { digits, type Units } from "../units";
import { ChartFrame, type Area, type Scales } from "./ChartFrame";
import { extent, inUnits, label, minutesAlong, type Drawn } from "./picture";
import { ReadOut } from "./ReadOut";
import { apart, dashOf, readAt, valueAt } from "./reading";

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
  const [x, y] = [extent(drawn, "x"), extent(drawn, "y")];
  const [at, setAt] = useState<number>();
  const shown = until === undefined ? drawn : { ...drawn, lines: drawn.lines.map((l) => upTo(l, until)) };
  return (
    <Box component="figure" sx={{ m: 0 }}>
      <Typography variant="h3" component="figcaption" sx={{ mb: 0.5 }}>
        {drawn.title}
      </Typography>
      <Box role="img" aria-label={label(drawn)}>
        <Typography variant="body2" sx={{ color: "text.secondary" }}>
          {drawn.y.label}
        </Typography>
        <ChartFrame
          height={270}
          x={{ range: x, tick: drawn.x.tick, ticks: minutesAlong(x, drawn.x) }}
          y={{ range: y }}
          onAt={setAt}
        >
          {(scales) => <Strokes drawn={shown} at={at} {...scales} />}
        </ChartFrame>
        <Typography variant="body2" sx={{ color: "text.secondary", textAlign: "right", mt: -0.5 }}>
          {drawn.x.label}
        </Typography>
      </Box>
      {drawn.lines.length > 0 && (
        <ReadOut name={drawn.title} range={x} at={at} onAt={setAt} read={(v) => readAt(drawn, v)} />
      )}
      <Legend drawn={drawn} />
    </Box>
  );
}

/** Bands lie below, then limits, then lines, then what is marked. */
function Strokes({ drawn, at, x, y, area }: Scales & { drawn: Drawn; at?: number }) {
  const theme = useTheme();
  return (
    <>
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
    </>
  );
}

/** Whether lines are named where they end, or by numbers. */
const byName = (d: Drawn) => d.lines.length <= namedAtEnd && d.lines.every((l) => l.label.length <= shortName);

/** Every line is named at its end, in words or by the number that the list below explains; one alone needs no name. */
function Ends({ drawn, x, y, area }: Scales & { drawn: Drawn }) {
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
function Tag(p: { x: number; y: number; low: boolean; area: Area; children: string }) {
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
