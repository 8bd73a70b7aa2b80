import type { PlantHealth, Schemas, UnitSystem } from "../../api/client";
import { shown, shownError, type Units } from "../units";
import { day, lower, type Words } from "../words";

/** What rounds of readings look like as a whole, in the trade's words. */
export const patternWords: Record<string, string> = {
  healthy: "a healthy engine",
  "raw-flow-low": "too little raw water",
  "exchanger-weak": "a weak exchanger",
  "coolant-flow-low": "too little coolant flow",
  "thermostat-late": "a thermostat that opens late or too little",
  "thermostat-open": "a thermostat that hangs open",
  "heat-high": "more heat than it should make",
  "gauge-off": "a gauge that reads wrong",
  "raw-water-lost": "raw water lost before the elbow",
};

/** The ratio from which the readings lean to something. */
export const leaning = 5;

const capital = (s: string) => s.charAt(0).toUpperCase() + s.slice(1);

type HealthFigure = PlantHealth["figures"][number];

const share = (v: number) => `${Math.round(100 * Math.max(0, v))}`;

function figureWords(f: HealthFigure, units: Units, system: UnitSystem): string {
  if (f.ratio) {
    const span = `${share(f.value - f.error)} to ${share(f.value + f.error)}`;
    return `${capital(f.label)} about ${share(f.value)} % of healthy, could be ${span}.`;
  }
  const [size, error] = [shown(units, system, Math.abs(f.value), "K"), shownError(units, system, f.error, "K")];
  if (Math.abs(f.value) <= f.error)
    return `${capital(f.label)} as it should be, give or take ${shown(units, system, f.error, "K")}.`;
  return f.id === "gauge"
    ? `Gauge reads ${size} ${f.value > 0 ? "high" : "low"}, give or take ${error}.`
    : `Thermostat opens ${size} ${f.value > 0 ? "late" : "early"}, give or take ${error}.`;
}

/** The figures of an engine's health in sentences, in the person's own units; what is open is said to be. */
export function healthWords(figures: HealthFigure[], units: Units, system: UnitSystem): string[] {
  const open = figures.filter((f) => !f.known).map((f) => f.label);
  const known = figures.filter((f) => f.known).map((f) => figureWords(f, units, system));
  return open.length > 0 ? [...known, `Not to be judged from these readings: ${open.join(", ")}.`] : known;
}

/** What further reading would tell, in a sentence: where, at what speed if another, and what it parts. */
export function nextReadingWords(t: Schemas["NextReading"], rpm: number | undefined, words: Words): string {
  const side = t.side && t.station !== "gauge" ? `, ${t.side === "raw" ? "raw water" : "coolant"}` : "";
  const place = t.station === "flow" ? "the raw water, bucket and watch" : `${lower(words.station(t.station))}${side}`;
  const at = rpm !== undefined && Math.abs(t.rpm - rpm) > 1 ? `, at ${Math.round(t.rpm / 10) * 10} rev/min` : "";
  const [a, b] = t.between.map((x) => patternWords[x] ?? x);
  return `${capital(place)}${at}: tells ${a ?? ""} from ${b ?? ""}.`;
}

/** What the readings are held against. */
export function comparisonWords(s: Schemas["PlantComparison"]): string {
  if (s.kind === "baseline") return `Compared with its own healthy baseline${s.at ? ` of ${day(s.at)}` : ""}.`;
  if (s.kind === "twin") return `Compared with its sister, ${s.name ?? "the other engine"}, read the same day.`;
  return "Compared with a typical engine of this kind. A healthy round of its own would tell more.";
}
