import { useEffect, useState } from "react";
import { liveStreamAt, type AlarmLine, type LiveEvent, type Place, type Schemas, type Track } from "../../api/client";
import type { Words } from "../../ui/words";

/** What a feed told so far, by place, and how it stands. */
export interface Heard {
  status?: Schemas["FeedStatus"];
  tracks: Track[];
  limits: AlarmLine[];
  /** The program itself does not answer. */
  cut: boolean;
}

export const nothing: Heard = { tracks: [], limits: [], cut: false };

/** As many points of a place are held at most; beyond, the older ones are thinned. */
export const mostPoints = 2400;

/** From which silence on there is a gap, in s, before it is known how often a place speaks. */
const gapLeast = 5;

export const placeKey = (p: Place) => `${p.station}.${p.side ?? ""}`;

/** Takes an event in. Begin starts afresh: the program remembers more than this page does. */
export function taken(was: Heard, event: LiveEvent): Heard {
  const limits = event.limits ?? was.limits;
  if (event.kind === "begin") return { status: event.status, tracks: event.tracks, limits, cut: false };
  const tracks = was.tracks.map((t) => {
    const more = event.tracks.find((x) => placeKey(x.place) === placeKey(t.place));
    if (!more || more.seconds.length === 0) return t;
    const last = t.seconds[t.seconds.length - 1] ?? 0;
    const silence = (more.seconds[0] ?? last) - last > (more.gap_s ?? t.gap_s ?? gapLeast) && t.seconds.length > 0;
    return thinned({
      ...t,
      ...more,
      seconds: [...t.seconds, ...more.seconds],
      values: [...t.values, ...more.values],
      breaks: [...t.breaks, ...(silence ? [last] : []), ...more.breaks],
    });
  });
  return { status: event.status, tracks, limits, cut: false };
}

/** Half as many points once there are too many: of every four in a row the lowest and the highest stay, so no spike is
 * lost. */
export function thinned(t: Track): Track {
  if (t.seconds.length <= mostPoints) return t;
  const keep: number[] = [];
  for (let i = 0; i < t.seconds.length; i += 4) {
    const four = [i, i + 1, i + 2, i + 3].filter((k) => k < t.seconds.length);
    const value = (k: number) => t.values[k] ?? 0;
    const low = four.reduce((a, b) => (value(b) < value(a) ? b : a));
    const high = four.reduce((a, b) => (value(b) >= value(a) ? b : a));
    keep.push(...(low === high ? [low] : [Math.min(low, high), Math.max(low, high)]));
  }
  return { ...t, seconds: keep.map((k) => t.seconds[k] ?? 0), values: keep.map((k) => t.values[k] ?? 0) };
}

/** The stretches of a track between its gaps. */
export function stretches(t: Track): [number, number][][] {
  const out: [number, number][][] = [];
  let next = 0;
  t.seconds.forEach((s, i) => {
    const broken = (t.breaks[next] ?? Infinity) < s;
    while ((t.breaks[next] ?? Infinity) < s) next++;
    if (i === 0 || broken) out.push([]);
    out[out.length - 1]?.push([s, t.values[i] ?? 0]);
  });
  return out;
}

/** Listens to an engine's feed for as long as the screen is there. */
export function useHeard(engine: string, on: boolean): Heard {
  const [heard, setHeard] = useState(nothing);
  useEffect(() => {
    if (!on) return;
    let source: EventSource;
    let again: ReturnType<typeof setTimeout> | undefined;
    const listen = () => {
      source = new EventSource(liveStreamAt(engine));
      source.onmessage = (m) => setHeard((was) => taken(was, JSON.parse(String(m.data)) as LiveEvent));
      source.onerror = () => {
        setHeard((was) => ({ ...was, cut: true }));
        if (source.readyState === EventSource.CLOSED) again = setTimeout(listen, 3000);
      };
    };
    listen();
    return () => {
      source.close();
      clearTimeout(again);
    };
  }, [engine, on]);
  return heard;
}

const free: Record<string, string> = {
  rpm: "Speed",
  sea: "Sea",
  space: "Engine space",
  flow: "Raw water",
  gauge: "Gauge",
  hours: "Hour meter",
};

/** A place in words. */
export function placeWords(p: Place, words: Words): string {
  const side = p.side === "raw" ? ", raw water" : p.side === "coolant" ? ", coolant" : "";
  return (free[p.station] ?? words.station(p.station)) + side;
}

const brief: Record<string, string> = {
  exchanger: "Exchanger",
  elbow: "Elbow",
  "raw-hoses": "Delivery",
  "charge-cooler": "Charge cooler",
  "exhaust-hose": "Hose",
  "coolant-hoses": "Coolant hose",
  "circ-pump": "Circ. pump",
};

/** A place in a word or two, for the end of a line. */
export function shortWords(p: Place, words: Words): string {
  const name = free[p.station] ?? brief[p.station] ?? words.station(p.station);
  const side = p.station === "exchanger" && p.side === "raw" ? " raw" : "";
  return (name.length > 13 ? `${name.slice(0, 12)}…` : name) + side;
}

const placeUnits: Record<string, string> = { rpm: "rpm", flow: "L/min", hours: "h" };

export const unitOf = (p: Place) => placeUnits[p.station] ?? "degC";

/** The place where the coolant is told best. */
export const coolantOf = (tracks: Track[]) =>
  ["thermostat.coolant", "block.coolant", "thermostat.raw", "block.raw", "gauge."].flatMap((k) =>
    tracks.filter((t) => placeKey(t.place) === k && t.seconds.length > 0),
  )[0];

/** How a feed stands, in words; none while it tells what it should. */
export function feedWords(h: Heard): string {
  if (h.cut) return "No link to the program: the picture stands still.";
  switch (h.status?.state) {
    case "lost":
      return `The feed is lost: ${h.status.why}.`;
    case "silent":
      return "The feed is silent: the line is open, and nothing comes.";
    case "connected":
      return "";
    default:
      return "Calling the gateway…";
  }
}
