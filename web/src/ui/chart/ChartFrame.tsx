import { useTheme } from "@mui/material/styles";
import type { ReactNode } from "react";
import { ChartsContainer } from "@mui/x-charts/ChartsContainer";
import { ChartsGrid } from "@mui/x-charts/ChartsGrid";
import { ChartsXAxis } from "@mui/x-charts/ChartsXAxis";
import { ChartsYAxis } from "@mui/x-charts/ChartsYAxis";
import { useDrawingArea, useXScale, useYScale } from "@mui/x-charts/hooks";

export type Area = ReturnType<typeof useDrawingArea>;

/** Where things are drawn in a frame: values to places, and the area between the axes. */
export interface Scales {
  x: (v: number) => number;
  y: (v: number) => number;
  area: Area;
}

interface Axis {
  range: [number, number];
  /** Where it is written on; left out: round numbers. Empty: nowhere. */
  ticks?: number[];
  tick?: (v: number) => string;
  /** Room for what is written on it, px. */
  room?: number;
  /** Its least value stands at the top. */
  down?: boolean;
}

interface Props {
  height: number;
  x: Axis;
  y: Axis;
  /** Room right of it, px, for the names of lines. */
  right?: number;
  /** Along which axis a finger reads it. */
  along?: "x" | "y";
  onAt?: (at: number) => void;
  children: (s: Scales) => ReactNode;
}

/** Axes and grid of every chart; what is drawn in it, and what a finger reads on it, is given. */
export function ChartFrame({ height, x, y, right = 18, along = "x", onAt, children }: Props) {
  const theme = useTheme();
  const written = { tickLabelStyle: { fontSize: 13, fill: theme.palette.text.secondary } };
  const axis = (a: Axis) => ({
    min: a.range[0],
    max: a.range[1],
    scaleType: "linear" as const,
    reverse: a.down,
    valueFormatter: a.tick,
    tickInterval: a.ticks,
    ...written,
  });
  const bare = (a: Axis) => a.ticks?.length === 0;
  return (
    <ChartsContainer
      height={height}
      margin={{ top: 8, right, bottom: 4, left: 0 }}
      series={[]}
      skipAnimation
      disableKeyboardNavigation
      xAxis={[{ id: "x", height: bare(x) ? 0 : (x.room ?? 30), ...axis(x) }]}
      yAxis={[{ id: "y", width: y.room ?? 46, ...axis(y) }]}
    >
      <ChartsGrid horizontal={!bare(y)} vertical={along === "y"} />
      <Inside {...{ along, onAt, children }} range={along === "x" ? x.range : y.range} down={y.down} />
      {!bare(x) && <ChartsXAxis axisId="x" />}
      {!bare(y) && <ChartsYAxis axisId="y" />}
    </ChartsContainer>
  );
}

type InsideProps = Pick<Props, "along" | "onAt" | "children"> & { range: [number, number]; down?: boolean };

function Inside({ along, onAt, children, range, down }: InsideProps) {
  const theme = useTheme();
  const [sx, sy] = [useXScale<"linear">("x"), useYScale<"linear">("y")];
  const area = useDrawingArea();
  const at = (e: React.PointerEvent) => {
    const r = e.currentTarget.getBoundingClientRect();
    const share = along === "x" ? (e.clientX - r.left) / (r.width || 1) : (e.clientY - r.top) / (r.height || 1);
    const up = along === "y" && !down ? 1 - share : share;
    onAt?.(range[0] + Math.min(1, Math.max(0, up)) * (range[1] - range[0]));
  };
  return (
    <g fontFamily={theme.typography.fontFamily} fontSize={13}>
      {children({ x: (v) => sx(v) ?? 0, y: (v) => sy(v) ?? 0, area })}
      {onAt && (
        <rect
          x={area.left}
          y={area.top}
          width={area.width}
          height={area.height}
          fill="transparent"
          onPointerMove={at}
          onPointerDown={at}
        />
      )}
    </g>
  );
}
