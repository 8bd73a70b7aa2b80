import { Box, Typography } from "@mui/material";
import { useTheme } from "@mui/material/styles";
import type { Schemas, UnitSystem } from "../../api/client";
import { convert, shown, type Units } from "../../ui/units";

const row = 30;
const left = 176;
const width = 640;

/** The temperature in flow order before and after, on the band in which a healthy engine reads. */
export function ReportPath({ path, units, system }: { path: Schemas["ReportPath"]; units: Units; system: UnitSystem }) {
  const { palette, water, typography } = useTheme();
  const [from, to] = [units.find("degC"), units.shownAs("degC", system)];
  const own = (v: number) => (from && to ? convert(v, from, to) : v);
  const all = path.points.flatMap((p) => [
    p.should_c - p.spread_k,
    p.should_c + p.spread_k,
    p.before_c ?? p.should_c,
    p.after_c ?? p.should_c,
  ]);
  const [low, high] = [Math.floor(own(Math.min(...all)) / 10) * 10, Math.ceil(own(Math.max(...all)) / 10) * 10];
  const x = (v: number) => left + ((own(v) - low) / (high - low)) * (width - left - 16);
  const y = (i: number) => 38 + i * row;
  const text = (v?: number) => (v === undefined ? "not read" : shown(units, system, v, "degC"));
  const step = high - low > 120 ? 40 : 20;
  const ticks = Array.from({ length: Math.floor((high - low) / step) + 1 }, (_, i) => low + step * i);
  const at = (t: number) => left + ((t - low) / (high - low)) * (width - left - 16);
  return (
    <Box component="figure" sx={{ m: 0 }}>
      <Typography variant="h3" component="figcaption">
        Temperature in flow order, {to?.symbol}
      </Typography>
      <svg
        viewBox={`0 0 ${width} ${y(path.points.length) - 8}`}
        style={{ width: "100%", display: "block" }}
        role="img"
        aria-label={path.points
          .map((p) => `${p.label}: before ${text(p.before_c)}, after ${text(p.after_c)}, healthy ${text(p.should_c)}`)
          .join(". ")}
        fontFamily={typography.fontFamily}
        fontSize={14}
      >
        {ticks.map((t) => (
          <g key={t}>
            <line x1={at(t)} x2={at(t)} y1={20} y2={y(path.points.length) - 14} stroke={palette.divider} />
            <text x={at(t)} y={14} textAnchor="middle" fill={palette.text.secondary}>
              {t}
            </text>
          </g>
        ))}
        {path.points.map((p, i) => (
          <g key={p.label + p.side}>
            <text x={left - 12} y={y(i) + 5} textAnchor="end" fill={palette.text.primary}>
              {p.label}
            </text>
            <rect
              x={x(p.should_c - p.spread_k)}
              width={x(p.should_c + p.spread_k) - x(p.should_c - p.spread_k)}
              y={y(i) - 9}
              height={18}
              fill={water.clear}
              opacity={0.24}
            />
            {p.before_c !== undefined && <Cross x={x(p.before_c)} y={y(i)} ink={water.found} />}
            {p.after_c !== undefined && <circle cx={x(p.after_c)} cy={y(i)} r={6} fill={palette.text.primary} />}
          </g>
        ))}
      </svg>
      <Box sx={{ display: "flex", flexWrap: "wrap", columnGap: 2.5, rowGap: 0.25 }}>
        {path.before && <Key mark={<Cross x={8} y={8} ink={water.found} />} words={`before: ${path.before}`} />}
        <Key
          mark={<circle cx={8} cy={8} r={6} fill={palette.text.primary} />}
          words={`${path.before ? "after" : "read"}: ${path.after}`}
        />
        <Key
          mark={<rect width={16} height={16} fill={water.clear} opacity={0.3} />}
          words="where a healthy engine reads then"
        />
      </Box>
    </Box>
  );
}

const Cross = ({ x, y, ink }: { x: number; y: number; ink: string }) => (
  <path d={`M ${x - 6} ${y - 6} l 12 12 m 0 -12 l -12 12`} stroke={ink} strokeWidth={3} fill="none" />
);

function Key({ mark, words }: { mark: React.ReactNode; words: string }) {
  return (
    <Box sx={{ display: "flex", alignItems: "center", gap: 1 }}>
      <svg width="16" height="16" aria-hidden="true" style={{ flex: "none" }}>
        {mark}
      </svg>
      <Typography variant="body2">{words}</Typography>
    </Box>
  );
}
