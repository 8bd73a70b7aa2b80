/** The sums behind the drawings: what stands at 40 % covers 40 %. Lengths in a plate's own units, angles in degrees. */

export interface Point {
  x: number;
  y: number;
}

/** A number as it stands in a path. */
const n = (v: number) => String(Math.round(v * 100) / 100);

/** The point at a radius and an angle, clockwise from the top. */
export function polar(cx: number, cy: number, r: number, deg: number): Point {
  const a = (deg * Math.PI) / 180;
  return { x: cx + r * Math.sin(a), y: cy - r * Math.cos(a) };
}

/** A path through points; closed where it is an area. */
export const path = (points: Point[], closed = false) =>
  points.map((p, i) => `${i ? "L" : "M"}${n(p.x)} ${n(p.y)}`).join(" ") + (closed ? "Z" : "");

/** An arc from one angle to another, clockwise; from and to in degrees from the top. */
export function arc(cx: number, cy: number, r: number, from: number, to: number): string {
  const [a, b] = [polar(cx, cy, r, from), polar(cx, cy, r, to)];
  return `M${n(a.x)} ${n(a.y)} A${n(r)} ${n(r)} 0 ${to - from > 180 ? 1 : 0} 1 ${n(b.x)} ${n(b.y)}`;
}

/** A whole circle as a path, so that it can be a hole of another. */
export const circle = (cx: number, cy: number, r: number) =>
  `M${n(cx - r)} ${n(cy)} a${n(r)} ${n(r)} 0 1 0 ${n(2 * r)} 0 a${n(r)} ${n(r)} 0 1 0 ${n(-2 * r)} 0Z`;

/** A ring, drawn with fill-rule evenodd. */
export const ring = (cx: number, cy: number, outer: number, inner: number) =>
  circle(cx, cy, outer) + (inner > 0 ? circle(cx, cy, inner) : "");

/** A part of a ring between two angles. */
export function sector(cx: number, cy: number, inner: number, outer: number, from: number, to: number): string {
  const [a, b, c, d] = [
    polar(cx, cy, outer, from),
    polar(cx, cy, outer, to),
    polar(cx, cy, inner, to),
    polar(cx, cy, inner, from),
  ];
  const wide = to - from > 180 ? 1 : 0;
  return (
    `M${n(a.x)} ${n(a.y)} A${n(outer)} ${n(outer)} 0 ${wide} 1 ${n(b.x)} ${n(b.y)} L${n(c.x)} ${n(c.y)} ` +
    `A${n(inner)} ${n(inner)} 0 ${wide} 0 ${n(d.x)} ${n(d.y)}Z`
  );
}

/** What is left open of a round bore when a crust all round takes a share of its area: the radius. */
export const openRadius = (radius: number, share: number) => radius * Math.sqrt(1 - share);

/** What is left open of a width when a share of it is taken. */
export const openWidth = (width: number, share: number) => width * (1 - share);

/** How many of so many are meant by a share. */
export const countOf = (total: number, share: number) => Math.round(total * share);

/** The height of the segment at the bottom of a circle that takes a share of its area: found by halving. */
export function segmentHeight(radius: number, share: number): number {
  let [low, high] = [0, 2 * radius];
  for (let i = 0; i < 50; i++) {
    const h = (low + high) / 2;
    if (segmentArea(radius, h) < share * Math.PI * radius * radius) low = h;
    else high = h;
  }
  return (low + high) / 2;
}

/** The area of a segment of a circle, of a height from 0 to twice the radius: sector less triangle. */
export const segmentArea = (r: number, h: number) =>
  r * r * Math.acos(1 - h / r) - (r - h) * Math.sqrt(Math.max(0, 2 * r * h - h * h));

/** The segment at the bottom of a circle that covers a share of it. */
export function segment(cx: number, cy: number, r: number, share: number): string {
  if (share <= 0) return "";
  if (share >= 1) return circle(cx, cy, r);
  const y = cy + r - segmentHeight(r, share);
  const half = Math.sqrt(Math.max(0, r * r - (y - cy) ** 2));
  return `M${n(cx - half)} ${n(y)} A${n(r)} ${n(r)} 0 ${share > 0.5 ? 1 : 0} 0 ${n(cx + half)} ${n(y)}Z`;
}

/** Places on a grid of equal triangles within a circle, row by row. */
export function gridWithin(cx: number, cy: number, r: number, pitch: number): Point[] {
  const out: Point[] = [];
  const rise = (pitch * Math.sqrt(3)) / 2;
  const rows = Math.floor(r / rise);
  for (let row = -rows; row <= rows; row++) {
    const shift = row % 2 ? pitch / 2 : 0;
    for (let x = -Math.ceil(r / pitch) * pitch + shift; x <= r; x += pitch)
      if (x * x + (row * rise) ** 2 <= r * r) out.push({ x: cx + x, y: cy + row * rise });
  }
  return out;
}

/** So many of them, strewn, always the same ones; fewer are a part of more. */
export function strewn<T>(all: T[], count: number): T[] {
  const key = (i: number) => (Math.sin(i * 12.9898 + 4.1) * 43758.5453) % 1;
  return all
    .map((v, i): [number, T] => [Math.abs(key(i + 1)), v])
    .sort(([a], [b]) => a - b)
    .slice(0, count)
    .map(([, v]) => v);
}

/** One of so many blades of a wheel as an area: from the hub out to a radius, its tip leant by an angle. */
export function bladeArea(
  cx: number,
  cy: number,
  hub: number,
  out: number,
  at: number,
  half: number,
  lean = 0,
): string {
  const points: [number, number][] = [
    [at - half, hub],
    [at - half * 0.6 + lean, out],
    [at + half * 0.6 + lean, out],
    [at + half, hub],
  ];
  return path(
    points.map(([a, r]) => polar(cx, cy, r, a)),
    true,
  );
}

/** A round pulley of a belt. */
export interface Pulley extends Point {
  r: number;
}

/** Where the two straight runs of an open belt leave one pulley and meet the other: first the left run going on. */
export function beltRuns(a: Pulley, b: Pulley): [Point, Point][] {
  const [dx, dy] = [b.x - a.x, b.y - a.y];
  const d = Math.hypot(dx, dy);
  const along = Math.atan2(dy, dx);
  const off = Math.acos((a.r - b.r) / d);
  return [along - off, along + off].map((t) => [
    { x: a.x + a.r * Math.cos(t), y: a.y + a.r * Math.sin(t) },
    { x: b.x + b.r * Math.cos(t), y: b.y + b.r * Math.sin(t) },
  ]);
}

/** A wavy line of a width, from left to right. */
export function wave(x: number, y: number, length: number, step = 8): string {
  const count = Math.max(1, Math.round(length / (2 * step)));
  return `M${n(x)} ${n(y)} ` + `q${step / 2} ${-step / 2} ${step} 0 t${step} 0 `.repeat(count).trim();
}

/** A rectangle with round corners as a path. */
export const box = (x: number, y: number, w: number, h: number, r = 0) =>
  r > 0
    ? `M${n(x + r)} ${n(y)} h${n(w - 2 * r)} q${r} 0 ${r} ${r} v${n(h - 2 * r)} q0 ${r} ${-r} ${r} h${n(2 * r - w)} ` +
      `q${-r} 0 ${-r} ${-r} v${n(2 * r - h)} q0 ${-r} ${r} ${-r}Z`
    : `M${n(x)} ${n(y)} h${n(w)} v${n(h)} h${n(-w)}Z`;
