/** What the spine shows: an engine's own circuit as the water runs, each station with its state. No drawing here. */
import type { Answer, Catalogue, Statement, Schemas } from "../api/client";
import { sidesOf } from "./engine/circuit";

export type StationState = "untouched" | "clear" | "suspect" | "found";

export interface SpineStation {
  id: string;
  label: string;
  state: StationState;
  /** Something is open there. */
  open: boolean;
  /** The most probable of its faults, 0 to 1. */
  share: number;
  words: string;
  /** Its readings of the last round, °C; off where one is far from what it should be. */
  read: { side: string; value: number; should?: number; off: boolean }[];
}

export interface Spine {
  raw: SpineStation[];
  loop: SpineStation[];
  beside: SpineStation[];
  /** Where the loop meets the raw side: a place in raw, or −1. */
  joint: number;
  /** What was seen to come at the outlet. */
  outlet?: "none" | "weak" | "good";
  /** The raw water that flows, as a share of what should, where that is known. */
  flow?: number;
}

/** The water at each station of a side, °C: as read, between two readings as at the one before; none where none is. */
export function warmth(list: SpineStation[], side: "raw" | "coolant"): (number | undefined)[] {
  const read = list.map((s) => s.read.find((r) => r.side === side)?.value);
  const first = read.find((v) => v !== undefined);
  let last = first;
  return read.map((v) => (last = v ?? last));
}

interface Traced {
  engine: Pick<Schemas["Engine"], "family" | "circuit">;
  findings: Pick<Statement, "id" | "q">[];
  open_access: string[];
  diagnosis: Pick<Answer, "suspects" | "found">;
  rounds?: Schemas["RoundMade"][];
  hands?: Pick<Schemas["Teardown"], "items" | "tasks" | "begun">;
  card?: Pick<Schemas["JobCard"], "verdict">;
}

/** From here on a fault makes its station a suspect. */
const suspectFrom = 0.05;

export const percent = (p: number) =>
  p < 0.01 ? "under 1\u00a0%" : p > 0.99 ? "over 99\u00a0%" : `${Math.round(p * 100)}\u00a0%`;

export function spineOf(catalogue: Catalogue, job: Traced): Spine {
  const { family, circuit } = job.engine;
  const facts = new Map(catalogue.stations.map((s) => [s.id, s]));
  const seen = seenIn(catalogue, job);
  const stations = circuit.flatMap((id) => {
    const s = facts.get(id);
    return s ? [{ station: stateOf(seen, job, s), sides: sidesOf(s, family) }] : [];
  });
  const on = (test: (sides: string[]) => boolean) => stations.filter((s) => test(s.sides)).map((s) => s.station);
  const raw = on((sides) => sides.includes("raw"));
  return {
    raw,
    loop: on((sides) => sides.includes("coolant") && !sides.includes("raw")),
    beside: on((sides) => !sides.includes("raw") && !sides.includes("coolant")),
    joint: raw.findIndex((s) => stations.some((x) => x.station.id === s.id && x.sides.includes("coolant"))),
    outlet: outlets.find(([id]) => job.findings.some((f) => f.id === id && f.q === 1))?.[1],
  };
}

const outlets = [
  ["no-water-at-outlet", "none"],
  ["weak-water-at-outlet", "weak"],
  ["good-water-at-outlet", "good"],
] as const;

/** The faults that an engine can have, by station: one of several stations is at the first that the circuit has. */
export function faultsOn(catalogue: Catalogue, { engine: { family, circuit } }: Pick<Traced, "engine">) {
  const faults = new Map<string | undefined, Catalogue["faults"]>();
  for (const f of catalogue.faults.filter((x) => x.families.includes(family))) {
    const at = firstOn(f.stations, circuit);
    faults.set(at, [...(faults.get(at) ?? []), f]);
  }
  return faults;
}

/** What was seen of an engine, by what it is looked up by. */
function seenIn(catalogue: Catalogue, job: Traced) {
  return {
    faults: faultsOn(catalogue, job),
    q: new Map(job.findings.map((f) => [f.id, f.q])),
    shares: new Map(job.diagnosis.suspects.map((x) => [x.fault, x.probability])),
    found: new Set(job.diagnosis.found),
    open: new Set(
      catalogue.checks
        .filter((k) => k.access !== null && job.open_access.includes(k.access))
        .map((k) => firstOn(k.stations, job.engine.circuit)),
    ),
  };
}

function stateOf(seen: ReturnType<typeof seenIn>, job: Traced, s: Schemas["Station"]): SpineStation {
  const faults = seen.faults.get(s.id) ?? [];
  const share = Math.max(0, ...faults.map((f) => seen.shares.get(f.id) ?? 0));
  const found = faults.some((f) => seen.found.has(f.id));
  const clear = faults.length > 0 && faults.every((f) => f.sure.some((look) => seen.q.get(look.finding) === 0));
  const open = seen.open.has(s.id);
  const state = found ? "found" : clear ? "clear" : share >= suspectFrom ? "suspect" : "untouched";
  const words = { found: "found", clear: "clear", suspect: `suspect, ${percent(share)}`, untouched: "not looked at" }[
    state
  ];
  const said = [words, open && "open", ...workAt(job, s.id)].filter(Boolean).join("; ");
  return { id: s.id, label: s.label, state, open, share, words: said, read: readAt(job, s.id) };
}

/** What was done at a station: parts off, new ones fitted, and the proof of them. */
function workAt({ hands, card }: Traced, station: string): string[] {
  const tasks = (hands?.begun ?? []).filter((t) => t.stations[0] === station).map((t) => t.id);
  const items = (hands?.items ?? []).filter((i) => tasks.includes(i.task));
  const off = items.reduce((n, i) => n + i.still_off, 0);
  if (off > 0) return [`${off} off`];
  const fresh = items.some((i) => i.new > 0);
  return fresh ? [card?.verdict === "cured" ? "new, proved" : "new"] : [];
}

/** So many degrees beside what it should be stand out, °C. */
const offBy = 3;

function readAt({ rounds = [] }: Traced, station: string) {
  const last = rounds[rounds.length - 1];
  return (last?.round.readings ?? [])
    .filter((r) => r.station === station)
    .map((r) => {
      const side = r.side ?? "";
      const should = last?.should?.find((x) => x.station === station && x.side === side)?.temp_c;
      return { side, value: r.value, should, off: should !== undefined && Math.abs(r.value - should) > offBy };
    });
}

/** Where a check is made on a circuit: the first of its stations in the order of the water. */
export const firstOn = (stations: string[], circuit: string[]) => circuit.find((s) => stations.includes(s));
