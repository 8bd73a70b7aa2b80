import { signed } from "../units";
import type { ProvingAct, ProvingRun, Schemas } from "../../api/client";

export type OnRun = (act: Omit<ProvingAct, "run">, label: string) => void;
export type StageID = Schemas["RunStageID"];

export const whereWords: Record<Schemas["RunWhere"], { label: string; say: string }> = {
  afloat: { label: "Afloat", say: "The water is the sea's: everything can be proved." },
  "hose-leg": { label: "Hose on the drive leg", say: "Ashore: the flow is the hose's, not the sea's." },
  "hose-inlet": { label: "Hose at the strainer", say: "The flow is the hose's, and the suction side is passed by." },
};

export const outcomeWords: Record<Schemas["RunOutcome"], string> = {
  cured: "Cured",
  "not-cured": "Not cured",
  unfinished: "Not finished",
};

export const standingWords: Record<Schemas["Standing"], string> = {
  waiting: "to do",
  passed: "passed",
  failed: "failed",
  excused: "left out, with a reason",
};

export const jointWords: Record<Schemas["JointState"], string> = { dry: "Dry", damp: "Damp", drips: "Drips" };

/** The stage that is next: the first that failed, else the first that waits, else the verdict. */
export function nextStage(run: ProvingRun): StageID {
  const first = (s: Schemas["Standing"]) => run.stages.find((x) => x.standing === s && x.id !== "verdict");
  return (first("waiting") ?? first("failed"))?.id ?? "verdict";
}

/** A figure before and after, in words. */
export function gainWords(g: Schemas["Gained"]): { before: string; after: string } {
  const say = (v: number, error: number) =>
    g.ratio
      ? `${Math.round(100 * v)} ± ${Math.max(1, Math.round(100 * error))} %`
      : `${signed(v)} ± ${error.toFixed(1)} K`;
  return { before: say(g.before, g.before_error), after: say(g.after, g.after_error) };
}
