import { Box, Typography } from "@mui/material";
import { useTheme } from "@mui/material/styles";
import type { Schemas } from "../../api/client";
import { day } from "../../ui/words";
import { about, told } from "../../ui/maintenance/maintenance";

type Trend = Schemas["TrendView"];

const width = 560;
const height = 230;
const box = { left: 52, right: width - 34, top: 14, bottom: height - 30 };

/** Round values along an axis. */
function ticksOf(from: number, to: number, most: number): number[] {
  const rough = (to - from) / most;
  const ten = 10 ** Math.floor(Math.log10(rough || 1));
  const step = [1, 2, 5, 10].map((k) => k * ten).find((s) => s >= rough) ?? rough;
  const first = Math.ceil(from / step) * step;
  return Array.from({ length: Math.max(0, Math.floor((to - first) / step) + 1) }, (_, i) => first + i * step);
}

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
  return { h0, h1: h1 > h0 ? h1 : h0 + 1, v0: v0 - air, v1: v1 + air };
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

function Drawing({ trend: t }: { trend: Trend }) {
  const { palette, water, typography } = useTheme();
  const e = extentOf(t);
  const x = (h: number) => box.left + ((h - e.h0) / (e.h1 - e.h0)) * (box.right - box.left);
  const y = (v: number) => box.bottom - ((v - e.v0) / (e.v1 - e.v0)) * (box.bottom - box.top);
  const scale = t.unit === "percent" ? 100 : 1;
  const band = [
    ...t.curve.map((c) => `${x(c[0] ?? 0)},${y((c[1] ?? 0) + 1.645 * (c[2] ?? 0))}`),
    ...[...t.curve].reverse().map((c) => `${x(c[0] ?? 0)},${y((c[1] ?? 0) - 1.645 * (c[2] ?? 0))}`),
  ].join(" ");
  const ink = palette.text.primary;
  const todayAt = y(t.limit) > (box.top + box.bottom) / 2 ? box.top + 12 : box.bottom - 4; // away from the limit
  const points = t.points.map((p) => `${told(t.unit, p.value)} at ${Math.round(p.hours)} h`).join(", ");
  return (
    <svg
      viewBox={`0 0 ${width} ${height}`}
      style={{ width: "100%", display: "block" }}
      role="img"
      aria-label={`${t.label}: ${points}; limit ${told(t.unit, t.limit)}`}
      fontFamily={typography.fontFamily}
      fontSize={13}
    >
      {ticksOf(e.v0 * scale, e.v1 * scale, 4).map((v) => (
        <g key={v}>
          <line x1={box.left} x2={box.right} y1={y(v / scale)} y2={y(v / scale)} stroke={palette.divider} />
          <text x={box.left - 6} y={y(v / scale) + 4} textAnchor="end" fill={palette.text.secondary}>
            {Number(v.toFixed(2)).toString().replace("-", "−")}
          </text>
        </g>
      ))}
      {ticksOf(e.h0, e.h1, 5).map((h) => (
        <text key={h} x={x(h)} y={height - 10} textAnchor="middle" fill={palette.text.secondary}>
          {Math.round(h)} h
        </text>
      ))}
      {t.curve.length > 1 && (
        <>
          <clipPath id={`frame-${t.id}`}>
            <rect x={box.left} y={box.top} width={box.right - box.left} height={box.bottom - box.top} />
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
        x1={box.left}
        x2={box.right}
        y1={y(t.limit)}
        y2={y(t.limit)}
        stroke={water.found}
        strokeWidth={2}
        strokeDasharray="4 4"
      />
      <text x={box.left + 6} y={y(t.limit) - 5} fill={water.found} fontWeight={700}>
        limit
      </text>
      <line x1={x(t.hours_now)} x2={x(t.hours_now)} y1={box.top} y2={box.bottom} stroke={ink} strokeDasharray="2 5" />
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
    </svg>
  );
}
