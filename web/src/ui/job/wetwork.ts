import { useEffect, useRef, useState } from "react";
import type { Schemas } from "../../api/client";
import { lower, type Words } from "../words";

export type WetworkAct = Schemas["WetworkAct"];
export type WetworkItem = Schemas["WetworkItem"];

export const kindLabels: Record<Schemas["WetworkKind"], string> = {
  flush: "Flush",
  descale: "Descaling",
  coolant: "Coolant change",
};

export const debrisLabels: Record<Schemas["DebrisID"], string> = {
  rubber: "rubber",
  weed: "weed",
  sand: "sand",
  shell: "shell",
  sludge: "sludge",
};

/** A sentence in which station ids stand in braces, with the trade's names for them. */
export const named = (say: string, words: Words) =>
  say.replace(/\{([a-z-]+)\}/g, (_, id: string) => lower(words.station(id)));

/** Hours, minutes and seconds: "1:04:09", "12:30"; over time with a plus. */
export function clock(seconds: number): string {
  const s = Math.round(Math.abs(seconds));
  const two = (n: number) => String(n).padStart(2, "0");
  const [h, m] = [Math.floor(s / 3600), Math.floor((s % 3600) / 60)];
  return `${seconds < 0 ? "+" : ""}${h > 0 ? `${h}:${two(m)}` : m}:${two(s % 60)}`;
}

/**
 * What the program's clock said, carried on by a clock of this device that nobody sets: performance.now() neither jumps
 * with the time of day nor minds a wrong one. The next answer puts right what sleep took from it.
 */
export function useElapsed(work: Pick<WetworkItem, "elapsed_s" | "running">): number {
  const at = useRef({ told: work.elapsed_s, since: 0 });
  const [now, setNow] = useState(work.elapsed_s);
  useEffect(() => {
    at.current = { told: work.elapsed_s, since: performance.now() };
    const tick = () => setNow(at.current.told + (work.running ? (performance.now() - at.current.since) / 1000 : 0));
    tick();
    if (!work.running) return;
    const timer = setInterval(tick, 500);
    return () => clearInterval(timer);
  }, [work.elapsed_s, work.running]);
  return now;
}

/** A typed number, or nothing. */
export const numberOf = (t: string | undefined) => {
  const v = Number((t ?? "").replace(",", "."));
  return (t ?? "").trim() === "" || !Number.isFinite(v) ? undefined : v;
};

/** Does an act in a piece of work, and says it. */
export type OnWet = (act: Omit<WetworkAct, "work">, label: string) => void;
