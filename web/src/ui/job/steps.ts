import type { JobPage, Schemas } from "../../api/client";
import { isUnnamed } from "./unnamed";

export type Step = "complaint" | "find" | "repair" | "prove" | "report";

/** The way of a job, and how far each step is. */
export interface JobStep {
  id: Step;
  label: string;
  /** How it stands, in words. */
  state: string;
  to: string;
}

const count = (n: number, one: string) => `${n} ${one}${n === 1 ? "" : "s"}`;

/** The last run that was not dropped. */
export const runOf = (page: JobPage) => [...page.proving.runs].reverse().find((r) => !r.dropped);

/** Everything that was found is put right, as far as anybody said or a new part tells. */
export const seenTo = (page: JobPage) =>
  page.diagnosis.found.every((f) => page.repaired.some((r) => r.fault === f)) &&
  page.diagnosis.found.length + page.repaired.length > 0;

/** The verdict of the last run that was signed; empty while there is none, or another run goes on after it. */
export function verdictOf(page: JobPage): "" | "cured" | "not-cured" | "tight" {
  const run = runOf(page);
  if (!run?.signed) return "";
  return run.outcome === "cured" || run.outcome === "tight" ? run.outcome : "not-cured";
}

/** Whether the last run that was signed proves what a job of this kind asks for: a leak run that nothing leaks. */
export const isProved = (page: JobPage) =>
  verdictOf(page) === "cured" || (verdictOf(page) === "tight" && page.kind.ends !== "proved");

/** What of a plan is still to be done. */
export const toDo = (page: JobPage) => page.plan.filter((p) => !p.done);

const planned = (page: JobPage) => page.kind.begins === "plan";

/** The five steps of a job, each with its state. */
export function stepsOf(page: JobPage): JobStep[] {
  const at = `/jobs/${page.card.id}`;
  const steps: [Step, string, string, string][] = [
    planned(page)
      ? ["complaint", "Plan", plan(page), `${at}?pane=plan`]
      : ["complaint", "Complaint", complaint(page), `${at}?pane=complaint`],
    ["find", "Find", find(page), `${at}?pane=next`],
    ["repair", "Repair", repair(page), `${at}/teardown`],
    ["prove", "Prove", prove(page), `${at}/proving`],
    ["report", "Report", page.closed ? "closed" : "as it stands", `${at}/report`],
  ];
  return steps.map(([id, label, state, to]) => ({ id, label, state, to }));
}

function complaint(page: JobPage) {
  const signs = page.card.complaint.length;
  return signs > 0 ? count(signs, "sign") : page.card.words ? "in words" : "nothing told";
}

function plan(page: JobPage) {
  const left = toDo(page).length;
  if (page.plan.length === 0) return "nothing chosen";
  return left === 0 ? "all done" : `${page.plan.length - left} of ${page.plan.length} done`;
}

function find(page: JobPage) {
  const found = page.card.faults.length;
  if (found > 0) return `${found} found`;
  if (planned(page) && page.checks.length === 0) return "no cause asked";
  return page.checks.length > 0 ? count(page.checks.length, "check") : "not begun";
}

function repair(page: JobPage) {
  const open = page.hands.conditions.filter((c) => c.stands && !c.ok && !c.overridden).length;
  if (open > 0) return `${open} open`;
  if (seenTo(page)) return "put right";
  return page.hands.items.length > 0 ? "closed up" : "not begun";
}

function prove(page: JobPage) {
  const run = runOf(page);
  if (!run) return "no run yet";
  const verdict = verdictOf(page);
  if (isProved(page) && page.diagnosis.found.length > 0) return "found since";
  return verdict ? verdictWords[verdict].toLowerCase() : "run goes on";
}

/** A verdict in words. */
export const verdictWords = { cured: "Cured", "not-cured": "Not cured", tight: "Tight, not proved under load" };

/** What makes a step the next one, the first that is so. */
const rules: [(page: JobPage) => boolean, (page: JobPage) => Step][] = [
  [(p) => !!p.closed || (isProved(p) && nothingFound(p) && toDo(p).length === 0), () => "report"],
  [(p) => !!runOf(p) && !verdictOf(p), () => "prove"],
  [(p) => planned(p) && nothingFound(p), nextOfPlan],
  [(p) => !nothingFound(p) && !seenTo(p), () => "repair"],
  [(p) => verdictOf(p) === "not-cured", () => "find"],
  [seenTo, (p) => (p.hands.ready ? "prove" : "repair")],
  // a hot engine that nobody named yet goes to its first check: what it shows was touched already
  [(p) => p.findings.length === 0 && p.checks.length === 0 && !isUnnamed(p.craft.name), () => "complaint"],
];

const nothingFound = (page: JobPage) => page.diagnosis.found.length === 0;

/** The step that is next. */
export const nextStep = (page: JobPage): Step => rules.find(([is]) => is(page))?.[1](page) ?? "find";

/** Of a plan: the work that is next, then a short proof. */
function nextOfPlan(page: JobPage): Step {
  const [first] = toDo(page);
  if (page.plan.length === 0) return "complaint";
  if (!first) return page.hands.ready ? "prove" : "repair";
  return first.task ? "repair" : "complaint";
}

/**
 * How a run of the job usually proves: a leak or a service by a leak run; by readings where there are some, which is
 * told by nothing; else by a watch and a thermometer.
 */
export function usualHow({ kind, proving, rounds }: JobPage): Schemas["RunHow"] | undefined {
  if (kind.ends !== "proved") return "leak-run";
  return proving.has_feed || proving.recordings.length > 0 || rounds.length > 0 ? undefined : "by-hand";
}
