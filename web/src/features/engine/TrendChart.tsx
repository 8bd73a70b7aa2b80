import { Box, Typography } from "@mui/material";
import { useTheme } from "@mui/material/styles";
import { useState } from "react";
import type { Schemas } from "../../api/client";
import { ChartFrame, type Scales } from "../../ui/chart/ChartFrame";
import { ReadOut } from "../../ui/chart/ReadOut";
import { valueAt } from "../../ui/chart/reading";
import { day } from "../../ui/words";
import { about, told } from "../../ui/maintenance/maintenance";

type Trend = Schemas["TrendView"];

function extentOf(t: Trend) {
  const hours = [...t.points.map((p) => p.hours), ...t.curve.map((c) => c[0] ?? 0), t.hours_now];
  const values = [
    ...t.points.flatMap((p) => [p.value - 2 * p.error, p.value + 2 * p.error]),
    ...t.curve.map((c) => c[1] ?? 0),
    t.limit,
  ];
  const [h0, h1] = [Math.min(...hours), Math.max(...hours)];
  const [v0, v1] = [Math.min(...values), Math.max(...values)];
  const air = (v1 - v0 || 1) * 0.06;
  const beside = (h1 - h0 || 1) * 0.02;
  return { h0: h0 - beside, h1: h1 + beside, v0: v0 - air, v1: v1 + air };
}

/** A figure over the engine's hours: each measure with its error, the fitted growth with its band, the limit ahead. */
export function TrendChart({ trend: t }: { trend: Trend }) {
  return (
    <Box component="figure" sx={{ m: 0, bgcolor: "background.paper", borderRadius: 1, p: { xs: 1.25, md: 2 } }}>
      <Typography variant="h3" component="figcaption" sx={{ mb: 0.5 }}>
        {t.label}
      </Typography>
      <Typography sx={{ fontWeight: 700, lineHeight: 1.3 }}>{headline(t)}</Typography>
      {t.points.length > 0 && <Drawing trend={t} />}
      <Typography variant="body2" sx={{ color: "text.secondary" }}>
        {under(t)}
      </Typography>
    </Box>
  );
}

function headline(t: Trend): string {
  const last = t.points[t.points.length - 1];
  if (!last) return "Never measured.";
  const now = `${told(t.unit, last.value, last.error)} on ${day(last.at)}`;
  if (t.past) return `${now}: past its limit of ${told(t.unit, t.limit)}.`;
  if (!t.likely) return `${now}.`;
  const left = (t.limit_hours ?? 0) - t.hours_now;
  const hours = left > 0 ? `, or about ${Math.round(left / 10) * 10} hours` : "";
  return `${now}. ${told(t.unit, t.limit)} by ${about(t.likely)}${hours}.`;
}

function under(t: Trend): string {
  const span =
    t.likely && t.early
      ? `Nine times in ten between ${day(t.early)} and ${t.late ? day(t.late) : "later than can be told"}. `
      : "";
  const shape = t.shape && t.likely ? (t.shape === "linear" ? "Grows with the hours. " : "Levels off. ") : "";
  const said = t.say ? `No date: ${t.say}. ` : "";
  return `${span}${shape}${said}${t.why.charAt(0).toUpperCase()}${t.why.slice(1)}.`;
}

/** What is known at an hour of the meter: what was measured then, or what the fitted growth says. */
function readTrend(t: Trend, at: number): string {
  const near = t.points.reduce<Trend["points"][number] | undefined>(
    (best, p) => (!best || Math.abs(p.hours - at) < Math.abs(best.hours - at) ? p : best),
    undefined,
  );
  const [first = 0, last = 0] = [t.curve[0]?.[0], t.curve[t.curve.length - 1]?.[0]];
  const reach = (extentOf(t).h1 - extentOf(t).h0) / 40;
  const hours = `At ${Math.round(at)} h`;
  if (near && Math.abs(near.hours - at) <= reach)
    return `At ${Math.round(near.hours)} h: measured ${told(t.unit, near.value, near.error)} on ${day(near.at)}`;
  if (t.curve.length < 2 || at < first || at > last) return `${hours}: nothing is known`;
  const of = (i: 1 | 2) => valueAt({ x: t.curve.map((c) => c[0] ?? 0), y: t.curve.map((c) => c[i] ?? 0) }, at) ?? 0;
  return `${hours}: about ${told(t.unit, of(1), 1.645 * of(2))}`;
}

function Drawing({ trend: t }: { trend: Trend }) {
  const [at, setAt] = useState<number>();
  const e = extentOf(t);
  const scale = t.unit === "percent" ? 100 : 1;
  const hours: [number, number] = [e.h0, e.h1];
  const points = t.points.map((p) => `${told(t.unit, p.value)} at ${Math.round(p.hours)} h`).join(", ");
  return (
    <>
      <Box role="img" aria-label={`${t.label}: ${points}; limit ${told(t.unit, t.limit)}`}>
        <ChartFrame
          height={230}
          right={30}
          x={{ range: hours, tick: (h) => `${Math.round(h)} h` }}
          y={{
            range: [e.v0, e.v1],
            tick: (v) =>
              Number((v * scale).toFixed(2))
                .toString()
                .replace("-", "−"),
          }}
          onAt={setAt}
        >
          {(scales) => <Strokes trend={t} at={at} {...scales} />}
        </ChartFrame>
      </Box>
      <ReadOut name={t.label} range={hours} at={at} onAt={setAt} read={(h) => readTrend(t, h)} />
    </>
  );
}

function Strokes({ trend: t, at, x, y, area }: Scales & { trend: Trend; at?: number }) {
  const { palette, water } = useTheme();
  const ink = palette.text.primary;
  const [top, bottom] = [area.top, area.top + area.height];
  const band = [
    ...t.curve.map((c) => `${x(c[0] ?? 0)},${y((c[1] ?? 0) + 1.645 * (c[2] ?? 0))}`),
    ...[...t.curve].reverse().map((c) => `${x(c[0] ?? 0)},${y((c[1] ?? 0) - 1.645 * (c[2] ?? 0))}`),
  ].join(" ");
  const todayAt = y(t.limit) > (top + bottom) / 2 ? top + 12 : bottom - 4; // away from the limit
  return (
    <>
      {t.curve.length > 1 && (
        <>
          <clipPath id={`frame-${t.id}`}>
            <rect x={area.left} y={top} width={area.width} height={area.height} />
          </clipPath>
          <polygon points={band} fill={water.raw} opacity={0.16} clipPath={`url(#frame-${t.id})`} />
          <polyline
            points={t.curve.map((c) => `${x(c[0] ?? 0)},${y(c[1] ?? 0)}`).join(" ")}
            fill="none"
            stroke={water.raw}
            strokeWidth={3}
          />
        </>
      )}
      <line
        x1={area.left}
        x2={area.left + area.width}
        y1={y(t.limit)}
        y2={y(t.limit)}
        stroke={water.found}
        strokeWidth={2}
        strokeDasharray="4 4"
      />
      <text x={area.left + 6} y={y(t.limit) - 5} fill={water.found} fontWeight={700}>
        limit
      </text>
      <line x1={x(t.hours_now)} x2={x(t.hours_now)} y1={top} y2={bottom} stroke={ink} strokeDasharray="2 5" />
      <text x={x(t.hours_now) - 4} y={todayAt} textAnchor="end" fill={palette.text.secondary}>
        today
      </text>
      {t.points.map((p, i) => (
        <g key={i} opacity={p.current ? 1 : 0.5}>
          <line
            x1={x(p.hours)}
            x2={x(p.hours)}
            y1={y(p.value - p.error)}
            y2={y(p.value + p.error)}
            stroke={ink}
            strokeWidth={2}
          />
          {p.current ? (
            <circle cx={x(p.hours)} cy={y(p.value)} r={5} fill={ink} />
          ) : (
            <circle cx={x(p.hours)} cy={y(p.value)} r={4.5} fill={water.panel} stroke={ink} strokeWidth={2} />
          )}
        </g>
      ))}
      {t.limit_hours !== undefined && t.likely && (
        <path
          d={`M ${x(t.limit_hours)} ${y(t.limit) - 8} l 8 8 l -8 8 l -8 -8 z`}
          fill={water.panel}
          stroke={water.found}
          strokeWidth={2.5}
        />
      )}
      {at !== undefined && <line x1={x(at)} x2={x(at)} y1={top} y2={bottom} stroke={ink} strokeWidth={1.5} />}
    </>
  );
}
