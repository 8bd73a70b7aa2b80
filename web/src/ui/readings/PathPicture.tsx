import { Box, Typography } from "@mui/material";
import { useTheme } from "@mui/material/styles";
import { useState } from "react";
import type { PlantReading, PlantRound, UnitSystem } from "../../api/client";
import { ChartFrame } from "../chart/ChartFrame";
import { ReadOut } from "../chart/ReadOut";
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
  const { water, palette } = useTheme();
  const [at, setAt] = useState<number>();
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
  const to = p.units.shownAs("degC", p.system);
  const own = (v: number) => {
    const c = p.units.find("degC");
    return c && to ? String(Math.round(convert(v, c, to))) : String(v);
  };
  const text = (v: number) => shown(p.units, p.system, v, "degC");
  const here = (i: number) => Math.min(points.length - 1, Math.max(0, Math.round(i)));
  const read = (i: number) => {
    const q = points[here(i)];
    if (!q) return "";
    const beside = [
      q.baseline !== undefined && `its own healthy round ${text(q.baseline)}`,
      q.twin !== undefined && `its sister ${text(q.twin)}`,
    ].filter(Boolean);
    const band = `${text(q.should - q.spread)} to ${text(q.should + q.spread)}`;
    return [`${q.label}: ${text(q.found)}, should be ${band}`, ...beside].join("; ");
  };
  return (
    <Box component="figure" sx={{ m: 0, maxWidth: 560 }}>
      <Typography variant="h3" component="figcaption">
        Temperature in flow order, {to?.symbol}
      </Typography>
      <Box
        role="img"
        aria-label={points.map((q) => `${q.label}: found ${text(q.found)}, should be ${text(q.should)}`).join(". ")}
      >
        <ChartFrame
          height={44 + row * points.length}
          x={{ range: [low, high], tick: own }}
          y={{ range: [-0.5, points.length - 0.5], ticks: [], room: left, down: true }}
          along="y"
          onAt={(i) => setAt(here(i))}
        >
          {({ x, y, area }) => (
            <>
              {at !== undefined && (
                <rect
                  x={area.left}
                  width={area.width}
                  y={y(at) - row / 2}
                  height={row}
                  fill={palette.text.primary}
                  opacity={0.1}
                />
              )}
              {(["raw", "coolant"] as const).map((side) => (
                <polyline
                  key={side}
                  points={points.flatMap((q, i) => (q.side === side ? [`${x(q.found)},${y(i)}`] : [])).join(" ")}
                  fill="none"
                  stroke={side === "raw" ? water.raw : water.coolant}
                  strokeWidth={3}
                  strokeDasharray={side === "raw" ? "7 4" : undefined}
                />
              ))}
              {points.map((q, i) => (
                <Row key={i} point={q} x={x} y={y(i)} />
              ))}
            </>
          )}
        </ChartFrame>
      </Box>
      <ReadOut
        name="temperature in flow order"
        range={[0, points.length - 1]}
        step={1}
        at={at}
        onAt={setAt}
        read={read}
      />
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
