import type { Catalogue, PlantEngine, Schemas } from "../../api/client";
import type { Both } from "../Crossed";
import { circuitFor } from "./circuit";

export type Facts = Omit<Schemas["EngineEntry"], "entry_id" | "by" | "tapped_at">;
export type Draft = Omit<Facts, "rated_kw" | "rated_rpm" | "thermostat_c"> &
  Record<"rated_kw" | "rated_rpm" | "thermostat_c", string>;

export const limits = {
  rated_kw: [1, 5000, "kW"],
  rated_rpm: [300, 8000, "rev/min"],
  thermostat_c: [40, 100, "°C"],
} as const;

const factLabels: [keyof Draft & keyof Schemas["Engine"], string][] = [
  ["name", "Name"],
  ["family", "Cooling"],
  ["fuel", "Fuel"],
  ["rated_kw", "Rated power, kW"],
  ["rated_rpm", "at rev/min"],
  ["thermostat_c", "Thermostat, °C"],
  ["raw_pump", "Raw-water pump"],
  ["shares_seacock", "Shares its seacock"],
  ["circuit", "Circuit"],
  ["dates", "Dates"],
  ["cooling", "Cooling figures"],
];

/** A fact in words, as far as it has some; what is not known is nothing. */
function factWords(x: unknown): string {
  if (Array.isArray(x)) return x.join(", ");
  if (typeof x === "object" && x !== null)
    return Object.entries(x)
      .map(([k, v]) => `${k.replaceAll("_", " ")} ${factWords(v)}`)
      .join("; ");
  return x === undefined || x === false ? "" : String(x as string | number | boolean);
}

/** The facts of an engine as they stand on record, and as they were typed. */
export const bothOf = (theirs: Schemas["Engine"], mine: Draft): Both[] =>
  factLabels.map(([key, label]) => ({ label, theirs: factWords(theirs[key]), mine: factWords(mine[key]) }));

export function draftOf(c: Catalogue, craftId: string, e?: Schemas["Engine"]): Draft {
  const from = e ?? { name: "", family: "closed", fuel: "diesel" as const, circuit: circuitFor(c, "closed") };
  return {
    craft_id: craftId,
    name: from.name,
    family: from.family,
    fuel: from.fuel,
    circuit: from.circuit,
    raw_pump: e?.raw_pump ?? "",
    shares_seacock: e?.shares_seacock ?? false,
    dates: e?.dates ?? {},
    cooling: e?.cooling ?? {},
    rated_kw: e ? String(e.rated_kw) : "",
    rated_rpm: e ? String(e.rated_rpm) : "",
    thermostat_c: String(e?.thermostat_c ?? 82),
  };
}

export function wrongIn(key: keyof typeof limits, text: string): string | undefined {
  const [least, most, unit] = limits[key];
  const x = Number(text.replace(",", "."));
  return text.trim() !== "" && x >= least && x <= most ? undefined : `${least} to ${most} ${unit}`;
}

export function askedIn(d: Draft, numbers: (keyof typeof limits)[]): PlantEngine | undefined {
  if (numbers.some((k) => wrongIn(k, d[k]))) return undefined;
  const figure = (k: keyof typeof limits) => Number(d[k].replace(",", "."));
  return {
    family: d.family,
    fuel: d.fuel,
    circuit: d.circuit,
    rated_kw: figure("rated_kw"),
    rated_rpm: figure("rated_rpm"),
    thermostat_c: figure("thermostat_c"),
    cooling: d.cooling ?? {},
  };
}
