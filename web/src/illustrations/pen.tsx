/**
 * The pen of all drawings: a plate of 160 by 120, two weights of line, one accent, and patterns that tell one stuff
 * from another without colour. Colours come from the theme.
 */
import { useTheme } from "@mui/material/styles";
import { createContext, useContext, useId, type CSSProperties, type ReactNode } from "react";
import { arc, circle, polar } from "./geometry";
import { penOf } from "./inks";

/** What an area is made of. */
export type Stuff =
  "none" | "paper" | "ink" | "accent" | "metal" | "raw" | "coolant" | "oil" | "rubber" | "crust" | "weed";

const patterned = new Set<Stuff>(["metal", "raw", "coolant", "oil", "crust", "weed"]);

const Sheet = createContext({ id: "", small: false });

export const wide = 160;
export const high = 120;

interface PlateProps {
  /** Words for those who do not see it; none where words stand beside it. */
  label?: string;
  /** Drawn at half the width or less: heavier lines, no letters. */
  small?: boolean;
  width?: number | string;
  children: ReactNode;
}

/** A sheet to draw on. */
export function Plate({ label, small = false, width = wide, children }: PlateProps) {
  const pen = penOf(useTheme());
  const id = useId();
  const style = {
    display: "block",
    flex: "none",
    maxWidth: "100%",
    "--thin": small ? 2.8 : 1.5,
    "--thick": small ? 4.6 : 3,
    ...Object.fromEntries(Object.entries(pen).map(([name, colour]) => [`--${name}`, colour])),
  } as CSSProperties;
  return (
    <svg
      viewBox={`0 0 ${wide} ${high}`}
      width={width}
      style={style}
      {...(label ? { role: "img", "aria-label": label } : { "aria-hidden": true })}
    >
      <defs>
        <Pattern id={`${id}metal`} size={7} tone="metal" d="M-1 8 L8 -1 M-1 1 L1 -1 M6 8 L8 6" ink="ink" />
        <Pattern
          id={`${id}raw`}
          size={14}
          tone="rawTone"
          d="M0 4 q3.5 -3.5 7 0 t7 0 M-7 11 q3.5 -3.5 7 0 t7 0 t7 0"
          ink="raw"
        />
        <Pattern id={`${id}coolant`} size={9} tone="coolantTone" d="M2.5 1 v3.5 M7 5.5 v3.5" ink="coolant" />
        <Pattern id={`${id}oil`} size={9} tone="oil" d="M0 4.5 h5" ink="ink" />
        <Pattern id={`${id}crust`} size={7} tone="crust" d="M1 2 h1.6 M4.6 5.4 h1.6 M5.4 1 v1.4" ink="ink" />
        <Pattern id={`${id}weed`} size={9} tone="weed" d="M1 8 q3 -3 1 -7 M6 8.5 q-2 -4 1.4 -7" ink="ink" />
      </defs>
      <Sheet.Provider value={{ id, small }}>{children}</Sheet.Provider>
    </svg>
  );
}

function Pattern(p: { id: string; size: number; tone: string; d: string; ink: string }) {
  return (
    <pattern id={p.id} width={p.size} height={p.size} patternUnits="userSpaceOnUse">
      <rect width={p.size} height={p.size} fill={`var(--${p.tone})`} />
      <path d={p.d} stroke={`var(--${p.ink})`} strokeWidth="1.5" fill="none" />
    </pattern>
  );
}

interface Stroke {
  d: string;
  fill?: Stuff;
  thick?: boolean;
  /** What the eye is led to. */
  accent?: boolean;
  dashed?: boolean;
  /** No outline: only the area. */
  bare?: boolean;
  turn?: string;
}

/** A line, or an area of some stuff with its outline. */
export function Path({ d, fill = "none", thick, accent, dashed, bare, turn }: Stroke) {
  const { id } = useContext(Sheet);
  if (!d) return null;
  return (
    <path
      d={d}
      fill={patterned.has(fill) ? `url(#${id}${fill})` : fill === "none" ? "none" : `var(--${fill})`}
      fillRule="evenodd"
      stroke={bare ? "none" : `var(--${accent ? "accent" : "ink"})`}
      strokeLinecap="round"
      strokeLinejoin="round"
      strokeDasharray={dashed ? "5 4" : undefined}
      transform={turn}
      style={{ strokeWidth: thick ? "var(--thick)" : "var(--thin)" }}
    />
  );
}

/** A round thing. */
export const Disc = ({ x, y, r, ...rest }: { x: number; y: number; r: number } & Omit<Stroke, "d">) => (
  <Path d={circle(x, y, r)} {...rest} />
);

/** An arrow along a straight way. */
export function Arrow({
  from,
  to,
  accent = false,
}: {
  from: [number, number];
  to: [number, number];
  accent?: boolean;
}) {
  const a = Math.atan2(to[1] - from[1], to[0] - from[0]);
  const barb = (turn: number) => `L${to[0] - 8 * Math.cos(a + turn)} ${to[1] - 8 * Math.sin(a + turn)}`;
  const head = `M${to[0]} ${to[1]} ${barb(0.5)} M${to[0]} ${to[1]} ${barb(-0.5)}`;
  return <Path d={`M${from[0]} ${from[1]} L${to[0]} ${to[1]} ${head}`} thick accent={accent} />;
}

/** An arrow round a middle; back: against the clock. */
export function Turn(p: {
  x: number;
  y: number;
  r: number;
  from: number;
  to: number;
  back?: boolean;
  accent?: boolean;
}) {
  const end = polar(p.x, p.y, p.r, p.back ? p.from : p.to);
  const way = ((p.back ? p.from - 90 : p.to + 90) * Math.PI) / 180;
  const barb = (turn: number) => `L${end.x - 8 * Math.sin(way + turn)} ${end.y + 8 * Math.cos(way + turn)}`;
  const head = `M${end.x} ${end.y} ${barb(0.55)} M${end.x} ${end.y} ${barb(-0.55)}`;
  return <Path d={`${arc(p.x, p.y, p.r, p.from, p.to)} ${head}`} thick accent={p.accent} />;
}

/** The place to look at. */
export const Look = ({ x, y, r = 13 }: { x: number; y: number; r?: number }) => (
  <Path d={circle(x, y, r)} accent dashed />
);

/** A drop that hangs or falls. */
export const Drop = ({ x, y, fill = "raw" }: { x: number; y: number; fill?: Stuff }) => (
  <Path d={`M${x} ${y} q6 8 0 12 q-6 -4 0 -12Z`} fill={fill} accent />
);

/** Bubbles that rise from a place, small ones above. */
export const Bubbles = ({ x, y, fill = "paper" }: { x: number; y: number; fill?: Stuff }) => (
  <Path d={circle(x, y, 4) + circle(x + 6, y - 9, 3) + circle(x - 3, y - 16, 2.4)} fill={fill} />
);

/** Letters on the drawing; left out where it is small. */
export function Say({ x, y, children }: { x: number; y: number; children: ReactNode }) {
  const { small } = useContext(Sheet);
  if (small) return null;
  return (
    <text x={x} y={y} textAnchor="middle" fontSize="12" fontWeight="700" fill="var(--ink)">
      {children}
    </text>
  );
}

/** What stands on a drawing: the view, and how much of each thing is shown, 0 to 1. */
export interface Shown {
  view: string;
  show: (name: string) => number;
}

/** Draws one plate in the state that is shown. */
export type Draw = (shown: Shown) => ReactNode;
