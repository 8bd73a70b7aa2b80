import { Box, ButtonBase, Typography } from "@mui/material";
import { useTheme, type Theme } from "@mui/material/styles";
import { memo } from "react";
import type { Schemas } from "../../api/client";
import { Drawn } from "../Drawn";
import { useDrawn } from "../drawings";
import { useQuantity } from "../quantity";
import { StateShape } from "../StateShape";
import { warmth, type Spine as Facts, type SpineStation } from "../stations";

/** How high a station's words stand: its name and its readings break into two lines where it is narrow. */
const heightOf = (s: SpineStation) =>
  17 * (2 + (s.label.length > 12 ? 1 : 0) + (s.words.length > 13 ? 1 : 0) + 2 * s.read.length) + 12;

/** How high a row is at least. */
const leastRow = 60;

/**
 * Where the middle of each place of the grid lies, of which there are so many: a row is as high as what stands in it. A
 * place may lie between two rows.
 */
function placesOf(rows: number, stands: [SpineStation, number][]) {
  const heights = Array.from({ length: rows + 1 }, () => leastRow);
  for (const [s, place] of stands) {
    const row = Math.floor(place);
    heights[row] = Math.max(heights[row] ?? leastRow, heightOf(s));
  }
  const tops = [top];
  heights.forEach((h, i) => tops.push((tops[i] ?? top) + h));
  const middle = (row: number) => ((tops[row] ?? 0) + (tops[row + 1] ?? tops[row] ?? 0)) / 2;
  return (place: number) => {
    const row = Math.floor(place);
    return middle(row) + (place - row) * (middle(row + 1) - middle(row));
  };
}
const top = 34;
const rawX = 36;
const loopLeft = 188;
const loopRight = 218;
const loopBend = (loopRight - loopLeft) / 2;
/** How wide a station's drawing stands on its pipe. */
const plateWide = 52;
/** How wide the pipe of the raw water is when nothing flows, and when all does. */
const [leastWide, mostWide] = [4, 11];
/** How far the words begin from the middle of the pipe. */
const wordsFrom = plateWide / 2 + 6;

/**
 * The water: one run of pipe from the sea down to the outlet, and the coolant's loop beside it, joined where the two
 * meet. Each station is a button with its state in shape and words, and its last reading against what it should be.
 */
export function Spine({
  spine,
  circuit,
  chosen,
  onChoose,
}: {
  spine: Facts;
  /** Of the engine, where its drawings are meant. */
  circuit?: string[];
  chosen?: string;
  onChoose: (station: string) => void;
}) {
  const drawn = useDrawn(circuit);
  const loopFrom = Math.max(
    0,
    Math.min(spine.joint - Math.floor(spine.loop.length / 2), spine.raw.length - spine.loop.length - 2),
  );
  const besideFrom =
    spine.loop.length > 0 ? loopFrom + spine.loop.length + 1.4 : spine.raw.length - spine.beside.length - 1;
  const rows = Math.ceil(Math.max(spine.raw.length, besideFrom + spine.beside.length));
  const at = placesOf(rows, [
    ...spine.raw.map((s, i): [SpineStation, number] => [s, i]),
    ...spine.loop.map((s, i): [SpineStation, number] => [s, loopFrom + i]),
    ...spine.beside.map((s, i): [SpineStation, number] => [s, besideFrom + i]),
  ]);
  const height = at(rows) + 8;
  const shared = (s: SpineStation) => ({ station: s, drawing: drawn.station(s.id), chosen: chosen === s.id, onChoose });
  // where a screen is narrower than the drawing, the drawing alone is moved aside
  return (
    <Box sx={{ overflowX: "auto", overflowY: "hidden" }}>
      <Box
        component="nav"
        aria-label="The water, from the sea to the outlet"
        sx={{ position: "relative", height, minWidth: 340 }}
      >
        <Pipes {...{ spine, loopFrom, height, at }} />
        {spine.raw.map((s, i) => (
          <Station
            key={s.id}
            x={rawX}
            y={at(i)}
            width={spine.loop.length > 0 ? loopLeft - rawX - 8 : 290}
            {...shared(s)}
          />
        ))}
        {spine.loop.map((s, i) => (
          <Station key={s.id} x={loopRight} y={at(loopFrom + i)} {...shared(s)} />
        ))}
        {spine.beside.length > 0 && (
          <Typography
            variant="overline"
            sx={{ position: "absolute", left: loopRight - 26, top: at(besideFrom) - 50, color: "text.secondary" }}
          >
            Off the water
          </Typography>
        )}
        {spine.beside.map((s, i) => (
          <Station key={s.id} x={loopRight} y={at(besideFrom + i)} {...shared(s)} />
        ))}
      </Box>
    </Box>
  );
}

interface PipesProps {
  spine: Facts;
  loopFrom: number;
  height: number;
  at: (place: number) => number;
}

function Pipes({ spine, loopFrom, height, at }: PipesProps) {
  const { water, palette } = useTheme();
  const last = at(spine.raw.length - 1);
  const joint = at(spine.joint);
  const [from, to] = [at(loopFrom) - 22, at(loopFrom + spine.loop.length - 1) + 22];
  const loop =
    `M${loopRight} ${from} V${to} q0 14 ${-loopBend} 14 t${-loopBend} -14 ` +
    `V${from} q0 -14 ${loopBend} -14 t${loopBend} 14`;
  const warm = warmth(spine.raw, "raw");
  const seen = { none: 0, weak: 0.6, good: 1 }[spine.outlet ?? "good"];
  const wide = leastWide + (mostWide - leastWide) * Math.min(1, spine.flow ?? seen);
  const pipe = (d: string, colour: string, width: number) => (
    <>
      <path d={d} stroke={water.pipeEdge} strokeWidth={width + 3} fill="none" strokeLinecap="round" />
      <path d={d} stroke={colour} strokeWidth={width} fill="none" strokeLinecap="round" />
    </>
  );
  return (
    <svg width="100%" height={height} aria-hidden="true" style={{ position: "absolute", inset: 0 }}>
      <path
        d={`M4 ${top - 18} q7 -10 14 0 t14 0 t14 0 t14 0`}
        stroke={water.raw}
        strokeWidth="4"
        fill="none"
        strokeLinecap="round"
      />
      <text x="74" y={top - 14} fill={palette.text.secondary} fontSize="14">
        the sea
      </text>
      {spine.joint >= 0 && spine.loop.length > 0 && (
        <>
          {pipe(`M${rawX} ${joint - 8} H${loopLeft}`, water.coolant, 5)}
          {pipe(`M${rawX} ${joint + 8} H${loopLeft}`, water.coolant, 5)}
          {pipe(loop, water.coolant, 8)}
        </>
      )}
      {pipe(`M${rawX} ${top - 14} V${last + 22}`, water.raw, wide)}
      {spine.raw.slice(0, -1).map((s, i) => (
        <path
          key={s.id}
          d={`M${rawX} ${at(i)} V${at(i + 1)}`}
          stroke={tone(water, warm[i])}
          strokeWidth={wide}
          fill="none"
        />
      ))}
      {spine.raw.slice(0, -1).map((s, i) => (
        <path
          key={s.id}
          d={`M${rawX - 4} ${(at(i) + at(i + 1)) / 2 - 3} l4 5 l4 -5`}
          fill="none"
          stroke={water.panel}
          strokeWidth="2.2"
        />
      ))}
      <path
        d={`M${rawX - 12} ${last + 24} q6 8 12 0 t12 0`}
        stroke={water.raw}
        strokeWidth="4"
        fill="none"
        strokeLinecap="round"
      />
    </svg>
  );
}

/** From so many degrees the water is as cold, and up to so many as warm, as its colour can tell. */
const [coldC, hotC] = [10, 60];

/** The colour of water of a warmth: the words beside it say the same. */
function tone(water: Theme["water"], warm?: number) {
  if (warm === undefined) return water.raw;
  const share = Math.round(100 * Math.min(1, Math.max(0, (warm - coldC) / (hotC - coldC))));
  return `color-mix(in oklab, ${water.coolant} ${share}%, ${water.raw})`;
}

interface StationProps {
  station: SpineStation;
  drawing?: Schemas["Drawing"];
  x: number;
  y: number;
  width?: number;
  chosen: boolean;
  onChoose: (station: string) => void;
}

const Station = memo(function Station({ station, drawing, x, y, width, chosen, onChoose }: StationProps) {
  const { water, palette } = useTheme();
  const degrees = useQuantity("degC");
  const shown = (v: number) => `${degrees.shown(v)}\u00a0${degrees.symbol}`;
  const colour = { untouched: water.quiet, clear: water.clear, suspect: water.suspect, found: water.found }[
    station.state
  ];
  return (
    <ButtonBase
      onClick={() => onChoose(station.id)}
      aria-pressed={chosen}
      sx={{
        position: "absolute",
        left: x - plateWide / 2,
        top: y - Math.max(50, heightOf(station) - 4) / 2,
        height: Math.max(50, heightOf(station) - 4),
        ...(width ? { width: width + plateWide / 2 } : { right: 0 }),
        justifyContent: "flex-start",
        gap: `${wordsFrom - plateWide / 2}px`,
        textAlign: "left",
      }}
    >
      <Box sx={{ position: "relative", width: plateWide, flex: "none" }}>
        <Box sx={{ bgcolor: "background.paper", border: 1.5, borderColor: "text.primary", borderRadius: 1, p: "2px" }}>
          <Box sx={{ aspectRatio: "4 / 3" }}>
            <Drawn of={drawing} width={plateWide - 8} small />
          </Box>
        </Box>
        {(station.state !== "untouched" || station.open) && (
          <Box sx={{ position: "absolute", left: -8, bottom: -6 }}>
            <StateShape state={station.state} open={station.open} size={22} />
          </Box>
        )}
      </Box>
      <Box
        sx={{
          bgcolor: "background.paper",
          px: 0.75,
          py: 0.25,
          borderRadius: 0.5,
          outline: chosen ? `2px solid ${palette.text.primary}` : "none",
        }}
      >
        <Typography sx={{ fontWeight: 650, lineHeight: 1.1, fontSize: "0.95rem" }}>{station.label}</Typography>
        <Typography
          sx={{
            display: station.words ? undefined : "none",
            color: colour,
            lineHeight: 1.2,
            fontSize: "0.84rem",
            fontWeight: station.state === "untouched" ? 400 : 650,
          }}
        >
          {station.words}
        </Typography>
        {station.read.map((r) => (
          <Typography key={r.side} sx={{ lineHeight: 1.2, fontSize: "0.84rem", fontWeight: r.off ? 750 : 400 }}>
            {station.read.length > 1 && `${r.side} `}
            {shown(r.value)}
            {r.should !== undefined && (
              <Box component="span" sx={{ display: "block" }}>
                should {shown(r.should)}
              </Box>
            )}
          </Typography>
        ))}
      </Box>
    </ButtonBase>
  );
}, alike);

/** Drawn afresh only when what it shows has changed. */
function alike(a: StationProps, b: StationProps) {
  return (
    a.station.id === b.station.id &&
    a.station.words === b.station.words &&
    JSON.stringify(a.station.read) === JSON.stringify(b.station.read) &&
    a.drawing === b.drawing &&
    a.x === b.x &&
    a.y === b.y &&
    a.chosen === b.chosen &&
    a.onChoose === b.onChoose
  );
}
