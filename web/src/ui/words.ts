import { provingText } from "./provingWords";
import type { Said } from "./units";
import { actText } from "./wetworkWords";
import type { Catalogue, LogLine, Schemas, Stated } from "../api/client";

/** Labels by id; an id that the catalogue does not have stands for itself. */
export interface Words {
  fault: (id: string) => string;
  finding: (id: string) => string;
  check: (id: string) => string;
  station: (id: string) => string;
  history: (id: string) => string;
  access: (id: string) => string;
  jobKind: (id: string) => string;
  water: (id: string) => string;
  point: (id: string) => string;
  family: (id: string) => string;
}

const made = new WeakMap<Catalogue, Words>();

/** The labels of a catalogue, made once. */
export function wordsOf(c: Catalogue): Words {
  const words = made.get(c) ?? makeWords(c);
  made.set(c, words);
  return words;
}

function makeWords(c: Catalogue): Words {
  const of = (list: { id: string; label: string }[]) => {
    const labels = new Map(list.map((x) => [x.id, x.label]));
    return (id: string) => labels.get(id) ?? id;
  };
  return {
    fault: of(c.faults),
    finding: of(c.findings),
    check: of(c.checks),
    station: (id) => (id === "all" ? "All over the engine" : of(c.stations)(id)),
    history: of(c.history),
    access: of(c.access),
    jobKind: of(c.job_kinds),
    water: of(c.waters),
    point: of(c.points),
    family: (id) => of(c.families)(id),
  };
}

export const lower = (s: string) => s.charAt(0).toLowerCase() + s.slice(1);

export const minutes = (n: number) => `${Math.round(n)}\u00a0min`;

const clock = new Intl.DateTimeFormat("en-GB", {
  day: "numeric",
  month: "short",
  year: "numeric",
  hour: "2-digit",
  minute: "2-digit",
});
const calendar = new Intl.DateTimeFormat("en-GB", { day: "numeric", month: "short", year: "numeric" });
export const when = (iso: string) => clock.format(new Date(iso));
/** A moment of today by its time alone, any other with its day; ms since 1970. */
export const moment = (ms: number) =>
  new Date(ms).toDateString() === new Date().toDateString()
    ? new Date(ms).toLocaleTimeString("en-GB", { hour: "2-digit", minute: "2-digit" })
    : when(new Date(ms).toISOString());
export const day = (iso: string) => calendar.format(new Date(iso));

export const strategyWords = {
  quickest: "Quickest",
  "along-the-water": "In flow order",
  likeliest: "Likeliest first",
} as const;

const stateWords: Record<Stated["state"], string> = {
  present: "yes",
  absent: "no",
  unknown: "not known",
  unsure: "not sure",
};

/** A line of a log in words, its quantities as the reader reads them. */
export function logWords(line: LogLine, w: Words, said: Said): string {
  const stated = (label: (id: string) => string) =>
    (line.stated ?? []).map((s) => `${label(s.id)}: ${stateWords[s.state]}`).join("; ");
  const changed = line.changed ?? [];
  const value = (field: string, v: string) => (field === "circuit" ? v.split(", ").map(w.station).join(", ") : v);
  const kept = () => {
    if (changed.length === 0) return "Kept without a change";
    if (changed.every((c) => c.from === ""))
      return `Put on record: ${changed.find((c) => c.field === "name")?.to ?? ""}`;
    const side = (field: string, x: string) => value(field, x) || "none";
    return changed
      .map((c) => `${fieldWords[c.field] ?? c.field}: ${side(c.field, c.from)} → ${side(c.field, c.to)}`)
      .join("; ");
  };
  const inBrackets = line.words ? ` (${line.words})` : "";
  const say: Record<string, () => string> = {
    opened: () => `Job started${line.words ? `: ${line.words}` : ""}`,
    kept,
    finding: () => stated(w.finding),
    history: () => stated(w.history),
    check: () => checkWords(line, w, stated(w.finding)),
    access: () => `${w.access(line.access ?? "")}: ${line.open ? "open" : "closed up again"}`,
    strategy: () => `Order of search: ${line.strategy ? strategyWords[line.strategy] : ""}`,
    note: () => line.words ?? "",
    round: () =>
      `A round of ${line.round?.readings.length} readings at ${line.round?.operation.rpm} rev/min${inBrackets}`,
    baseline: () => `Its healthy readings became its own baseline${inBrackets}`,
    strip: () => stripWords(line, w, said),
    wet: () => wetWords(line, said),
    proving: () => provingText(line.proving, said),
    recording: () => recordingWords(line),
    hours: () => "The meter was read",
    upkeep: () => "Maintenance put down",
    feed: () => "The gateway was set up",
    product: () => "A descaler of the yard's own",
    figures: () => `The yard's own figures: ${line.yard_figures ? figuresWords[line.yard_figures] : ""}`,
    photo: () => `A picture${line.words ? `: ${line.words}` : ""}`,
    task: () => `The yard's own list: ${line.task ?? ""}`,
    method: () => `The yard goes by: ${line.question ?? ""}, ${line.school ?? ""}`,
    sum: () => `Calculation saved. ${line.sum ?? ""}${line.words ? ` (${line.words})` : ""}`,
    closed: () =>
      `Job closed. ${(line.faults ?? []).map(w.fault).join(" and ") || "No cause named"}. ${line.words ?? ""}`,
    reopened: () => "Job opened again",
    undo: () => "Took back an entry",
  };
  return say[line.kind]?.() ?? line.kind;
}

const figuresWords: Record<Schemas["FiguresKind"], string> = {
  rates: "base rates",
  minutes: "minutes of checks and accesses",
  comeback: "what a comeback costs",
};

/** The part of an item's key that names it: "impeller-change/cover-screws". */
const itemName = (key = "") => (key.split("/").pop() ?? key).replace(/-/g, " ");

type Act = NonNullable<LogLine["strip"]>;

const some = (a: Act) => (Math.abs(a.count ?? 0) > 1 ? `${Math.abs(a.count ?? 0)} × ` : "");
const back = (a: Act) => (a.count ?? 0) < 0;

/** What an act by hand says in the log. */
const actWords: Record<Act["do"], (a: Act, w: Words, said: Said, task?: string) => string> = {
  isolate: (a) => `Isolated: ${itemName(a.item)}`,
  lift: (a) => `Isolation lifted: ${itemName(a.item)}`,
  task: (a, _w, _said, task) => `Task begun: ${task ?? itemName(a.item)}`,
  item: (a) => `On the list: ${a.adds?.label ?? ""}`,
  off: (a) => `${back(a) ? "Not off after all" : "Off"}: ${some(a)}${itemName(a.item)}`,
  on: (a) => `${back(a) ? "Not on after all" : "On"}: ${some(a)}${itemName(a.item)}${a.state === "new" ? ", new" : ""}`,
  how: (a) => `${itemName(a.item)}: ${a.words ?? ""}`,
  excuse: (a) => `${itemName(a.item)} stays off: ${a.words ?? ""}`,
  tighten: (a) => `Pass ${a.pass ?? ""} done: ${itemName(a.item)}`,
  wheel: (a) => {
    const blades = a.wheel?.blades ?? [];
    const bad = blades.filter((b) => b.state !== "sound").length;
    return `Impeller looked at: ${bad} of ${blades.length} blades not sound`;
  },
  piece: (a, w) => `A piece found: ${a.piece?.share ?? ""} of a blade, ${w.station(a.item ?? "")}`,
  looked: (a, w) => `Searched: ${w.station(a.item ?? "")}`,
  "pieces-closed": (a) => `The hunt for rubber ended: ${a.words ?? ""}`,
  body: () => "Pump body measured",
  leaks: (a) => (a.leaks?.length ? `The pump is wet: ${a.leaks.map(itemName).join(", ")}` : "The pump is dry"),
  elbow: (a, _w, said) =>
    `Elbow measured: ${said(a.elbow?.bore_mm ?? 0, "mm")} of ${said(a.elbow?.new_bore_mm ?? 0, "mm")}`,
  used: (a) => `Used: ${a.used?.quantity ?? ""} × ${a.used?.label ?? ""}`,
  caution: (a) => `Seen to: ${itemName(a.item)}`,
  method: (a) => `Done so: ${itemName(a.item)}, ${itemName(a.state)}`,
  tick: (a) => `Looked at: ${itemName(a.item)}`,
  untick: (a) => `To look at again: ${itemName(a.item)}`,
  override: (a) => `Passed over, ${itemName(a.item)}: ${a.words ?? ""}`,
  start: () => "Started",
  ring: (a) => `${itemName(a.item)}: ${a.count ?? ""} in all`,
  ran: () => "Ran just now, nothing opened since",
  renewed: (a) => `A new one is in: ${itemName(a.item)}`,
  close: () => "The joints of the flush are closed up again",
  where: (a) => `It lies ${(a.item ?? "").replace("-", " ")}`,
  heat: (a) => `The engine is ${a.item ?? ""}`,
  holds: (a) => (a.item === "dry" ? "The shut seacock holds" : "The shut seacock does not hold: water still comes"),
  oil: (a) => `Oil: ${a.item ?? ""}${a.words ? `, ${a.words}` : ""}`,
  refit: (a) => `How it went back: ${itemName(a.item)}${a.words ? `, ${a.words}` : ""}`,
  wait: (a) => `Paused${a.words ? `: ${a.words}` : ""}`,
  "go-on": () => "Goes on",
  "put-right": (a, w) => `Put right: ${w.fault(a.item ?? "")}`,
  extent: (a, w) => `How far: ${w.fault(a.item ?? "")}`,
};

const stripWords = (line: LogLine, w: Words, said: Said) =>
  line.strip ? actWords[line.strip.do](line.strip, w, said, line.task) : "By hand";

const wetKinds: Record<string, string> = { flush: "a flush", descale: "a descaling", coolant: "a coolant change" };

/** An act of wet work in words. */
function wetWords(line: LogLine, said: Said): string {
  const a = line.wet;
  if (!a) return "Flush, descale, coolant";
  return a.do === "plan" ? `Planned: ${wetKinds[a.kind ?? ""] ?? ""}` : `Flush, descale, coolant: ${actText(a, said)}`;
}

function checkWords(line: LogLine, w: Words, stated: string): string {
  const name = w.check(line.check ?? "");
  const took = line.minutes ? ` (${minutes(line.minutes)})` : "";
  if (line.outcome === "skipped") return `${name}: not done. ${line.words ?? ""}`;
  if (line.outcome === "inconclusive") return `${name}${took}: inconclusive. ${line.words ?? ""}`;
  const read = line.round?.readings.length ?? 0;
  const round =
    read > 0 ? `${read === 1 ? "a reading" : `${read} readings`} at ${line.round?.operation.rpm} rev/min` : "";
  return `${name}${took}: ${[round, stated].filter((x) => x !== "").join("; ")}`;
}

const fieldWords: Record<string, string> = {
  name: "Name",
  owner: "Owner",
  berth: "Berth",
  note: "Note",
  archived: "Archived",
  family: "Cooling",
  fuel: "Fuel",
  rated_kw: "Rated kW",
  rated_rpm: "Rated rev/min",
  thermostat_c: "Thermostat",
  raw_pump: "Raw-water pump",
  circuit: "Circuit",
  impeller_fitted: "Impeller fitted",
  descaled: "Descaled",
  elbow_fitted: "Exhaust elbow fitted",
  coolant_changed: "Coolant changed",
  seacock_worked: "Seacock worked",
  aspiration: "Breathes",
  pump_drive: "Raw-water pump driven by",
  propeller_exponent: "Power goes with speed to the power",
  raw_l_min: "Raw water, L/min",
  coolant_l_min: "Coolant, L/min",
  ua_w_k: "Exchanger UA, W/K",
  exchanger_rating: "Exchanger by its rating",
  exchanger_tubes: "Exchanger by its tubes",
  block_kj_k: "Block holds, kJ/K",
  glycol_percent_volume: "Glycol, %",
  alarm_c: "Alarm sounds at, °C",
};

const recordings: Record<string, string> = {
  begin: "A recording begun",
  end: "The recording ended",
  whole: "A logger's file taken in",
};

const recordingWords = ({ recording: r }: LogLine) =>
  `${recordings[r?.do ?? ""] ?? "A recording"}${r?.name ? `: ${r.name}` : ""}`;

/** How large something is, to two digits. */
export function size(bytes: number): string {
  const digits = (n: number) => Number(n.toPrecision(2));
  if (bytes < 1e6) return `${Math.max(1, Math.round(bytes / 1e3))} kB`;
  return bytes < 1e9 ? `${digits(bytes / 1e6)} MB` : `${digits(bytes / 1e9)} GB`;
}
