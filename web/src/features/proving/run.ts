import { signed } from "../../ui/units";
import type { JobPage, ProvingAct, ProvingRun, RunStage, Schemas } from "../../api/client";
import type { JobEntry } from "../../api/writes";
import type { Units } from "../../ui/units";
import type { Words } from "../../ui/words";

export type OnRun = (act: Omit<ProvingAct, "run">, label: string) => void;
export type StageID = Schemas["RunStageID"];

/** What every stage is given. */
export interface StageOf {
  page: JobPage;
  run: ProvingRun;
  stage: RunStage;
  words: Words;
  units: Units;
  onRun: OnRun;
  onKeep: (entry: JobEntry, label: string, photo?: Blob) => void;
  onStage: (s: StageID) => void;
}

export const whereWords: Record<Schemas["RunWhere"], { label: string; say: string }> = {
  afloat: { label: "Afloat", say: "The water is the sea's: everything can be proved." },
  "hose-leg": { label: "Hose on the drive leg", say: "Ashore: the flow is the hose's, not the sea's." },
  "hose-inlet": { label: "Hose at the strainer", say: "The flow is the hose's, and the suction side is passed by." },
};

/** How a run proves: by readings where it says nothing else. */
export type How = Schemas["RunHow"] | "readings";

export const howWords: Record<How, { label: string; say: string }> = {
  readings: {
    label: "By readings",
    say: "Rounds of readings and a recorded warm-up, judged against what this engine should read.",
  },
  "by-hand": { label: "By hand", say: "A watch and a thermometer: water, needle, minutes at speed, dry joints." },
  "leak-run": { label: "Leak run", say: "Ten minutes at the berth: tight, and not proved under load." },
};

export const outcomeWords: Record<Schemas["RunOutcome"], string> = {
  cured: "Cured",
  "not-cured": "Not cured",
  unfinished: "Not finished",
  tight: "Tight, not proved under load",
};

export const standingWords: Record<Schemas["Standing"], string> = {
  waiting: "to do",
  passed: "passed",
  failed: "failed",
  excused: "left out, with a reason",
};

export const jointWords: Record<Schemas["JointState"], string> = { dry: "Dry", damp: "Damp", drips: "Drips" };

const settled = (s: Schemas["Standing"]) => s === "passed" || s === "excused";

/** The stage that is next: the first that waits or failed, else the verdict; a failed one is not passed by unasked. */
export function nextStage(run: ProvingRun): StageID {
  return run.stages.find((x) => !settled(x.standing) && x.id !== "verdict")?.id ?? "verdict";
}

/** The stage to go on with all the same after one that failed. */
export function stageAfter(run: ProvingRun, stage: StageID): Schemas["RunStage"] | undefined {
  const at = run.stages.findIndex((x) => x.id === stage);
  return run.stages.slice(at + 1).find((x) => !settled(x.standing));
}

/** A figure before and after, in words. */
export function gainWords(g: Schemas["Gained"]): { before: string; after: string } {
  const say = (v: number, error: number) =>
    g.ratio
      ? `${Math.round(100 * v)} ± ${Math.max(1, Math.round(100 * error))} %`
      : `${signed(v)} ± ${error.toFixed(1)} °C`;
  return { before: say(g.before, g.before_error), after: say(g.after, g.after_error) };
}
