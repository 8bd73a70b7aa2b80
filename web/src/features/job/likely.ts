import { useEffect } from "react";
import type { Catalogue, Schemas } from "../../api/client";
import { foresee } from "../../api/foresee";
import type { JobEntry } from "../../api/writes";
import { allClear, graded, marked, statedOf, type Marks, type OneOf, type Worn } from "./outcome";

interface Of {
  catalogue: Catalogue;
  /** It settles what this engine can have. */
  check: Schemas["Check"];
  marks: Marks;
  minutes: number;
  worn: Worn[];
  oneOf: OneOf[];
  single: string[];
}

/** Answers thought through at most: a phone has a battery. */
const most = 8;

/**
 * The answers that a check may get next: what was tapped, alone and with none of the others; while nothing was, all
 * clear, each single thing, and that it told nothing.
 */
export function likely({ catalogue, check, marks, minutes, worn, oneOf, single }: Of): JobEntry[] {
  const told = { kind: "check", check: check.id, minutes } as const;
  const of = (m: Marks): JobEntry => ({ ...told, outcome: "done", stated: statedOf(check, m, worn) });
  const clear = of(allClear(check, marks));
  if (Object.values(marks).some(Boolean)) return [of(marks), clear];
  return [
    clear,
    ...single.map((id) => of({ [id]: "present" })),
    ...worn.flatMap((w) => [w.light, ...w.heavy].map((id) => of(graded(w, {}, id)))),
    ...oneOf.flatMap((g) => g.options.map((id) => of(marked(catalogue, {}, id, "present")))),
    { ...told, outcome: "inconclusive" } as const,
  ].slice(0, most);
}

/** Has the phone's own program think ahead about these answers, as long as they are the ones that may come. */
export function useForeseen(job: string, answers: JobEntry[]) {
  const list = JSON.stringify(answers);
  useEffect(() => foresee(job, JSON.parse(list) as JobEntry[]), [job, list]);
}
