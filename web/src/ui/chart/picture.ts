import type { Picture, UnitSystem } from "../../api/client";
import { clockTime, convert, digits, type Units } from "../units";

interface DrawnAxis {
  label: string;
  time: boolean;
  tick: (v: number) => string;
  text: (v: number) => string;
}

/** A picture with everything in the person's own units. */
export type Drawn = Omit<Picture, "x" | "y" | "bars"> & { x: DrawnAxis; y: DrawnAxis };

/** Turns a picture into the person's own units; times are told in minutes. */
export function inUnits(p: Picture, units: Units, system: UnitSystem): Drawn {
  const axis = (a: Picture["x"]) => {
    const from = units.find(a.unit);
    const to = units.shownAs(a.unit, system);
    const time = to?.dimension === "time";
    const symbol = time ? "min:s" : (to?.symbol ?? a.unit);
    const text = (v: number) => (time ? clockTime(v) : `${digits(v, to)}${to?.symbol ? `\u00a0${to.symbol}` : ""}`);
    return {
      turn: (v: number) => (from && to ? convert(v, from, to) : v),
      drawn: {
        time,
        label: symbol ? `${a.label}, ${symbol}` : a.label,
        tick: (v: number) => (time ? clockTime(v) : String(v)),
        text,
      },
    };
  };
  const [x, y] = [axis(p.x), axis(p.y)];
  const by = { x, y };
  return {
    title: p.title,
    x: x.drawn,
    y: y.drawn,
    lines: p.lines.map((l) => ({ ...l, x: l.x.map(x.turn), y: l.y.map(y.turn) })),
    bands: p.bands.map((b) => ({ ...b, from: by[b.across].turn(b.from), to: by[b.across].turn(b.to) })),
    limits: p.limits.map((l) => ({ ...l, at: by[l.across].turn(l.at) })),
    marks: p.marks.map((m) => ({ ...m, x: x.turn(m.x), y: y.turn(m.y) })),
  };
}

/** Whole minutes, or round numbers of them, to write along a stretch of time in seconds; none for another axis. */
export function minutesAlong([from, to]: [number, number], axis: DrawnAxis): number[] | undefined {
  if (!axis.time) return undefined;
  const step = [60, 120, 300, 600, 900, 1800, 3600, 7200, 14400].find((s) => (to - from) / s <= 8) ?? (to - from) / 8;
  const first = Math.ceil(from / step) * step;
  return Array.from({ length: Math.floor((to - first) / step) + 1 }, (_, i) => first + i * step);
}

/** The stretch of an axis that shows everything, with a little air. */
export function extent(d: Drawn, axis: "x" | "y"): [number, number] {
  const values = [
    ...d.lines.flatMap((l) => l[axis]),
    ...d.marks.map((m) => m[axis]),
    ...d.limits.filter((l) => l.across === axis).map((l) => l.at),
    ...d.bands.filter((b) => b.across === axis).flatMap((b) => [b.from, b.to]),
  ];
  const [low, high] = values.reduce(([a, b], v) => [Math.min(a, v), Math.max(b, v)], [Infinity, -Infinity]);
  if (!Number.isFinite(low) || !Number.isFinite(high)) return [0, 1];
  const air = (high - low || Math.abs(high) || 1) * (axis === "y" ? 0.08 : 0.02);
  return [low >= 0 && low - air < 0 ? 0 : low - air, high + air];
}

/** The picture in words, for those who do not see it. */
export function label(d: Drawn): string {
  const lines = d.lines.map((l) => {
    const point = (i: number) => `${d.y.text(l.y[i] ?? 0)} at ${d.x.text(l.x[i] ?? 0)}`;
    return `${l.label} from ${point(0)} to ${point(l.x.length - 1)}`;
  });
  const marks = d.marks.map((m) => `${m.label}: ${d.y.text(m.y)} at ${d.x.text(m.x)}`);
  const limits = d.limits.map((l) => `${l.label}: ${d[l.across].text(l.at)}`);
  return [d.title, ...lines, ...marks, ...limits].join(". ");
}
