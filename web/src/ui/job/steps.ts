import type { JobPage } from "../../api/client";

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
export function verdictOf(page: JobPage): "" | "cured" | "not-cured" {
  const run = runOf(page);
  return run?.signed ? (run.outcome === "cured" ? "cured" : "not-cured") : "";
}

/** The five steps of a job, each with its state. */
export function stepsOf(page: JobPage): JobStep[] {
  const at = `/jobs/${page.card.id}`;
  const steps: [Step, string, string, string][] = [
    ["complaint", "Complaint", complaint(page), `${at}?pane=complaint`],
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

function find(page: JobPage) {
  const found = page.card.faults.length;
  if (found > 0) return `${found} found`;
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
  if (verdict === "cured" && page.diagnosis.found.length > 0) return "found since";
  return verdict === "cured" ? "cured" : verdict === "not-cured" ? "not cured" : "run goes on";
}

/** The step that is next. */
export function nextStep(page: JobPage): Step {
  const { found } = page.diagnosis;
  const verdict = verdictOf(page);
  if (page.closed || (verdict === "cured" && found.length === 0)) return "report";
  if (runOf(page) && !verdict) return "prove";
  if (found.length > 0 && !seenTo(page)) return "repair";
  if (verdict === "not-cured") return "find";
  if (seenTo(page)) return page.hands.ready ? "prove" : "repair";
  return page.findings.length === 0 && page.checks.length === 0 ? "complaint" : "find";
}
