import { useCallback } from "react";
import type { Catalogue, NextCheck, Schemas } from "../../api/client";
import type { JobEntry } from "../../api/writes";
import type { DrawnOf } from "../../ui/drawings";
import { useUnkept } from "../../ui/unkept";
import { lower, type Words } from "../../ui/words";
import { likely, useForeseen } from "./likely";
import {
  allClear,
  asked,
  foundWords,
  graded,
  gradeOf,
  keepLabel,
  manyFrom,
  marked,
  meaning,
  statedOf,
  type Mark,
  type Marks,
  type OneOf,
  type Worn,
} from "./outcome";

interface Of {
  job: string;
  catalogue: Catalogue;
  possible: Set<string>;
  check: Schemas["Check"];
  words: Words;
  next: NextCheck;
  /** The findings that this engine can have. */
  open: string[];
  drawn: DrawnOf;
  onKeep: (entry: JobEntry, label: string) => void;
}

/** The answers of a check as they are tapped, and what keeps them. A list on a desk, a dock on a phone draw them. */
export interface Answers {
  id: string;
  check: string;
  /** What must be so first, then what can hurt at it, each by its name. */
  before: string[];
  words: Words;
  /** What an answer looks like. */
  drawn: DrawnOf["answer"];
  marks: Marks;
  took: number;
  worn: Worn[];
  oneOf: OneOf[];
  single: string[];
  /** The one finding, where the check settles no other: one tap says all. */
  only?: string;
  /** Something was tapped. */
  some: boolean;
  /** Something was not, and may be said to be clear. */
  left: boolean;
  /** So many that they are told by a round of readings, not one by one. */
  many: boolean;
  saveLabel: string;
  means: (finding: string) => string;
  setTook: (minutes: number) => void;
  /** A tap on a single thing. */
  tap: (finding: string, m: Mark | undefined) => void;
  /** A tap on a grade of wear: saved at once where nothing else is asked. */
  tapGrade: (w: Worn, tap: string) => void;
  save: () => void;
  /** Saves one answer that is all that was asked. */
  saveOnly: (m: Mark) => void;
  saveClear: () => void;
  inconclusive: () => void;
  skipped: () => void;
  ways: Ways;
}

/** What the answers are headed by, and what the ways out are called: it told nothing, and it was not made. */
type Ways = Record<"question" | "inconclusive" | "skipped", string>;
const looked: Ways = { question: "What did you find?", inconclusive: "Inconclusive", skipped: "Cannot get at it" };
const told: Ways = { question: "What were you told?", inconclusive: "They do not know", skipped: "Nobody to ask" };

export function useAnswers({ job, catalogue, possible, check, words, next, open, drawn, onKeep }: Of): Answers {
  const [{ marks, took }, setDraft, forget] = useUnkept(job, check.label, {
    marks: {} as Marks,
    took: Math.round(next.minutes + next.access_minutes),
  });
  const tap = useCallback(
    (id: string, m: Mark | undefined) => setDraft((d) => ({ ...d, marks: marked(catalogue, d.marks, id, m) })),
    [setDraft, catalogue],
  );
  const limited = { ...check, settles: open };
  const { worn, oneOf, single } = asked(catalogue, open);
  const choice = (g: OneOf) => g.options.some((id) => marks[id] === "present");
  // one tap says all
  const alone = single.length + oneOf.length === 0 && worn.length === 1 && worn.every((w) => w.heavy.length === 1);
  const keep = (m: Marks) => {
    const stated = statedOf(limited, m, worn);
    const label = `${check.label}: ${foundWords(limited, m, words.finding)}`;
    onKeep({ kind: "check", check: check.id, outcome: "done", minutes: took, stated }, label);
    forget();
  };
  const ways = check.asks ? told : looked;
  const without = (outcome: "inconclusive" | "skipped") => {
    const minutes = outcome === "skipped" ? 0 : took;
    onKeep({ kind: "check", check: check.id, outcome, minutes }, `${check.label}: ${lower(ways[outcome])}`);
    forget();
  };
  useForeseen(job, likely({ catalogue, check: limited, marks, minutes: took, worn, oneOf, single }));
  const only = open.length === 1 ? open[0] : undefined;
  return {
    id: check.id,
    check: check.label,
    before: [...(next.before ?? []).map((s) => s.label), ...cautionsOf(catalogue, next.cautions ?? check.cautions)],
    words,
    drawn: drawn.answer,
    marks,
    took,
    worn,
    oneOf,
    single,
    only,
    some: open.some((id) => marks[id]),
    // a question of which one answer is always so, as how much water comes, cannot be said to be clear
    left:
      !alone &&
      oneOf.every(choice) &&
      (single.some((id) => !marks[id]) || worn.some((w) => gradeOf(w, marks).length === 0)),
    many: single.length + oneOf.length + worn.length >= manyFrom,
    saveLabel: keepLabel(limited, marks, words.finding),
    means: (id) => meaning(catalogue, id, possible, words, check.point),
    setTook: (minutes) => setDraft((d) => ({ ...d, took: minutes })),
    tap,
    tapGrade: (w, answer) =>
      alone ? keep(graded(w, marks, answer)) : setDraft((d) => ({ ...d, marks: graded(w, d.marks, answer) })),
    save: () => keep(marks),
    saveOnly: (m) => only && keep({ [only]: m }),
    saveClear: () => keep(allClear(limited, marks)),
    inconclusive: () => without("inconclusive"),
    skipped: () => without("skipped"),
    ways,
  };
}

const cautionsOf = (c: Catalogue, ids: string[]) => c.cautions.filter((k) => ids.includes(k.id)).map((k) => k.label);
