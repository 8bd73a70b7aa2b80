import type { ProvingAct } from "../api/client";
import type { Said } from "./units";

const places = { afloat: "afloat", "hose-leg": "on a hose at the leg", "hose-inlet": "on a hose at the strainer" };
const ways = { "by-hand": "by hand, ", "leak-run": "a leak run, " };
const outcomes = {
  cured: "cured",
  "not-cured": "not cured",
  unfinished: "not finished",
  tight: "tight, not proved under load",
};
const stages = {
  ready: "ready to start",
  prime: "prime",
  "cold-leaks": "first leak round",
  "warm-up": "warm-up",
  idle: "idle round",
  load: "load",
  "hot-leaks": "last leak round",
  verdict: "verdict",
};

const word = (a: ProvingAct) => (a.words ? `: ${a.words}` : "");
const stage = (a: ProvingAct) => (a.stage ? stages[a.stage] : "");

/** The part of a joint's key that names it: "station/raw-pump". */
const jointName = (key = "") => (key.split("/").pop() ?? key).replace(/-/g, " ");

const says: Record<ProvingAct["do"], (a: ProvingAct, said: Said) => string> = {
  begin: (a) => `begun, ${a.how ? ways[a.how] : ""}${a.where ? places[a.where] : ""}`,
  prime: (a) => (a.water ? `water after ${a.seconds ?? 0} s` : `no water after ${a.seconds ?? 0} s`),
  look: (a) => `${stage(a)}, ${jointName(a.joint)} ${a.state ?? ""}${word(a)}`,
  smell: (a) => `${stage(a)}, ${a.ok ? "nothing to smell or hear" : "something to smell or hear"}${word(a)}`,
  bilge: (a) => (a.ok ? "the bilge is dry" : `the bilge is wet${word(a)}`),
  "next-day": (a) => (a.ok ? "dry the day after" : `drips the day after${word(a)}`),
  "warm-up": () => "the warm-up judged from its recording",
  gauge: (a, said) => `gauge ${said(a.gauge_c ?? 0, "degC")} beside a thermometer at ${said(a.probe_c ?? 0, "degC")}`,
  needle: (a, said) =>
    `needle at ${said(a.gauge_c ?? 0, "degC")} after ${a.minutes ?? 0} min` +
    (a.probe_c === undefined ? "" : `, thermometer ${said(a.probe_c, "degC")}`),
  load: (a) =>
    `${a.minutes ?? 0} min${a.top_rpm ? ` at speed, ${a.top_rpm} rev/min reached` : ""}` +
    (a.held ? ", full speed not allowed here" : ""),
  codes: (a) => `latched codes: ${a.words ?? "none"}`,
  excuse: (a) => `${stage(a)} left out${word(a)}`,
  again: (a) => `${stage(a)} done afresh`,
  sign: (a) => `signed as ${outcomes[a.outcome ?? "unfinished"]}${word(a)}`,
  drop: (a) => `ended without a verdict${word(a)}`,
};

/** What an act of a proving run says in a list. */
export const provingText = (a: ProvingAct | undefined, said: Said) =>
  a ? `Proving run: ${says[a.do](a, said)}` : "Proving run";
