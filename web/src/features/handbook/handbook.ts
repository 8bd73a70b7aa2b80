/** The catalogue as a handbook: what stands under a station, and what a search finds. No drawing here. */
import type { Catalogue } from "../../api/client";

export interface Chapter {
  faults: Catalogue["faults"];
  checks: Catalogue["checks"];
  findings: Catalogue["findings"];
}

/** Everything that belongs to a station: its faults, its checks, and the findings that those show or settle. */
export function chapterOf(c: Catalogue, station: string): Chapter {
  const faults = c.faults.filter((f) => f.stations.includes(station));
  const checks = c.checks.filter((k) => k.stations.includes(station));
  const settled = new Set(checks.flatMap((k) => k.settles));
  return { faults, checks, findings: c.findings.filter((f) => settled.has(f.id)) };
}

/** Everything whose label or words hold all the words looked for. */
export function search(c: Catalogue, wanted: string): Chapter {
  const words = wanted.toLowerCase().split(/\s+/).filter(Boolean);
  const holds = (...texts: string[]) => {
    const all = texts.join(" ").toLowerCase();
    return words.length > 0 && words.every((w) => all.includes(w));
  };
  return {
    faults: c.faults.filter((f) => holds(f.label, f.why, f.remedy)),
    checks: c.checks.filter((k) => holds(k.label, ...k.how)),
    findings: c.findings.filter((f) => holds(f.label)),
  };
}

/** A strength in words, by the bands of the catalogue. */
export const strengthWords = (s: number) =>
  s >= 0.95
    ? "almost always"
    : s >= 0.9
      ? "nearly always"
      : s >= 0.7
        ? "mostly"
        : s >= 0.4
          ? "not seldom"
          : "now and then";

/** How common a fault is among jobs, in words. */
export const rateWords = (p: number) =>
  p >= 0.08 ? "very common" : p >= 0.04 ? "common" : p >= 0.015 ? "occasional" : "rare";
