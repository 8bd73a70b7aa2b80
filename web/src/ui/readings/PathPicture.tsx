import { Box, Typography } from "@mui/material";
import { useTheme } from "@mui/material/styles";
import type { PlantReading, PlantRound, UnitSystem } from "../../api/client";
import { shouldOf } from "./rounds";
import { convert, shown, type Units } from "../units";
import type { Words } from "../words";

const row = 34;
const left = 128;

interface Point {
  label: string;
  side: "raw" | "coolant";
  should: number;
  spread: number;
  found: number;
  baseline?: number;
  twin?: number;
}

type Carried = PlantRound["readings"] | undefined;

/** The temperature in flow order: at each place what was found, on the band in which it should be; and what its healthy
 * round and its sister's come to here. */
export function PathPicture(p: {
  round: PlantRound;
  should: PlantReading[];
  baseline?: Carried;
  twin?: Carried;
  words: Words;
  units: Units;
  system: UnitSystem;
}) {
  const { water, palette, typography } = useTheme();
  const points: Point[] = p.round.readings.flatMap((r) => {
    const s = shouldOf(r, p.should);
    if (!s || r.station === "flow") return [];
    const spread = 2 * Math.hypot(s.spread_k ?? 2, r.error ?? 1);
    const beside = (list: Carried) => list?.find((x) => x.station === r.station && x.side === r.side)?.value;
    const [baseline, twin] = [beside(p.baseline), beside(p.twin)];
    return [
      { label: p.words.station(r.station), side: s.side, should: s.temp_c, spread, found: r.value, baseline, twin },
    ];
  });
  if (points.length === 0) return null;
  const all = points.flatMap((x) => [
    x.found,
    x.should - x.spread,
    x.should + x.spread,
    x.baseline ?? x.should,
    x.twin ?? x.should,
  ]);
  const [low, high] = [Math.floor((Math.min(...all) - 2) / 10) * 10, Math.ceil((Math.max(...all) + 2) / 10) * 10];
  const width = 460;
  const x = (v: number) => left + ((v - low) / (high - low)) * (width - left - 16);
  const y = (i: number) => 26 + i * row;
  const colour = (side: string) => (side === "raw" ? water.raw : water.coolant);
  const text = (v: number) => shown(p.units, p.system, v, "degC");
  const ticks = Array.from({ length: Math.floor((high - low) / 20) + 1 }, (_, i) => low + 20 * i);
  const own = (v: number) => {
    const [c, to] = [p.units.find("degC"), p.units.shownAs("degC", p.system)];
    return c && to ? Math.round(convert(v, c, to)) : v;
  };
  return (
    <Box component="figure" sx={{ m: 0 }}>
      <Typography variant="h3" component="figcaption">
        Temperature in flow order, {p.units.shownAs("degC", p.system)?.symbol}
      </Typography>
      <svg
        viewBox={`0 0 ${width} ${y(points.length) - 4}`}
        style={{ width: "100%", maxWidth: 560, display: "block" }}
        role="img"
        aria-label={points.map((q) => `${q.label}: found ${text(q.found)}, should be ${text(q.should)}`).join(". ")}
        fontFamily={typography.fontFamily}
        fontSize={13}
      >
        {ticks.map((t) => (
          <g key={t}>
            <line x1={x(t)} x2={x(t)} y1={14} y2={y(points.length)} stroke={palette.divider} />
            <text x={x(t)} y={10} textAnchor="middle" fill={palette.text.secondary}>
              {own(t)}
            </text>
          </g>
        ))}
        {(["raw", "coolant"] as const).map((side) => (
          <polyline
            key={side}
            points={points.flatMap((q, i) => (q.side === side ? [`${x(q.found)},${y(i)}`] : [])).join(" ")}
            fill="none"
            stroke={colour(side)}
            strokeWidth={3}
            strokeDasharray={side === "raw" ? "7 4" : undefined}
          />
        ))}
        {points.map((q, i) => (
          <Row key={i} point={q} x={x} y={y(i)} />
        ))}
      </svg>
      <Typography variant="body2" sx={{ color: "text.secondary" }}>
        Dashed raw water, full line coolant. A round mark lies in the band where a healthy engine reads; a square on its
        corner does not.
        {points.some((q) => q.baseline !== undefined) && " An upright stroke: its own healthy readings, brought here."}
        {points.some((q) => q.twin !== undefined) && " An open triangle: its sister, the same day, brought here."}
      </Typography>
    </Box>
  );
}

const short = (label: string) => (label.length > 17 ? `${label.slice(0, 16)}…` : label);

/** One place: its band, its healthy reading, its sister's, and what was found. */
function Row({ point: q, x, y }: { point: Point; x: (v: number) => number; y: number }) {
  const { water, palette } = useTheme();
  const off = Math.abs(q.found - q.should) > q.spread;
  const [low, high] = [x(q.should - q.spread), x(q.should + q.spread)];
  const ink = palette.text.primary;
  return (
    <g>
      <rect x={low} width={high - low} y={y - 10} height={20} fill={water.clear} opacity={0.22} />
      <text x={left - 10} y={y + 4} textAnchor="end" fill={ink} fontWeight={off ? 750 : 450}>
        {short(q.label)}
      </text>
      {q.baseline !== undefined && (
        <line x1={x(q.baseline)} x2={x(q.baseline)} y1={y - 12} y2={y + 12} stroke={ink} strokeWidth={3} />
      )}
      {q.twin !== undefined && (
        <path d={`M ${x(q.twin)} ${y - 8} l 8 15 l -16 0 z`} fill="none" stroke={ink} strokeWidth={2} />
      )}
      {off ? (
        <path d={`M ${x(q.found)} ${y - 9} l 9 9 l -9 9 l -9 -9 z`} fill={water.found} />
      ) : (
        <circle cx={x(q.found)} cy={y} r={6} fill={q.side === "raw" ? water.raw : water.coolant} />
      )}
    </g>
  );
}
