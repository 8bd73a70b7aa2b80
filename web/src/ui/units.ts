import type { Unit, UnitSystem } from "../api/client";

/** The program's own units by id, for showing; reading what was typed is the program's work. */
export interface Units {
  find: (id: string) => Unit | undefined;
  /** The unit in which a system shows a value kept in a unit. */
  shownAs: (id: string, system: UnitSystem) => Unit | undefined;
  /** Every unit in which a quantity kept in a unit can be typed. */
  like: (id: string) => Unit[];
}

export function unitsOf(list: Unit[]): Units {
  const byId = new Map(list.map((u) => [u.id, u]));
  const find = (id: string) => byId.get(id);
  return {
    find,
    shownAs: (id, system) => {
      const u = find(id);
      return u && find(u.shown_as[system]);
    },
    like: (id) => list.filter((u) => u.dimension === find(id)?.dimension),
  };
}

/** A value in one unit as it reads in another of its dimension. */
export const convert = (v: number, from: Unit, to: Unit) => ((v + from.shift) * from.factor) / to.factor - to.shift;

/** An error has no zero of its own: only the size of the unit counts. */
export const convertError = (v: number, from: Unit, to: Unit) => (v * from.factor) / to.factor;

/** A number with the decimals that are worth showing, never fewer than two figures. */
export function digits(v: number, unit: Unit | undefined): string {
  const size = Math.abs(v);
  let decimals = unit?.decimals ?? 2;
  if (size > 1e-9 && size < 10) decimals = Math.max(decimals, 1 - Math.floor(Math.log10(size)));
  if (size >= 1000) decimals = 0;
  const text = v.toFixed(Math.min(decimals, 8));
  const plain = Number(text) === 0 ? text.replace("-", "") : text;
  return unit?.dimension === "number" && plain.includes(".") ? plain.replace(/\.?0+$/, "") : plain.replace("-", "−");
}

/** A value kept in a unit, as a system reads it: "71.1 °C". */
export function shown(units: Units, system: UnitSystem, v: number, unit: string): string {
  const from = units.find(unit);
  const to = units.shownAs(unit, system);
  if (to?.id === "s" && Math.abs(v) >= 120) return `${clockTime(v)}\u00a0min`;
  if (!from || !to) return `${Number(v.toPrecision(4))}${unit ? ` ${unit}` : ""}`;
  return withUnit(digits(convert(v, from, to), to), to);
}

/** The error of a value, in the unit in which the value is shown, without the unit. */
export function shownError(units: Units, system: UnitSystem, v: number, unit: string): string {
  const from = units.find(unit);
  const to = units.shownAs(unit, system);
  return from && to ? digits(convertError(v, from, to), to) : String(Number(v.toPrecision(2)));
}

const withUnit = (text: string, u: Unit) => (u.symbol ? `${text}\u00a0${u.symbol}` : text);

/** A difference with its sign, to a tenth; no sign where nothing is left. */
export function signed(v: number): string {
  const text = Math.abs(v).toFixed(1);
  return Number(text) === 0 ? text : `${v > 0 ? "+" : "−"}${text}`;
}

/** A place for a clock time: seconds from the start as minutes and seconds. */
export function clockTime(seconds: number): string {
  const whole = Math.round(seconds);
  return `${Math.floor(whole / 60)}:${String(whole % 60).padStart(2, "0")}`;
}

/** Says a quantity, kept in a unit of the program's, as its reader reads it. */
export type Said = (value: number, unit: string) => string;
