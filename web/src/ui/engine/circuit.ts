/** Changes of an engine's circuit: an ordered list of stations. */
import type { Catalogue, Schemas } from "../../api/client";

/** The circuit that a new engine of a family starts from. */
export const circuitFor = (c: Catalogue, family: string) => [
  ...(c.families.find((f) => f.id === family)?.circuit ?? []),
];

/** Whether coolant runs in an engine's block; of a family that is neither, its circuit tells. */
export const hasCoolant = ({ family, circuit }: { family: string; circuit: string[] }) =>
  family === "closed" || (family !== "direct" && circuit.includes("exchanger"));

/** Which water runs at a station in a family; none: it has no such station. */
export function sidesOf(s: Schemas["Station"], family: string): Schemas["Side"][] {
  if (family === "closed" || family === "direct") return s[family];
  return s.sides?.[family] ?? [];
}

/** Stations that the family has and the circuit has not. */
export function absent(c: Catalogue, family: string, circuit: string[]) {
  return c.stations.filter((s) => sidesOf(s, family).length > 0 && !circuit.includes(s.id));
}

/** Puts a station in where the water usually meets it: before the first station that the catalogue lists later. */
export function put(c: Catalogue, circuit: string[], id: string): string[] {
  const order = c.stations.map((s) => s.id);
  const later = circuit.findIndex((s) => order.indexOf(s) > order.indexOf(id));
  return later < 0 ? [...circuit, id] : circuit.toSpliced(later, 0, id);
}

/** Moves the station at a place one place up (−1) or down (+1). */
export function moved(circuit: string[], place: number, by: -1 | 1): string[] {
  const to = place + by;
  const [one, other] = [circuit[place], circuit[to]];
  return one === undefined || other === undefined ? circuit : circuit.with(place, other).with(to, one);
}
