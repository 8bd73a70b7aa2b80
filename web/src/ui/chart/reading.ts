import type { Drawn } from "./picture";

type Line = Drawn["lines"][number];

/** Strokes that are told apart without colour, one after the other. */
const dashes = [undefined, "9 5", "2 4", "14 4 2 4", "5 3", "14 4 2 4 2 4", "1 6", "9 3 3 3", "20 6"];

/** The stroke of the line at a place of the list: no two of nine are alike. */
export const dashOf = (i: number) => dashes[i % dashes.length];

/** The value of a line at a place, between its points as straight as it is drawn; nothing beyond its ends. */
export function valueAt(line: Pick<Line, "x" | "y">, at: number): number | undefined {
  const { x, y } = line;
  for (let i = 1; i < x.length; i++) {
    const [a = 0, b = 0] = [x[i - 1], x[i]];
    if (at < Math.min(a, b) || at > Math.max(a, b)) continue;
    const share = b === a ? 0 : (at - a) / (b - a);
    return (y[i - 1] ?? 0) + share * ((y[i] ?? 0) - (y[i - 1] ?? 0));
  }
  return x.length === 1 && x[0] === at ? y[0] : undefined;
}

/** What every line says at a place, in words. */
export function readAt(d: Drawn, at: number): string {
  const said = d.lines.flatMap((l) => {
    const v = valueAt(l, at);
    return v === undefined ? [] : [`${l.label} ${d.y.text(v)}`];
  });
  return `At ${d.x.text(at)}: ${said.join("; ") || "nothing is known"}`;
}

/** Where the names at the ends of lines stand, so that none lies on another: as near to its line as can be. */
export function apart(wanted: number[], least: number, from: number, to: number): number[] {
  const order = wanted.map((_, i) => i).sort((a, b) => (wanted[a] ?? 0) - (wanted[b] ?? 0));
  const out = [...wanted];
  let above = from - least;
  for (const i of order) above = out[i] = Math.max(wanted[i] ?? 0, above + least);
  let below = to + least;
  for (const i of order.reverse()) below = out[i] = Math.min(out[i] ?? 0, below - least);
  return out;
}
