import type { PlantReading, PlantRound, Schemas, UnitSystem } from "../../api/client";
import { convert, type Units } from "../units";

/** A place of a round: where something is read, on which side, and what a healthy engine reads there. */
export interface Place {
  key: string;
  station: string;
  side?: "raw" | "coolant";
  /** Not for the flow, which the program gives beside the temperatures. */
  should?: number;
  spread: number;
  unit: "degC" | "L/min";
}

/** Nothing is learnt by reading these: they read as their neighbours do. */
const passed = new Set([
  "intake",
  "seacock",
  "strainer",
  "suction-hose",
  "silencer",
  "exhaust-hose",
  "header",
  "circ-pump",
  "block",
  "anti-siphon",
]);

/** The places worth reading, in the order of the water: the raw side, the coolant, the gauge, then the flow. */
export function placesOf(state: Schemas["PlantState"], direct: boolean): Place[] {
  const temps = state.readings
    .filter((r) => !passed.has(r.station) || (direct && r.station === "block"))
    .map((r): Place => ({
      key: `${r.station}.${r.side}`,
      station: r.station,
      side: r.side,
      should: r.temp_c,
      spread: r.spread_k ?? 2,
      unit: "degC",
    }));
  const order = (p: Place) => (p.station === "gauge" ? 2 : p.side === "coolant" ? 1 : 0);
  temps.sort((a, b) => order(a) - order(b));
  return [
    ...temps,
    { key: "flow", station: "flow", should: state.raw_l_min, spread: 0.1 * state.raw_l_min, unit: "L/min" },
  ];
}

export type InstrumentID = Schemas["Instrument"];
export type SurfaceID = Schemas["SurfaceKind"];

/** What a reading was taken with, and on what, where it is not matt. */
export interface Tool {
  instrument: InstrumentID;
  surface?: SurfaceID;
}

/** One standard deviation, until the program says better: for the band that is shown before something is read. */
export function errorOf(place: Place, instrument: InstrumentID, value: number): number {
  if (place.station === "flow") return Math.max(0.05 * Math.abs(value), 0.2);
  return place.station === "gauge" || instrument === "surface" ? 2 : 1;
}

/** Where a healthy engine reads, two standard deviations either way, with this instrument or this error. */
export function bandOf(place: Place, instrument: InstrumentID, error?: number): [number, number] | undefined {
  if (place.should === undefined) return undefined;
  const half = 2 * Math.hypot(place.spread, error ?? errorOf(place, instrument, place.should));
  return [place.should - half, place.should + half];
}

/** How a reading stands against what it should be: within two standard deviations it is as it should be. */
export function standing(
  place: Place,
  value: number,
  instrument: InstrumentID,
  error?: number,
): "right" | "high" | "low" {
  const [low, high] = bandOf(place, instrument, error) ?? [value, value];
  return value > high ? "high" : value < low ? "low" : "right";
}

/** What was typed, as a number in the program's own unit; undefined while it is none. */
export function typedNumber(text: string, unit: string, units: Units, system: UnitSystem): number | undefined {
  const m = /^\s*(-?\d+(?:[.,]\d+)?)\s*(?:°?\s*([CFcf]))?\s*$/.exec(text.replace("−", "-"));
  const [home, own] = [units.find(unit), units.shownAs(unit, system)];
  if (!m?.[1] || !home || !own) return undefined;
  const said = m[2] && unit === "degC" ? units.find(m[2].toUpperCase() === "F" ? "degF" : "degC") : own;
  return said && convert(Number(m[1].replace(",", ".")), said, home);
}

/** A matt surface is what a surface thermometer is set for: nothing to say of it. */
const plain = (t: Tool): Tool => (t.surface === "matt" ? { instrument: t.instrument } : t);

/** The round as it is sent: what was typed, in °C and L/min. */
export function roundOf(
  operation: Schemas["Operation"],
  typed: Record<string, string>,
  places: Place[],
  tools: (place: string) => Tool,
  flowError: number | undefined,
  units: Units,
  system: UnitSystem,
): PlantRound {
  const readings = places.flatMap((p): PlantRound["readings"] => {
    const value = typedNumber(typed[p.key] ?? "", p.unit, units, system);
    if (value === undefined) return [];
    const round = Math.round(value * 100) / 100;
    if (p.station === "flow")
      return [
        { station: p.station, value: round, instrument: "bucket" as const, ...(flowError && { error: flowError }) },
      ];
    if (p.station === "gauge")
      return [{ station: p.station, side: p.side, value: round, instrument: "gauge" as const }];
    return [{ station: p.station, side: p.side, value: round, ...plain(tools(p.key)) }];
  });
  return { operation, readings };
}

/** The reading of a round at a place. */
export const readAt = (round: PlantRound | undefined, p: Place) =>
  round?.readings.find((r) => r.station === p.station && (p.station === "flow" || r.side === p.side));

/** Where a reading of a kept round stands among what should be read. */
export const shouldOf = (r: PlantRound["readings"][number], should: PlantReading[]) =>
  should.find((s) => s.station === r.station && (r.side === undefined || s.side === r.side));
